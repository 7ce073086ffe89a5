import { roleInfo } from '../../card';
import { settingRule } from '../rule';

/** A device step so coarse that the value lies further from what is worked out than its tolerance, where no band judges it. */
export const stepPastTolerance = settingRule((s) => {
  if (s.override || s.inherited || s.tolerance === null || s.deviation === null || typeof s.exact !== 'number' || s.trueValue === null) return null;
  // What is asked to be as little as the device can is no failing of its step.
  if (Math.abs(s.deviation) <= s.tolerance + 1e-9 || roleInfo[s.role].unit === 'choice' || s.exact === 0) return null;
  return { severity: 'attention', facts: { role: s.role, holds: s.trueValue, wanted: s.exact, tolerance: s.tolerance } };
});
