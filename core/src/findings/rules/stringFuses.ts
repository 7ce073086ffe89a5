import type { FindingRule } from '../finding';

/** Three or more strings in parallel without a fuse in each. */
export const stringFuses: FindingRule = {
  code: 'stringFuses',
  belongsTo: 'system',
  check: ({ plan }) => {
    const { bank } = plan.input.system;
    if (bank.stringsInParallel < 3 || bank.stringFuseA !== undefined) return [];
    return [
      {
        code: 'stringFuses',
        severity: 'attention',
        text: `${bank.stringsInParallel} strings stand in parallel without a fuse in each.`,
        hurts: 'All other strings feed a fault in one of them. Local codes and a licensed electrician decide on the fuse.',
        remedies: [],
      },
    ];
  },
};
