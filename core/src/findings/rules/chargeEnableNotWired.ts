import { jobRule } from '../rule';

/** A BMS whose charge-enable contact goes nowhere: it can only cut the whole bank off. */
export const chargeEnableNotWired = jobRule(
  (plan) => {
    const { bank } = plan.input.system;
    if (!bank.hasBms || bank.chargeEnable !== 'notWired') return null;
    return {
      severity: 'attention',
      facts: {},
      remedies: [{ does: 'recordWired', changes: [{ kind: 'setBank', values: { chargeEnable: 'wired' } }] }],
    };
  },
  { belongsTo: 'system' },
);
