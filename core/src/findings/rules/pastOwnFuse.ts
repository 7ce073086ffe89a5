import { chargerAmpacity, continuousFuseFactor } from '../../system';
import { amps, chargersWithCards, mostAmps } from '../words';
import type { FindingRule } from '../finding';

/** One charger that can push past its own fuse or cable. */
export const pastOwnFuse: FindingRule = {
  code: 'pastOwnFuse',
  belongsTo: 'system',
  short: 'Past its fuse',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger, card }) => {
      const limit = mostAmps(plan, charger, card);
      const fuse = charger.fuseA === undefined ? Infinity : charger.fuseA * continuousFuseFactor;
      const cable = chargerAmpacity(charger) ?? Infinity;
      const bears = Math.min(fuse, cable);
      if (limit <= bears + 1e-9) return [];
      return [
        {
          code: 'pastOwnFuse',
          severity: 'stop',
          charger: charger.id,
          role: 'chargeCurrentLimit',
          text: `${charger.name} may give ${amps(limit)}, and its ${fuse <= cable ? `fuse of ${amps(charger.fuseA ?? 0)} carries ${amps(fuse)} all day` : `cable bears ${amps(cable)}`}.`,
          hurts: 'The fuse opens under charge, or the cable runs hot.',
          remedies: [],
        },
      ];
    }),
};
