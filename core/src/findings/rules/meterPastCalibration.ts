import { provingMeter } from '../../settings';
import type { FindingRule } from '../finding';

/** A proving instrument whose calibration has run out. */
export const meterPastCalibration: FindingRule = {
  code: 'meterPastCalibration',
  belongsTo: 'system',
  check: ({ plan, today }) => {
    const meter = provingMeter(plan.input);
    if (!meter.calibrationDue || meter.calibrationDue >= today.slice(0, meter.calibrationDue.length)) return [];
    return [
      {
        code: 'meterPastCalibration',
        severity: 'attention',
        text: `${meter.name} was due for calibration ${meter.calibrationDue}.`,
        hurts: 'Its ± is a promise that has run out, and so are the verdicts that rest on it.',
        remedies: [],
      },
    ];
  },
};
