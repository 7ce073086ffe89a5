import { mostAmps } from '../../settings';
import { chargerAmpacity, continuousFuseFactor } from '../../system';
import { judged, standingAmps } from '../places';
import { chargerRule, recording } from '../rule';

type PastOwnFuse =
  | { readonly past: 'fuse'; readonly found: boolean; readonly givesA: number; readonly fuseA: number; readonly carriesA: number }
  | { readonly past: 'cable'; readonly found: boolean; readonly givesA: number; readonly cableA: number };

/** One charger that can push past its own fuse or cable, as it will be set or as it was found. */
export const pastOwnFuse = chargerRule<PastOwnFuse>(
  ({ charger, card }, plan) => {
    const carriesA = charger.fuseA === undefined ? Infinity : charger.fuseA * continuousFuseFactor;
    const cableA = chargerAmpacity(charger) ?? Infinity;
    const bearsA = Math.min(carriesA, cableA) + 1e-9;
    const [setA, foundA] = [mostAmps(plan, charger, card), standingAmps(plan, charger, card)];
    if (Math.max(setA, foundA) <= bearsA) return null;
    const found = setA <= bearsA;
    const givesA = found ? foundA : setA;
    const limit = plan.setting(charger.id, 'chargeCurrentLimit');
    return {
      severity: 'stop',
      role: 'chargeCurrentLimit',
      facts: carriesA <= cableA ? { past: 'fuse', found, givesA, fuseA: charger.fuseA ?? 0, carriesA } : { past: 'cable', found, givesA, cableA },
      remedies: found && limit && judged(limit)?.found && typeof limit.value === 'number' ? [recording(limit, limit.value)] : [],
    };
  },
  { belongsTo: 'system' },
);
