import { isLithium } from '../../sheet';
import { jobRule } from '../rule';

/** New lithium cells before their first charge, not balanced at the top. */
export const notTopBalanced = jobRule(
  'notTopBalanced',
  (plan) => {
    const first = plan.input.system.bank.firstCharge;
    if (!isLithium(plan.input.sheet.chemistry) || !first || first.topBalanced) return null;
    return {
      severity: 'attention',
      text: `The ${plan.facts.cells} cells in series have not been balanced at the top before their first charge.`,
      hurts: 'One cell reaches its limit at a pack voltage that looks harmless, and the BMS opens.',
      remedies: [{ label: 'They are balanced now', changes: [{ kind: 'setBank', values: { firstCharge: { ...first, topBalanced: true } } }] }],
    };
  },
  { belongsTo: 'system' },
);
