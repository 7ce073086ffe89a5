import { cite, statedFigure } from '../../sheet';
import { missing, type RoleRule } from '../context';

/** A charge that takes this much longer than an empty bank should is stopped. */
const patience = 1.5;

/** Longest charge: the sheet's; else half as much again as an empty bank takes at the limit, marked derived. Never below the absorb time. */
export const maxChargeTime: RoleRule = {
  role: 'maxChargeTime',
  want: (context) => {
    const { input, facts, done, card } = context;
    const figure = statedFigure(input.sheet, 'maxChargeTime');
    const printed = figure?.max ?? figure?.target;
    if (figure && printed !== undefined)
      return {
        kind: 'number',
        exact: printed,
        band: { max: printed },
        inset: 0,
        prefer: 'down',
        steps: [{ kind: 'start', words: 'Sheet, longest charge', value: printed / 3600, unit: 'h', digits: 1, source: cite(input.sheet, figure) }],
      };
    const limit = done.get('chargeCurrentLimit')?.trueValue ?? card.ratings.outputA;
    const absorb = done.get('absorbTime')?.trueValue ?? 0;
    if (limit <= 0) return missing(context, 'longest charge, and without a current none can be derived');
    const { capacityAh } = facts;
    if (capacityAh === null) return missing(context, 'longest charge, and without the battery’s capacity none can be derived');
    const seconds = patience * ((capacityAh / limit) * 3600 + absorb);
    return {
      kind: 'number',
      exact: seconds,
      band: { min: absorb },
      inset: 0,
      prefer: 'up',
      steps: [
        {
          kind: 'start',
          words: `${capacityAh.toFixed(0)} Ah at ${limit.toFixed(0)} A`,
          value: capacityAh / limit,
          unit: 'h',
          digits: 1,
          source: 'Derived, not the maker’s figure',
        },
        { kind: 'change', words: 'Absorb time', value: absorb / 3600, unit: 'h', digits: 1 },
        { kind: 'subtotal', words: '× 1.5, so that a weak day does not end it', value: seconds / 3600, unit: 'h', digits: 1 },
      ],
    };
  },
};
