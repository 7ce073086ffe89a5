import { jobRule } from '../rule';

/** A main fuse that cannot break what the bank drives into a short. */
export const fuseCannotBreak = jobRule(
  (plan) => {
    const { fuseA, fuseBreaksA, shortCircuitA } = plan.input.system.bank;
    if (fuseA === undefined || shortCircuitA === undefined || (fuseBreaksA ?? 0) >= shortCircuitA) return null;
    return { severity: 'attention', facts: { shortCircuitA, breaksA: fuseBreaksA ?? null } };
  },
  { belongsTo: 'system' },
);
