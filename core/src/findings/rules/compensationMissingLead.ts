import { isUnknown, parameterFor } from '../../card';
import { isLithium } from '../../sheet';
import { readsBattery } from '../../system';
import { chargerRule } from '../rule';

/** A lead bank on a charger that cannot follow its temperature. */
export const compensationMissingLead = chargerRule(({ charger, card }, plan) => {
  if (isLithium(plan.input.sheet.chemistry)) return null;
  const { bankLowC, bankHighC } = plan.input.system.site;
  const has = parameterFor(card, 'compensationSlope') !== undefined;
  const reads = readsBattery(charger, card) && card.sensor.usedFor.includes('compensation');
  const slope = plan.setting(charger.id, 'compensationSlope')?.trueValue ?? null;
  if (has && reads && slope !== 0) return null;
  return {
    severity: 'attention',
    role: 'compensationSlope',
    facts: {
      why: !has
        ? ('none' as const)
        : slope === 0
          ? ('off' as const)
          : charger.sensor.fitted === undefined || isUnknown(card, 'sensorKind') || isUnknown(card, 'sensorUse')
            ? ('sensorNotKnown' as const)
            : ('noSensor' as const),
      bankLowC,
      bankHighC,
    },
  };
});
