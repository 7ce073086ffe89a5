import { deviceRange, parameterFor, roleInfo } from '../../card';
import { contains } from '../../quantity';
import { cardOf, devicesOf } from '../../settings';
import { readingOf, settingRule } from '../rule';

/** A device whose range ends before the sheet's figure: it cannot meet the sheet, and that must be written down. */
export const rangeCannotReach = settingRule((s, plan) => {
  if (s.override || s.band === null || s.within !== 'outside' || roleInfo[s.role].unit !== 'V' || typeof s.exact !== 'number' || s.trueValue === null)
    return null;
  const device = devicesOf(plan.input).find((c) => c.id === s.charger);
  const card = device && cardOf(plan.input, device);
  const parameter = card && parameterFor(card, s.role);
  if (!parameter || parameter.unit === 'choice') return null;
  const range = deviceRange(parameter, plan.facts.systemVolts ?? plan.facts.nominalVolts);
  if (contains(range, s.exact)) return null;
  return {
    severity: 'attention',
    facts: { role: s.role, from: readingOf(s, range.min), to: readingOf(s, range.max), wantedV: s.exact, nearestV: s.trueValue },
  };
});
