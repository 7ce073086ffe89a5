import { per12 } from '../../settings';
import { jobRule } from '../rule';
import { volts } from '../words';

/** Strings may be joined when their resting volts differ by no more than this, V per 12 V. */
const mayDiffer = 0.05;

/** Strings at different voltages, about to be joined in parallel. */
export const stringsApart = jobRule('stringsApart', (plan) => {
  const list = plan.input.system.bank.firstCharge?.stringVolts ?? [];
  if (list.length < 2) return null;
  const apart = Math.max(...list) - Math.min(...list);
  const most = per12(plan, mayDiffer);
  if (apart <= most + 1e-9) return null;
  return {
    severity: 'stop',
    text: `The strings rest at ${volts(Math.min(...list))} to ${volts(Math.max(...list))}, ${volts(apart)} apart; join them when they are within ${volts(most)}.`,
    hurts: 'Joined like this, one drives hundreds of amps into the other. Charge each by itself to the same voltage first.',
  };
});
