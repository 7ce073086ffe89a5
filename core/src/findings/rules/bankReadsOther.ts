import { contains, type Band } from '../../quantity';
import { nominalCellVolts, type Chemistry } from '../../sheet';
import { jobRule } from '../rule';

/** What one cell reads at rest, from flat to just charged, V (general electrochemistry). */
const atRest: Readonly<Record<Chemistry, Band>> = {
  lfp: { min: 2.8, max: 3.45 },
  nmc: { min: 3.2, max: 4.2 },
  flooded: { min: 1.85, max: 2.2 },
  agm: { min: 1.85, max: 2.2 },
  gel: { min: 1.85, max: 2.2 },
};

/** A bank that measures at rest like one of another cell count. */
export const bankReadsOther = jobRule(
  ({ input, facts }) => {
    const { restingV } = input.system.bank;
    const { chemistry } = input.sheet;
    if (restingV === undefined || contains(atRest[chemistry], restingV / facts.cells)) return null;
    const fits = Math.max(1, Math.round(restingV / nominalCellVolts[chemistry]));
    return {
      severity: 'stop',
      facts: {
        restingV,
        cells: facts.cells,
        chemistry,
        lowV: (atRest[chemistry].min ?? 0) * facts.cells,
        highV: (atRest[chemistry].max ?? 0) * facts.cells,
        fits: fits !== facts.cells && contains(atRest[chemistry], restingV / fits) ? fits : null,
      },
    };
  },
  { belongsTo: 'system' },
);
