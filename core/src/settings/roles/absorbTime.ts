import { parameterFor } from '../../card';
import { formatDuration, formatNumber } from '../../quantity';
import { cite, figureOnBank, isLithium, statedFigure } from '../../sheet';
import { missing, type RoleRule } from '../context';

/** Absorb time: the sheet's time; lead rounds up, lithium to the nearest step. */
export const absorbTime: RoleRule = {
  role: 'absorbTime',
  want: (context) => {
    const { input, card } = context;
    const figure = statedFigure(input.sheet, 'absorbTime');
    const onBank = figure && figureOnBank(figure, context.facts.shape);
    const seconds = onBank?.target ?? onBank?.band.min ?? onBank?.band.max;
    if (!figure || !onBank || seconds === undefined) return missing(context, 'absorb time', figure);
    const grows = figure.unit === 's/Ah';
    const perHundred = ((figure.target ?? figure.min ?? figure.max ?? 0) * 100) / 60;
    const counts =
      card.absorb.timerCounts === 'atVoltage'
        ? 'This charger’s timer runs only at voltage.'
        : 'This charger’s timer runs on the wall clock, at voltage or not.';
    // By taper current alone the timer is only a backstop: it must not end absorb first.
    if (input.schools.absorbEnd === 'taper' && parameterFor(card, 'taperCurrent') && statedFigure(input.sheet, 'taperCurrent')) {
      const most = statedFigure(input.sheet, 'maxChargeTime')?.max;
      const backstop = most ?? seconds * 4;
      return {
        kind: 'number',
        exact: backstop,
        band: null,
        inset: 0,
        prefer: 'down',
        steps: [
          { kind: 'start', words: `Sheet time, ${formatDuration(seconds)}`, value: seconds / 60, unit: 'min', digits: 0, source: cite(input.sheet, figure) },
          {
            kind: 'subtotal',
            words:
              most === undefined
                ? 'School: by taper current. Four times as long, as a backstop'
                : 'School: by taper current. The sheet’s longest charge, as a backstop',
            value: backstop / 60,
            unit: 'min',
            digits: 0,
          },
        ],
      };
    }
    return {
      kind: 'number',
      exact: seconds,
      band: onBank.band.min === undefined && onBank.band.max === undefined ? null : onBank.band,
      inset: 0,
      prefer: isLithium(input.sheet.chemistry) ? 'nearest' : 'up',
      steps: [
        {
          kind: 'start',
          words: grows
            ? `Sheet: ${formatNumber(perHundred, 0)} min per 100 Ah × ${formatNumber(seconds / (perHundred * 0.6), 0)} Ah`
            : `Sheet time, ${formatDuration(seconds)}`,
          value: seconds / 60,
          unit: 'min',
          digits: 0,
          source: cite(input.sheet, figure),
        },
        { kind: 'note', words: counts },
      ],
    };
  },
};
