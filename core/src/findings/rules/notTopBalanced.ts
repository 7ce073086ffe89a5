import { isLithium } from '../../sheet';
import { jobRule } from '../rule';

/** New lithium cells before their first charge, not balanced at the top. */
export const notTopBalanced = jobRule(
  (plan) => {
    const first = plan.input.system.bank.firstCharge;
    if (!isLithium(plan.input.sheet.chemistry) || !first || first.topBalanced) return null;
    return {
      severity: 'attention',
      facts: { cells: plan.facts.cells },
      remedies: [{ does: 'recordBalanced', changes: [{ kind: 'setBank', values: { firstCharge: { ...first, topBalanced: true } } }] }],
    };
  },
  { belongsTo: 'system' },
);
