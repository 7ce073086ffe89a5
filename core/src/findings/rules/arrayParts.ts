import { designAmps } from '../../physics';
import { chargersWithCards } from '../places';
import type { FindingRule } from '../finding';

/** Isolator or string fuse of an array rated for less than its bright-light current. */
export const arrayParts: FindingRule<{ part: 'isolator' | 'stringFuse'; ratedA: number; brightA: number }> = {
  belongsTo: 'system',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger }) => {
      const { array } = charger;
      if (!array) return [];
      return (
        [
          ['isolator', array.isolatorA, designAmps(array.panel, array.inParallel)],
          ['stringFuse', array.stringFuseA, designAmps(array.panel, 1)],
        ] as const
      ).flatMap(([part, ratedA, brightA]) =>
        ratedA === undefined || ratedA >= brightA - 1e-9 ? [] : [{ severity: 'attention' as const, charger: charger.id, facts: { part, ratedA, brightA } }],
      );
    }),
};
