import { statedFigure } from '../../sheet';
import type { FindingRule } from '../finding';

/** More batteries in series or in parallel than the maker allows. */
export const bankPastLimits: FindingRule<{ way: 'seriesMax' | 'parallelMax'; count: number; most: number }> = {
  belongsTo: 'system',
  check: ({ plan }) => {
    const { sheet, system } = plan.input;
    const counts = { seriesMax: system.bank.unitsInSeries, parallelMax: system.bank.stringsInParallel };
    return (['seriesMax', 'parallelMax'] as const).flatMap((way) => {
      const most = statedFigure(sheet, way)?.max;
      return most === undefined || counts[way] <= most ? [] : [{ severity: 'stop' as const, figure: way, facts: { way, count: counts[way], most } }];
    });
  },
};
