import { cellsOfVolts, nominalCellVolts } from '../../sheet';
import { jobRule } from '../rule';

/** Nominal volts per cell may differ from the chemistry’s by this part before the cell count is doubted. */
const tolerance = 0.08;

/** Nominal voltage and cell count of a battery that contradict each other: every per-cell figure would be scaled wrongly. */
export const cellCountMismatch = jobRule(
  (plan) => {
    const { unit, chemistry } = plan.input.sheet;
    const usualV = nominalCellVolts[chemistry];
    if (Math.abs(unit.nominalVolts / unit.cellsInSeries / usualV - 1) <= tolerance) return null;
    const fits = cellsOfVolts(chemistry, unit.nominalVolts);
    return {
      severity: 'stop',
      facts: { nominalV: unit.nominalVolts, cells: unit.cellsInSeries, chemistry, usualV, fits },
      remedies:
        Math.abs(unit.nominalVolts / fits / usualV - 1) <= tolerance
          ? [{ does: 'setCells', facts: { cells: fits }, changes: [{ kind: 'setCells', cells: fits }] }]
          : [],
    };
  },
  { belongsTo: 'sheet' },
);
