import { arrayRule } from '../arrays';

/** Three or more strings side by side without a fuse in each. */
export const arrayStringFuses = arrayRule(({ array }) =>
  array.inParallel < 3 || array.stringFuseA !== undefined ? null : { severity: 'attention', facts: { strings: array.inParallel } },
);
