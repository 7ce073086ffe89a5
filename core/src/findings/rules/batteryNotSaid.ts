import { hasFigures } from '../../sheet';
import { assumedOfBattery, assumedValue, notSaid } from '../../settings';
import { jobRule } from '../rule';

/** The battery itself is still the one a new job begins with, and figures or chargers rest on it. */
export const batteryNotSaid = jobRule(
  ({ input, withheld }) => {
    const keys = notSaid(input).filter((key) => assumedOfBattery.includes(key));
    if (keys.length === 0 || (!hasFigures(input.sheet) && withheld.length === 0 && input.system.chargers.length === 0)) return null;
    return {
      severity: 'stop',
      facts: { rows: keys.map((what) => ({ what, value: assumedValue(input, what) })) },
      remedies: [{ does: 'asAssumed', changes: [{ kind: 'confirmAssumed', what: keys }] }],
    };
  },
  { belongsTo: 'sheet' },
);
