import { cite, isLithium, statedFigure } from '../../sheet';
import { missing, notUsed, type RoleContext, type RoleRule, type Wanted } from '../context';
import { referenceC } from '../input';
import type { Step } from '../setting';

/** Whether compensation is on at this charger, and off although it cannot be switched off. */
function state(context: RoleContext): { off: boolean; unwanted: boolean; slope: number; reference: number } {
  const { input, done, facts } = context;
  const slope = done.get('compensationSlope');
  return {
    off: slope?.off === true || slope?.trueValue === 0,
    unwanted: isLithium(input.sheet.chemistry),
    slope: (slope?.trueValue ?? 0) * facts.cells,
    reference: referenceC(context),
  };
}

const clampAt = (exact: number, prefer: 'up' | 'down' | 'nearest', steps: readonly Step[]): Wanted => ({
  kind: 'number',
  exact,
  band: null,
  inset: 0,
  prefer,
  steps,
});

/** Coldest temperature that compensation follows: the sheet's, and no colder than keeps absorb under what the loads bear. */
export const compensationMinTemp: RoleRule = {
  role: 'compensationMinTemp',
  want: (context) => {
    const { input, done } = context;
    const { off, unwanted, slope, reference } = state(context);
    if (off) return notUsed('Compensation is off.');
    if (unwanted)
      return clampAt(reference, 'nearest', [{ kind: 'note', words: 'Compensation cannot be switched off here, so it is clamped to where it does nothing.' }]);
    const figure = statedFigure(input.sheet, 'compensationRange');
    const from = figure?.min ?? input.system.site.bankLowC;
    const steps: Step[] = [
      figure?.min === undefined
        ? { kind: 'start', words: 'The sheet gives no limit: the bank’s coldest', value: from, unit: '°C', digits: 0 }
        : { kind: 'start', words: 'Sheet, coldest that compensation follows', value: from, unit: '°C', digits: 0, source: cite(input.sheet, figure) },
    ];
    const absorb = done.get('absorbVoltage')?.trueValue;
    const most = input.system.loads.maxVolts;
    if (absorb == null) return missing(context, 'absorb voltage');
    // absorb + slope × (T − reference) = most, solved for T.
    const borne = most === undefined || slope >= 0 ? -Infinity : reference + (most - absorb) / slope;
    if (borne > from)
      steps.push({ kind: 'change', words: `Warmer, so that absorb stays under the ${most} V the loads allow`, value: borne - from, unit: '°C', digits: 1 });
    return clampAt(Math.max(from, borne), 'up', steps);
  },
};

/** Hottest temperature that compensation follows: the sheet's, else the bank's hottest. A lower clamp would overcharge in the heat. */
export const compensationMaxTemp: RoleRule = {
  role: 'compensationMaxTemp',
  want: (context) => {
    const { off, unwanted, reference } = state(context);
    if (off) return notUsed('Compensation is off.');
    if (unwanted)
      return clampAt(reference, 'nearest', [{ kind: 'note', words: 'Compensation cannot be switched off here, so it is clamped to where it does nothing.' }]);
    const figure = statedFigure(context.input.sheet, 'compensationRange');
    return figure?.max === undefined
      ? clampAt(context.input.system.site.bankHighC, 'up', [
          { kind: 'start', words: 'The sheet gives no limit: the bank’s hottest', value: context.input.system.site.bankHighC, unit: '°C', digits: 0 },
        ])
      : clampAt(figure.max, 'nearest', [
          {
            kind: 'start',
            words: 'Sheet, hottest that compensation follows',
            value: figure.max,
            unit: '°C',
            digits: 0,
            source: cite(context.input.sheet, figure),
          },
        ]);
  },
};
