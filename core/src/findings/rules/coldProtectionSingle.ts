import { coldGuards } from '../../settings';
import { statedFigure } from '../../sheet';
import { chargerRule } from '../rule';

/** Two cold protections were chosen, and a source has one. */
export const coldProtectionSingle = chargerRule(
  'coldProtectionSingle',
  ({ charger, card }, plan) => {
    const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
    if (plan.input.schools.coldProtection !== 'two' || least === undefined || plan.input.system.site.bankLowC >= least) return null;
    const working = coldGuards(plan, charger, card).filter((g) => g.works);
    if (working.length !== 1) return null;
    const words = { charger: 'its own cutoff', bms: 'the BMS', relay: 'a relay' } as const;
    return {
      severity: 'attention',
      role: 'lowTempCutoff',
      text: `${charger.name} has one working cold protection, ${words[working[0]?.kind ?? 'charger']}; two were chosen.`,
      hurts: 'When the one fails, nobody notices until the cells are harmed.',
      remedies: [{ label: 'One that works is enough', changes: [{ kind: 'setSchool', school: 'coldProtection', to: 'anyThatWorks' }] }],
    };
  },
  { belongsTo: 'system' },
);
