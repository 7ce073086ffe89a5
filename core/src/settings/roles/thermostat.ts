import { said, warmthBy } from '../../quantity';
import { cite, statedFigure } from '../../sheet';
import { cutoffMargin, leastHysteresisC, resumeHysteresis } from '../../system';
import { left, missing, type RoleRule } from '../context';

/** Output: a cooling output closes above its setpoint and opens when it is cold, unpowered or without its sensor; a turbine charger's stands on automatic. */
export const outputMode: RoleRule = {
  role: 'outputMode',
  want: ({ card }) =>
    card.kind === 'thermostat'
      ? {
          kind: 'choice',
          means: 'cooling',
          steps: [
            {
              kind: 'note',
              words: 'A cooling output closes above its setpoint: charging is allowed when warm, and stops when cold, unpowered or without a sensor.',
            },
          ],
        }
      : card.kind === 'turbine'
        ? { kind: 'choice', means: 'auto', steps: [{ kind: 'note', words: 'On by itself. Save it apart, or a restart leaves it off.' }] }
        : left('No figure of a sheet is about it. Left as it is.'),
};

/** Differential: the resume hysteresis of its sensor, rounded up. */
export const thermostatDifferential: RoleRule = {
  role: 'thermostatDifferential',
  want: ({ charger }) => {
    const exact = resumeHysteresis(charger.sensor);
    return {
      kind: 'number',
      exact,
      band: { min: exact },
      inset: 0,
      prefer: 'up',
      steps: [
        {
          kind: 'start',
          words: said`The greater of ${warmthBy(leastHysteresisC, 0)} and sensor error + its lead on warming`,
          value: exact,
          unit: '°C difference',
          digits: 1,
        },
      ],
    };
  },
};

/** Setpoint: where the output closes again; it opens a differential lower, and that must clear the sheet's least by the sensor's margin. */
export const thermostatSetpoint: RoleRule = {
  role: 'thermostatSetpoint',
  want: (context) => {
    const { input, charger, done } = context;
    const figure = statedFigure(input.sheet, 'chargeTemperature');
    const differential = done.get('thermostatDifferential')?.trueValue;
    if (figure?.min === undefined || differential == null) return missing(context, 'least charging temperature');
    const margin = input.schools.cutoffFigure === 'exact' ? 0 : cutoffMargin(charger.sensor, input.system.site).total;
    const exact = figure.min + margin + differential;
    return {
      kind: 'number',
      exact,
      band: { min: exact },
      inset: 0,
      prefer: 'up',
      steps: [
        { kind: 'start', words: 'Sheet, least charging temperature', value: figure.min, unit: '°C', digits: 1, source: cite(input.sheet, figure) },
        { kind: 'change', words: 'Sensor error, what it reads too warm, and its lag', value: margin, unit: '°C', digits: 1 },
        { kind: 'subtotal', words: 'Opens no colder than', value: figure.min + margin, unit: '°C', digits: 1 },
        { kind: 'change', words: 'Differential as set: it closes that much warmer', value: differential, unit: '°C', digits: 1 },
      ],
    };
  },
};

/** Delay: two minutes, so that a draught does not make the relay chatter. */
export const thermostatDelay: RoleRule = {
  role: 'thermostatDelay',
  want: () => ({
    kind: 'number',
    exact: 120,
    band: null,
    inset: 0,
    prefer: 'nearest',
    steps: [{ kind: 'note', words: 'Two minutes, so that a draught does not make the relay chatter.', source: 'Rule of thumb, not a maker’s figure' }],
  }),
};
