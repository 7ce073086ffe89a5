import { coldGuards } from '../../settings';
import { statedFigure } from '../../sheet';
import { chargerRule } from '../rule';

/** Two cold protections were chosen, and a source has one. */
export const coldProtectionSingle = chargerRule(
  ({ charger, card }, plan) => {
    const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
    if (plan.input.schools.coldProtection !== 'two' || least === undefined || plan.input.system.site.bankLowC >= least) return null;
    const working = coldGuards(plan, charger, card).filter((g) => g.works);
    const only = working[0];
    if (working.length !== 1 || !only) return null;
    return {
      severity: 'attention',
      role: 'lowTempCutoff',
      facts: { only: only.kind },
      remedies: [{ does: 'anyProtection', changes: [{ kind: 'setSchool', school: 'coldProtection', to: 'anyThatWorks' }] }],
    };
  },
  { belongsTo: 'system' },
);
