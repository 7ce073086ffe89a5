import { figureKeys, isMakers, type FigureKey, type Rank } from '../../sheet';
import type { Draft, FindingRule } from '../finding';

type LowRank = Readonly<{ key: FigureKey; rank: Rank; counts: boolean }>;

/** Figures that do not come from the maker, of those whose rank was said: left out by the reference policy, or counting and marked. */
export const lowRank: FindingRule<LowRank> = {
  belongsTo: 'sheet',
  check: ({ plan }) => [
    ...plan.withheld
      .filter(({ figure }) => figure.rank !== 'notSaid')
      .map(({ key, figure }): Draft<LowRank> => ({
        severity: 'attention',
        figure: key,
        facts: { key, rank: figure.rank, counts: false },
        remedies: [{ does: 'countBestAvailable', changes: [{ kind: 'setSchool', school: 'reference', to: 'bestAvailable' }] }],
      })),
    ...figureKeys.flatMap((key): readonly Draft<LowRank>[] => {
      const figure = plan.input.sheet.figures[key];
      return !figure || figure.rank === 'notSaid' || isMakers(figure.rank)
        ? []
        : [{ severity: 'attention', figure: key, facts: { key, rank: figure.rank, counts: true } }];
    }),
  ],
};
