import { chargerAmpacity, continuousFuseFactor } from '../../system';
import { mostAmps } from '../places';
import { chargerRule } from '../rule';

type PastOwnFuse =
  | { readonly past: 'fuse'; readonly givesA: number; readonly fuseA: number; readonly carriesA: number }
  | { readonly past: 'cable'; readonly givesA: number; readonly cableA: number };

/** One charger that can push past its own fuse or cable. */
export const pastOwnFuse = chargerRule<PastOwnFuse>(
  ({ charger, card }, plan) => {
    const givesA = mostAmps(plan, charger, card);
    const carriesA = charger.fuseA === undefined ? Infinity : charger.fuseA * continuousFuseFactor;
    const cableA = chargerAmpacity(charger) ?? Infinity;
    if (givesA <= Math.min(carriesA, cableA) + 1e-9) return null;
    return {
      severity: 'stop',
      role: 'chargeCurrentLimit',
      facts: carriesA <= cableA ? { past: 'fuse', givesA, fuseA: charger.fuseA ?? 0, carriesA } : { past: 'cable', givesA, cableA },
    };
  },
  { belongsTo: 'system' },
);
