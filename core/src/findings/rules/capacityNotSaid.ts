import { figureKeys, needsCapacity, statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** Nobody has entered the battery's capacity: a stop where figures of the sheet are printed by it. */
export const capacityNotSaid = jobRule(
  ({ input }) => {
    const { sheet, system } = input;
    if (sheet.unit.capacityAh !== undefined) return null;
    const figures = figureKeys.filter((key) => needsCapacity(statedFigure(sheet, key)?.unit ?? 'V'));
    const stairs = sheet.derating.some((row) => needsCapacity(row.unit));
    if (figures.length === 0 && !stairs && system.chargers.length === 0) return null;
    return { severity: figures.length > 0 || stairs ? 'stop' : 'attention', facts: { figures, stairs } };
  },
  { belongsTo: 'sheet' },
);
