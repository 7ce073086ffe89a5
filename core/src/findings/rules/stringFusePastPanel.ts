import { arrayRule } from '../arrays';

/** A string fuse larger than the panels’ label allows. */
export const stringFusePastPanel = arrayRule(({ array: { panel, stringFuseA } }) =>
  stringFuseA === undefined || panel.maxFuseA === undefined || stringFuseA <= panel.maxFuseA + 1e-9
    ? null
    : { severity: 'stop', facts: { fuseA: stringFuseA, maxFuseA: panel.maxFuseA } },
);
