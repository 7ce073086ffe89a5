import { cite, isLithium, scaleVolts, statedFigure } from '../../sheet';
import { missing, type RoleRule } from '../context';

/** Compensation slope: lithium off; lead the sheet's figure per cell, then the charger's own basis and sign. */
export const compensationSlope: RoleRule = {
  role: 'compensationSlope',
  want: (context) => {
    const { input, facts } = context;
    const printed = input.sheet.figures.compensationSlope;
    if (isLithium(input.sheet.chemistry) || (printed && printed.state !== 'stated'))
      return {
        kind: 'off',
        steps: [
          {
            kind: 'note',
            words: 'Off: compensation lifts the voltage on cold mornings, past what lithium cells and their BMS bear.',
            source: printed ? cite(input.sheet, printed) : 'Rule for lithium chemistries',
          },
        ],
      };
    const figure = statedFigure(input.sheet, 'compensationSlope');
    const value = figure?.target ?? figure?.min ?? figure?.max;
    if (!figure || value === undefined) return missing(context, 'compensation slope');
    const perCell = scaleVolts(value, figure.basis, 'cell', facts.shape);
    return {
      kind: 'number',
      exact: perCell,
      band: null,
      inset: 0,
      prefer: 'nearest',
      steps: [
        { kind: 'start', words: 'Sheet slope, per cell', value: perCell * 1000, unit: 'mV/°C', digits: 1, source: cite(input.sheet, figure) },
        { kind: 'note', words: 'The same slope on this charger’s own basis and sign:' },
      ],
    };
  },
};
