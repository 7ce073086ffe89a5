import { formatQuantity } from '../../quantity';
import { chemistryWords, nominalCellVolts } from '../../sheet';
import type { FindingRule } from '../finding';

/** Nominal volts per cell may differ from the chemistry’s by this part before the cell count is doubted. */
const tolerance = 0.08;

/** Nominal voltage and cell count of a battery that contradict each other: every per-cell figure would be scaled wrongly. */
export const cellCountMismatch: FindingRule = {
  code: 'cellCountMismatch',
  belongsTo: 'sheet',
  check: ({ plan }) => {
    const { unit, chemistry } = plan.input.sheet;
    const perCell = unit.nominalVolts / unit.cellsInSeries;
    const usual = nominalCellVolts[chemistry];
    if (Math.abs(perCell / usual - 1) <= tolerance) return [];
    const cells = Math.max(1, Math.round(unit.nominalVolts / usual));
    return [
      {
        code: 'cellCountMismatch',
        severity: 'stop',
        text: `${formatQuantity(unit.nominalVolts, 'V', 1)} over ${unit.cellsInSeries} ${unit.cellsInSeries === 1 ? 'cell' : 'cells'} is ${formatQuantity(perCell, 'V', 2)} each, and ${chemistryWords[chemistry]} has ${formatQuantity(usual, 'V', 2)}: ${cells} ${cells === 1 ? 'cell' : 'cells'} would fit.`,
        hurts: 'Every figure printed per cell would come out wrong on this bank.',
        remedies:
          Math.abs(unit.nominalVolts / cells / usual - 1) <= tolerance
            ? [{ label: `Count ${cells} ${cells === 1 ? 'cell' : 'cells'} in series`, changes: [{ kind: 'setCells', cells }] }]
            : [],
      },
    ];
  },
};
