import { figureKeys } from '../../sheet';
import { jobRule } from '../rule';

/** Figures of which nobody has said whose they are: told once for all of them. */
export const figuresNotSaid = jobRule(
  ({ input, withheld }) => {
    const counting = figureKeys.filter((key) => input.sheet.figures[key]?.rank === 'notSaid');
    const left = withheld.flatMap(({ key, figure }) => (figure.rank === 'notSaid' ? [key] : []));
    if (counting.length + left.length === 0) return null;
    return {
      severity: 'attention',
      facts: { keys: [...counting, ...left], counts: left.length === 0 },
      remedies: (['makerForThisCharger', 'makerForOtherCharger'] as const).map((rank) => ({
        does: 'rankFigures',
        facts: { rank },
        changes: [{ kind: 'rankFigures', rank }],
      })),
    };
  },
  { belongsTo: 'sheet' },
);
