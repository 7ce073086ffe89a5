import { fromDevice, plainGrid, type NumberParameter } from '../../card';
import type { Direction } from '../../quantity';
import { cite, isLithium, scaleVolts, statedFigure } from '../../sheet';
import { referenceC } from '../input';
import { missing, type RoleContext, type RoleRule } from '../context';

/**
 * Which of the two steps beside the sheet's slope does less harm: the flatter one overcharges by so much on the hottest day, the steeper one
 * by so much on the coldest.
 */
function gentlerStep(context: RoleContext, parameter: NumberParameter, perCell: number): { prefer: Direction; words: string | null } {
  const { device, facts, input } = context;
  const slopes = plainGrid(parameter, device.systemVolts).map((v) => fromDevice(parameter, v, device));
  const steeper = Math.max(...slopes.filter((s) => s <= perCell + 1e-12));
  const flatter = Math.min(...slopes.filter((s) => s >= perCell - 1e-12));
  if (!Number.isFinite(steeper) || !Number.isFinite(flatter) || flatter - steeper < 1e-12) return { prefer: 'nearest', words: null };
  const reference = referenceC(context);
  const { bankLowC, bankHighC } = input.system.site;
  const whenHot = (flatter - perCell) * Math.max(0, bankHighC - reference) * facts.cells;
  const whenCold = (perCell - steeper) * Math.max(0, reference - bankLowC) * facts.cells;
  return whenHot <= whenCold + 1e-12
    ? {
        prefer: 'up',
        words: `The flatter step: ${(whenHot * 1000).toFixed(0)} mV too much when hot, where the steeper one would give ${(whenCold * 1000).toFixed(0)} mV too much when cold.`,
      }
    : {
        prefer: 'down',
        words: `The steeper step: ${(whenCold * 1000).toFixed(0)} mV too much when cold, where the flatter one would give ${(whenHot * 1000).toFixed(0)} mV too much when hot.`,
      };
}

/** Compensation slope: lithium off; lead the sheet's figure per cell, then the charger's own basis and sign, on the step whose worse extreme is smaller. */
export const compensationSlope: RoleRule = {
  role: 'compensationSlope',
  want: (context) => {
    const { input, facts, parameter } = context;
    const printed = input.sheet.figures.compensationSlope;
    if (isLithium(input.sheet.chemistry) || (printed && printed.state !== 'stated'))
      return {
        kind: 'off',
        steps: [
          {
            kind: 'note',
            words: 'Off: compensation lifts the voltage on cold mornings, past the limit of lithium cells and their BMS.',
            source: printed ? cite(input.sheet, printed) : 'Rule for lithium chemistries',
          },
        ],
      };
    const figure = statedFigure(input.sheet, 'compensationSlope');
    const value = figure?.target ?? figure?.min ?? figure?.max;
    if (!figure || value === undefined) return missing(context, 'compensation slope');
    const perCell = scaleVolts(value, figure.basis, 'cell', facts.shape);
    const step = parameter.unit === 'choice' ? null : gentlerStep(context, parameter, perCell);
    return {
      kind: 'number',
      exact: perCell,
      band: null,
      inset: 0,
      prefer: step?.prefer ?? 'nearest',
      steps: [
        { kind: 'start', words: 'Sheet slope, per cell', value: perCell * 1000, unit: 'mV/°C', digits: 1, source: cite(input.sheet, figure) },
        { kind: 'note', words: 'The same slope on this charger’s own basis and sign:' },
        ...(step?.words ? [{ kind: 'note', words: step.words } as const] : []),
      ],
    };
  },
};
