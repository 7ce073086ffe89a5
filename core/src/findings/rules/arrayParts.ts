import { designAmps } from '../../physics';
import { arrayRule } from '../arrays';

type ArrayPart = Readonly<{ part: 'isolator' | 'stringFuse'; ratedA: number; brightA: number }>;

/** Isolator or string fuse of an array rated for less than its bright-light current. */
export const arrayParts = arrayRule<ArrayPart>(({ array, facts }) =>
  (
    [
      ['isolator', array.isolatorA, facts.designA],
      ['stringFuse', array.stringFuseA, designAmps(array.panel, 1)],
    ] as const
  ).flatMap(([part, ratedA, brightA]) =>
    ratedA === undefined || ratedA >= brightA - 1e-9 ? [] : [{ severity: 'attention' as const, facts: { part, ratedA, brightA } }],
  ),
);
