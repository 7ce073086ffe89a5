import { assumedOfBattery, assumedValue, notSaid } from '../../settings';
import { hasBegun } from '../places';
import { jobRule } from '../rule';

/** The battery itself is still the one a new job begins with, and figures or chargers rest on it. */
export const batteryNotSaid = jobRule(
  (plan) => {
    const { input } = plan;
    const keys = notSaid(input).filter((key) => assumedOfBattery.includes(key));
    if (keys.length === 0 || !hasBegun(plan)) return null;
    return {
      severity: 'stop',
      facts: { rows: keys.map((what) => ({ what, value: assumedValue(input, what) })) },
      remedies: [{ does: 'asAssumed', changes: [{ kind: 'confirmAssumed', what: keys }] }],
    };
  },
  { belongsTo: 'sheet' },
);
