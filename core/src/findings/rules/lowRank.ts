import { figureInfo, figureKeys, isMakers, rankWords } from '../../sheet';
import type { Finding, FindingRule } from '../finding';

/** Figures that do not come from the maker: left out by the reference policy, or counting and marked. */
export const lowRank: FindingRule = {
  code: 'lowRank',
  belongsTo: 'sheet',
  check: ({ plan }) => [
    ...plan.withheld.map(({ key, figure }): Finding => ({
      code: 'lowRank',
      severity: 'attention',
      figure: key,
      text: `${figureInfo[key].name} is not the maker’s figure (${rankWords[figure.rank]}) and does not count under “maker only”.`,
      hurts: 'Settings that need it stay without a value until the maker’s figure is there.',
      remedies: [{ label: 'Let the best available count', changes: [{ kind: 'setSchool', school: 'reference', to: 'bestAvailable' }] }],
    })),
    ...figureKeys.flatMap((key): readonly Finding[] => {
      const figure = plan.input.sheet.figures[key];
      if (!figure || isMakers(figure.rank)) return [];
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
  ],
};
