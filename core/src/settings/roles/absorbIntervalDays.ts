import { cite, statedFigure } from '../../sheet';
import { left, missing, type RoleRule } from '../context';

/** Absorb every so many days: the sheet's interval for a bank left alone, where that is the plan; never longer. */
export const absorbIntervalDays: RoleRule = {
  role: 'absorbIntervalDays',
  want: (context) => {
    const { input } = context;
    if (input.schools.unattended !== 'absorbEvery')
      return left('Left as it is: the plan for months without anybody there is another one. It is chosen among the schools.');
    const figure = statedFigure(input.sheet, 'unattendedAbsorb');
    const days = figure?.target ?? figure?.max ?? figure?.min;
    if (!figure || days === undefined) return missing(context, 'interval for a bank left alone');
    return {
      kind: 'number',
      exact: days,
      band: { max: figure.max ?? days },
      inset: 0,
      prefer: 'down',
      steps: [{ kind: 'start', words: 'Sheet, unattended: absorb every', value: days, unit: 'd', digits: 0, source: cite(input.sheet, figure) }],
    };
  },
};
