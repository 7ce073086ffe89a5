import { said, warmthBy } from '../../quantity';
import { cite, statedFigure } from '../../sheet';
import { leastHysteresisC, resumeHysteresis } from '../../system';
import { missing, type RoleRule } from '../context';

/** High-temperature cutoff: the sheet's greatest charging temperature less the sensor's error and its lag on warming, rounded down. */
export const highTempCutoff: RoleRule = {
  role: 'highTempCutoff',
  want: (context) => {
    const { input, charger } = context;
    const figure = statedFigure(input.sheet, 'chargeTemperature');
    if (figure?.max === undefined) return missing(context, 'greatest charging temperature');
    const by = charger.sensor.errorC + Math.max(0, -charger.sensor.offsetC);
    return {
      kind: 'number',
      exact: figure.max - by,
      band: { max: figure.max - by },
      inset: 0,
      prefer: 'down',
      steps: [
        { kind: 'start', words: 'Sheet, greatest charging temperature', value: figure.max, unit: '°C', digits: 1, source: cite(input.sheet, figure) },
        { kind: 'change', words: 'Sensor error, and what it reads too cold', value: -by, unit: '°C', digits: 1 },
        { kind: 'subtotal', words: 'Never above', value: figure.max - by, unit: '°C', digits: 1 },
      ],
    };
  },
};

/** High-temperature resume: under the cutoff as held by the same hysteresis as in the cold, rounded down. */
export const highTempResume: RoleRule = {
  role: 'highTempResume',
  want: (context) => {
    const cutoff = context.done.get('highTempCutoff')?.trueValue;
    if (cutoff == null) return missing(context, 'greatest charging temperature');
    const by = resumeHysteresis(context.charger.sensor);
    return {
      kind: 'number',
      exact: cutoff - by,
      band: { max: cutoff - by },
      inset: 0,
      prefer: 'down',
      steps: [
        { kind: 'start', words: 'Cutoff as set', value: cutoff, unit: '°C', digits: 0 },
        { kind: 'change', words: said`The greater of ${warmthBy(leastHysteresisC, 0)} and sensor error + its lead`, value: -by, unit: '°C', digits: 1 },
        { kind: 'subtotal', words: 'Resume no hotter than', value: cutoff - by, unit: '°C', digits: 1 },
      ],
    };
  },
};
