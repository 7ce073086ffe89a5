import { contains } from '../../quantity';
import { cellsOfVolts, restingCellVolts } from '../../sheet';
import { jobRule } from '../rule';

/** A bank that measures at rest like one of another cell count. */
export const bankReadsOther = jobRule(
  ({ input, facts }) => {
    const { restingV } = input.system.bank;
    const { chemistry } = input.sheet;
    const rests = restingCellVolts[chemistry];
    if (restingV === undefined || contains(rests, restingV / facts.cells)) return null;
    const fits = cellsOfVolts(chemistry, restingV);
    return {
      severity: 'stop',
      facts: {
        restingV,
        cells: facts.cells,
        chemistry,
        lowV: rests.min * facts.cells,
        highV: rests.max * facts.cells,
        fits: fits !== facts.cells && contains(rests, restingV / fits) ? fits : null,
      },
    };
  },
  { belongsTo: 'system' },
);
