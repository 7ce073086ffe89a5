import { formatDuration, makeBand } from '../../quantity';
import { cite, isLithium, statedFigure } from '../../sheet';
import { missing, type RoleRule } from '../context';

/** Absorb time: the sheet's time; lead rounds up, lithium to the nearest step. */
export const absorbTime: RoleRule = {
  role: 'absorbTime',
  want: (context) => {
    const { input, card } = context;
    const figure = statedFigure(input.sheet, 'absorbTime');
    const seconds = figure?.target ?? figure?.min ?? figure?.max;
    if (!figure || seconds === undefined) return missing(context, 'absorb time');
    const counts =
      card.absorb.timerCounts === 'atVoltage'
        ? 'This charger’s timer runs only at voltage.'
        : 'This charger’s timer runs on the wall clock, at voltage or not.';
    return {
      kind: 'number',
      exact: seconds,
      band: figure.min === undefined && figure.max === undefined ? null : makeBand(figure.min, figure.max),
      inset: 0,
      prefer: isLithium(input.sheet.chemistry) ? 'nearest' : 'up',
      steps: [
        { kind: 'start', words: `Sheet time, ${formatDuration(seconds)}`, value: seconds / 60, unit: 'min', digits: 0, source: cite(input.sheet, figure) },
        { kind: 'note', words: counts },
      ],
    };
  },
};
