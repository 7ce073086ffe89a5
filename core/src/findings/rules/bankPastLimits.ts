import { statedFigure } from '../../sheet';
import type { FindingRule } from '../finding';

/** More batteries in series or in parallel than the maker allows. */
export const bankPastLimits: FindingRule = {
  code: 'bankPastLimits',
  belongsTo: 'system',
  check: ({ plan }) => {
    const { sheet, system } = plan.input;
    return (
      [
        ['seriesMax', system.bank.unitsInSeries, 'in series'],
        ['parallelMax', system.bank.stringsInParallel, 'strings in parallel'],
      ] as const
    ).flatMap(([key, count, words]) => {
      const most = statedFigure(sheet, key)?.max;
      if (most === undefined || count <= most) return [];
      return [
        {
          code: 'bankPastLimits',
          severity: 'stop' as const,
          figure: key,
          text: `The bank has ${count} ${words}, and the sheet allows ${most}.`,
          hurts: 'Past its limit the BMS electronics may not stand the voltage, or one battery carries the current of all.',
          remedies: [],
        },
      ];
    });
  },
};
