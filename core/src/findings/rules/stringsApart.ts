import { per12 } from '../../settings';
import { stringsMayDiffer } from '../../system';
import { jobRule } from '../rule';

/** Strings at different voltages, about to be joined in parallel. */
export const stringsApart = jobRule(
  (plan) => {
    const list = plan.input.system.bank.firstCharge?.stringVolts ?? [];
    if (list.length < 2) return null;
    const [lowV, highV] = [Math.min(...list), Math.max(...list)];
    const mostV = per12(plan, stringsMayDiffer);
    return highV - lowV <= mostV + 1e-9 ? null : { severity: 'stop', facts: { lowV, highV, mostV } };
  },
  { belongsTo: 'system' },
);
