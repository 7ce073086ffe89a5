import { deviceRange, isKnown, knownRange, parameterFor } from '../../card';
import { cardOf, devicesOf, trueOf } from '../../settings';
import { readingOf, settingRule } from '../rule';
import type { DeviceReading } from '../finding';
import { rangeVolts } from '../../system';

/** Settings whose being outside the sheet is a finding of its own, however it came about. */
const toldElsewhere: readonly string[] = ['absorbVoltage', 'floatVoltage'];

/** A device whose range ends before the sheet's figure, or whose steps pass over it: it cannot meet the sheet, and that must be written down. */
export const rangeCannotReach = settingRule((s, plan) => {
  if (s.override || s.inherited || s.band === null || s.within !== 'outside' || typeof s.exact !== 'number' || s.trueValue === null) return null;
  // What is wanted is what it holds: that it lies outside the band is another matter.
  if (Math.abs(s.exact - s.trueValue) < 1e-6) return null;
  const device = devicesOf(plan.input).find((c) => c.id === s.charger);
  const card = device && cardOf(plan.input, device);
  const parameter = card && parameterFor(card, s.role);
  if (!parameter || parameter.unit === 'choice') return null;
  const systemVolts = rangeVolts(plan.facts);
  const range = deviceRange(parameter, systemVolts);
  // What the ends make at the battery: a display may count in another unit, or downwards.
  const ends = [range.min, range.max].flatMap((value) => trueOf(plan, s.charger, s.role, value) ?? []);
  const inRange = s.exact >= Math.min(...ends) - 1e-9 && s.exact <= Math.max(...ends) + 1e-9;
  if (inRange && (toldElsewhere.includes(s.role) || !isKnown(parameter, 'step'))) return null;
  const known = knownRange(parameter, systemVolts);
  if (!inRange && known.min === null && known.max === null) return null;
  const reading = (end: number | null): DeviceReading | null => (end === null ? null : readingOf(s, end));
  return {
    severity: 'attention',
    facts: { role: s.role, inRange, from: reading(known.min), to: reading(known.max), wanted: s.exact, nearest: s.trueValue },
  };
});
