import { parameterFor } from '../../card';
import { coldGuards, isAsked, type ColdGuardFault } from '../../settings';
import { isLithium, statedFigure } from '../../sheet';
import { readsBattery } from '../../system';
import { chargerRule, fittingSensor } from '../rule';

/** A source without a working cold protection of its own, or not where it was chosen to live, at a place where the bank gets colder than the sheet allows. */
export const coldProtection = chargerRule(
  ({ charger, card }, plan) => {
    const leastC = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
    const bankLowC = plan.input.system.site.bankLowC;
    if (leastC === undefined || bankLowC >= leastC) return null;
    const guards = coldGuards(plan, charger, card);
    const asked = guards.filter((g) => isAsked(plan.input, g));
    if (asked.some((g) => g.works)) return null;
    const faults = (asked.length > 0 ? asked : guards).flatMap((g): ColdGuardFault[] => (g.fault ? [g.fault] : []));
    const has = parameterFor(card, 'lowTempCutoff') !== undefined && card.sensor.usedFor.includes('cutoff');
    return {
      severity: 'stop',
      role: 'lowTempCutoff',
      facts: { faults, chosen: plan.input.schools.coldProtection, bankLowC, leastC, lithium: isLithium(plan.input.sheet.chemistry) },
      remedies: [
        ...(has && !readsBattery(charger, card) ? [fittingSensor(charger.id)] : []),
        ...(guards.some((g) => g.works)
          ? [{ does: 'anyProtection', changes: [{ kind: 'setSchool', school: 'coldProtection', to: 'anyThatWorks' }] } as const]
          : []),
      ],
    };
  },
  { belongsTo: 'system' },
);
