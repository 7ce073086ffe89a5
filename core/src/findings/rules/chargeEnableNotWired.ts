import { jobRule } from '../rule';

/** A BMS whose charge-enable contact goes nowhere: it can only cut the whole bank off. */
export const chargeEnableNotWired = jobRule(
  'chargeEnableNotWired',
  (plan) => {
    const { bank } = plan.input.system;
    if (!bank.hasBms || bank.chargeEnable !== 'notWired') return null;
    return {
      severity: 'attention',
      text: 'The charge-enable contact of the BMS is not wired to the chargers.',
      hurts:
        'When one cell is full it can only disconnect the running system. Wire it to enable inputs, field and brake; never rely on the BMS to stop charging.',
      remedies: [{ label: 'It is wired now', changes: [{ kind: 'setBank', values: { chargeEnable: 'wired' } }] }],
    };
  },
  { belongsTo: 'system' },
);
