import { provingMeter } from '../../settings';
import type { FindingRule } from '../finding';

/** A proving instrument whose calibration has run out. */
export const meterPastCalibration: FindingRule<{ meter: string; due: string }> = {
  belongsTo: 'system',
  check: ({ plan, today }) => {
    const { name, calibrationDue } = provingMeter(plan.input);
    if (!calibrationDue || calibrationDue >= today.slice(0, calibrationDue.length)) return [];
    return [{ severity: 'attention', facts: { meter: name, due: calibrationDue } }];
  },
};
