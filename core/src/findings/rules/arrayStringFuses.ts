import { arrayRule } from '../arrays';

/** Three or more strings side by side without a fuse in each. */
export const arrayStringFuses = arrayRule('arrayStringFuses', ({ charger, array }) =>
  array.inParallel < 3 || array.stringFuseA !== undefined
    ? null
    : {
        severity: 'attention',
        text: `${array.inParallel} strings of panels stand side by side on ${charger.name} without a fuse in each.`,
        hurts: 'The other strings feed a fault in one of them. Local codes and a licensed electrician decide on the fuse.',
      },
);
