import { makeBand } from '../../quantity';
import { left, missing, per12, voltsFromSheet, type RoleRule } from '../context';

/** Diversion, on the battery side: between the charging setpoint and the sheet's most. */
export const diversionVoltage: RoleRule = {
  role: 'diversionVoltage',
  want: (context) => {
    const absorb = context.done.get('absorbVoltage')?.trueValue;
    const most = voltsFromSheet(context, 'absorbVoltage', 'most')?.band.max;
    if (absorb == null || most === undefined) return missing(context, 'absorb voltage');
    const exact = (absorb + Math.max(most, absorb)) / 2;
    return {
      kind: 'number',
      exact,
      band: makeBand(absorb, most),
      inset: 0,
      prefer: 'up',
      steps: [
        { kind: 'start', words: 'Absorb as set, at the reference temperature', value: absorb, unit: 'V', digits: 2 },
        { kind: 'start', words: 'Most of the absorb band', value: most, unit: 'V', digits: 2 },
        { kind: 'subtotal', words: 'Between the two', value: exact, unit: 'V', digits: 2 },
        ...(context.card.compensated.includes('diversionVoltage')
          ? []
          : [{ kind: 'note', words: 'It stays fixed while absorb moves with temperature: see the finding.' } as const]),
      ],
    };
  },
};

/** Brake: above the diversion, so that it acts only when the diversion fails, and under what the loads bear. */
export const brakeVoltage: RoleRule = {
  role: 'brakeVoltage',
  want: (context) => {
    const diversion = context.done.get('diversionVoltage')?.trueValue;
    if (diversion == null) return missing(context, 'absorb voltage');
    const by = per12(context, 0.4);
    return {
      kind: 'number',
      exact: diversion + by,
      band: makeBand(diversion, context.input.system.loads.maxVolts),
      inset: 0,
      prefer: 'down',
      steps: [
        { kind: 'start', words: 'Diversion as set', value: diversion, unit: 'V', digits: 2 },
        { kind: 'change', words: 'Above it, so that it acts only when diversion fails', value: by, unit: 'V', digits: 2 },
      ],
    };
  },
};

/** A runaway must be caught below what the input bears, part of its rating. */
const caught = 0.9;

/** Input limit, on the turbine's side: under the charger's input rating with room for a runaway. */
export const inputLimitVoltage: RoleRule = {
  role: 'inputLimitVoltage',
  want: (context) => {
    const most = context.card.ratings.inputVolts?.max;
    if (most === undefined) return missing(context, 'input rating on its card');
    return {
      kind: 'number',
      exact: most * caught,
      band: { max: most },
      inset: 0,
      prefer: 'down',
      steps: [
        { kind: 'start', words: 'Most the input allows', value: most, unit: 'V', digits: 0, source: 'The charger’s card' },
        { kind: 'subtotal', words: 'A tenth under it, for a runaway', value: most * caught, unit: 'V', digits: 0 },
      ],
    };
  },
};

/** Power curve: the turbine's own, as it stands; no battery sheet knows it. */
export const powerCurve: RoleRule = {
  role: 'powerCurve',
  want: ({ charger, parameter }) => {
    const found = charger.present.powerCurve;
    const off = parameter.unit === 'choice' ? parameter.options.find((o) => o.means === 'off')?.value : undefined;
    return typeof found === 'string' && found !== off
      ? {
          kind: 'choice',
          means: found,
          steps: [
            {
              kind: 'note',
              words: 'As found: the curve belongs to the turbine. Save it apart, or a restart loses it.',
              source: 'The turbine maker’s sheet decides',
            },
          ],
        }
      : left('The curve belongs to the turbine: take it from the turbine maker’s sheet, and save it. Without one it stalls or runs away.');
  },
};
