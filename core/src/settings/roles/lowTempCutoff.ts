import { formatQuantity } from '../../quantity';
import { cite, statedFigure } from '../../sheet';
import { cutoffMargin } from '../../system';
import { missing, type RoleRule } from '../context';
import { firstBearingStair } from '../cold';

/**
 * Low-temperature cutoff: the sheet's least charging temperature plus the margin of this charger's sensor, rounded up.
 * By the school `raiseCutoff` it starts from the first stair of the derating table that bears all sources together.
 */
export const lowTempCutoff: RoleRule = {
  role: 'lowTempCutoff',
  want: (context) => {
    const { input, charger } = context;
    const figure = statedFigure(input.sheet, 'chargeTemperature');
    if (figure?.min === undefined) return missing(context, 'least charging temperature');
    const margin = cutoffMargin(charger.sensor, input.system.site);
    const stair = input.schools.coldCurrent === 'raiseCutoff' ? firstBearingStair(input, context.stairs) : null;
    const from = stair === null ? figure.min : Math.max(figure.min, stair.fromC);
    return {
      kind: 'number',
      exact: from + margin.total,
      band: { min: figure.min + margin.total },
      inset: 0,
      prefer: 'up',
      steps: [
        {
          kind: 'start',
          words:
            from > figure.min
              ? `Raised: up to ${formatQuantity(from, '°C', 0)} the sheet allows less than the sources give`
              : 'Sheet, least charging temperature',
          value: from,
          unit: '°C',
          digits: 1,
          source: cite(input.sheet, figure),
        },
        { kind: 'change', words: 'Sensor reads warmer than the cell by', value: margin.offset, unit: '°C', digits: 1 },
        {
          kind: 'change',
          words: `Lag ${formatQuantity(charger.sensor.lagSeconds / 60, 'min', 0)} × ${formatQuantity(input.system.site.coolingCPerHour, '°C', 1)} an hour`,
          value: margin.lag,
          unit: '°C',
          digits: 1,
        },
        { kind: 'change', words: 'Sensor error', value: margin.sensorError, unit: '°C', digits: 1 },
        { kind: 'subtotal', words: 'Never below', value: from + margin.total, unit: '°C', digits: 1 },
      ],
    };
  },
};
