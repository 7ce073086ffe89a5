import { jobRule } from '../rule';

/** Three or more strings in parallel without a fuse in each. */
export const stringFuses = jobRule(
  (plan) => {
    const { stringsInParallel, stringFuseA } = plan.input.system.bank;
    return stringsInParallel < 3 || stringFuseA !== undefined ? null : { severity: 'attention', facts: { strings: stringsInParallel } };
  },
  { belongsTo: 'system' },
);
