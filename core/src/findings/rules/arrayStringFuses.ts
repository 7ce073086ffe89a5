import { backAmps, needsStringFuses } from '../../system';
import { arrayRule } from '../arrays';

/** Strings side by side without a fuse in each that need one. */
export const arrayStringFuses = arrayRule<{ strings: number; backA: number; maxFuseA: number | null }>(({ array: { panel, inParallel, stringFuseA } }) =>
  stringFuseA !== undefined || !needsStringFuses(panel, inParallel)
    ? null
    : { severity: 'attention', facts: { strings: inParallel, backA: backAmps(panel, inParallel), maxFuseA: panel.maxFuseA ?? null } },
);
