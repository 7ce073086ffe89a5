import { figureInfo, figureKeys, rankWords, ranks } from '../../sheet';
import type { FindingRule } from '../finding';

/** Figures that do not come from the maker. */
export const lowRank: FindingRule = {
  code: 'lowRank',
  check: ({ plan }) =>
    figureKeys.flatMap((key) => {
      const figure = plan.input.sheet.figures[key];
      if (!figure || ranks.indexOf(figure.rank) < ranks.indexOf('sameChemistry')) return [];
      return [
        {
          code: 'lowRank',
          severity: 'attention',
          figure: key,
          text: `${figureInfo[key].name} is not the maker’s figure: ${rankWords[figure.rank]}.`,
          hurts: 'A warranty claim will ask for the maker’s paper.',
          remedies: [],
        },
      ];
    }),
};
