import { offNumber } from '../../card';
import { formatQuantity, said, warmth, warmthBy } from '../../quantity';
import { cite, statedFigure } from '../../sheet';
import { cutoffMargin, stopsWithoutSensor } from '../../system';
import { missing, notUsed, type RoleContext, type RoleRule } from '../context';

/** Whether something else may keep this source from charging a bank that is too cold, or the bank never is. Whether it works is a finding. */
function guardedElsewhere({ input, charger }: RoleContext, least: number): boolean {
  const { bank, companions, site } = input.system;
  return (
    site.bankLowC >= least ||
    companions.some((c) => c.switches.includes(charger.id)) ||
    (bank.hasBms && statedFigure(input.sheet, 'bmsLowTemperature') !== undefined)
  );
}

/**
 * Low-temperature cutoff: the sheet's least charging temperature, or the stair of the derating table at which this source may start, plus the
 * margin of this charger's sensor unless the school keeps the exact figure, rounded up. Off where it would act on a sensor that is not there.
 */
export const lowTempCutoff: RoleRule = {
  role: 'lowTempCutoff',
  want: (context) => {
    const { input, charger, cold, parameter } = context;
    const figure = statedFigure(input.sheet, 'chargeTemperature');
    if (figure?.min === undefined) return missing(context, 'least charging temperature');
    // With any cutoff it would charge nothing, and the bank is guarded without it.
    if (stopsWithoutSensor(charger, context.card) && guardedElsewhere(context, figure.min)) {
      const why = 'It has no battery sensor, and this charger charges nothing without one while a cutoff is set.';
      return offNumber(parameter) !== undefined
        ? { kind: 'off', steps: [{ kind: 'note', words: `${why} Off: the bank is guarded elsewhere.` }] }
        : notUsed(`${why} It has no “off” for it: fit its sensor.`);
    }
    const exactly = input.schools.cutoffFigure === 'exact';
    const margin = cutoffMargin(charger.sensor, input.system.site);
    const by = exactly ? 0 : margin.total;
    const from = Math.max(figure.min, cold.sources.find((s) => s.charger === charger.id)?.fromC ?? figure.min);
    return {
      kind: 'number',
      exact: from + by,
      band: { min: figure.min + by },
      inset: 0,
      prefer: 'up',
      steps: [
        {
          kind: 'start',
          words: from > figure.min ? said`Raised: up to ${warmth(from, 0)} the sheet allows less than the sources give` : 'Sheet, least charging temperature',
          value: from,
          unit: '°C',
          digits: 1,
          source: cite(input.sheet, figure),
        },
        ...(exactly
          ? [{ kind: 'note', words: said`School: the sheet’s figure exactly. The sensor would cost ${warmthBy(margin.total)}.` } as const]
          : ([
              { kind: 'change', words: 'Sensor reads warmer than the cell by', value: margin.offset, unit: '°C', digits: 1 },
              {
                kind: 'change',
                words: said`Lag ${formatQuantity(charger.sensor.lagSeconds / 60, 'min', 0)} × ${warmthBy(input.system.site.coolingCPerHour)} an hour`,
                value: margin.lag,
                unit: '°C',
                digits: 1,
              },
              { kind: 'change', words: 'Sensor error', value: margin.sensorError, unit: '°C', digits: 1 },
              { kind: 'subtotal', words: 'Never below', value: from + by, unit: '°C', digits: 1 },
            ] as const)),
      ],
    };
  },
};
