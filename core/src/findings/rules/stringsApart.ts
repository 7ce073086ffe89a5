import { per12 } from '../../settings';
import { stringsMayDiffer } from '../../system';
import { jobRule } from '../rule';
import { volts } from '../words';

/** Strings at different voltages, about to be joined in parallel. */
export const stringsApart = jobRule(
  'stringsApart',
  (plan) => {
    const list = plan.input.system.bank.firstCharge?.stringVolts ?? [];
    if (list.length < 2) return null;
    const apart = Math.max(...list) - Math.min(...list);
    const most = per12(plan, stringsMayDiffer);
    if (apart <= most + 1e-9) return null;
    return {
      severity: 'stop',
      text: `The strings rest at ${volts(Math.min(...list))} to ${volts(Math.max(...list))}, ${volts(apart)} apart; join them when they are within ${volts(most)}.`,
      hurts: 'Joined like this, one drives hundreds of amps into the other. Charge each by itself to the same voltage first.',
    };
  },
  { belongsTo: 'system' },
);
