import { parameterFor } from '../../card';
import { statedFigure } from '../../sheet';
import { readsBattery, sensorPlaceWords } from '../../system';
import { celsius, chargersWithCards } from '../words';
import type { Finding, FindingRule } from '../finding';

/** A source without a working cold protection of its own at a place where the bank gets colder than the sheet allows. */
export const coldProtection: FindingRule = {
  code: 'coldProtection',
  check: ({ plan }) => {
    const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
    const low = plan.input.system.site.bankLowC;
    if (least === undefined || low >= least) return [];
    return chargersWithCards(plan).flatMap(({ charger, card }): Finding[] => {
      const has = parameterFor(card, 'lowTempCutoff') !== undefined && card.sensor.usedFor.includes('cutoff');
      if (has && readsBattery(charger, card)) return [];
      const why = !has
        ? 'has no low-temperature cutoff'
        : !charger.sensor.fitted
          ? card.sensor.withoutSensor === 'stopsCharging'
            ? 'has no battery sensor fitted, and will not charge at all with the cutoff set'
            : 'has no battery sensor fitted, and without one it ignores the cutoff'
          : `has its sensor ${sensorPlaceWords[charger.sensor.place]}, which is not the battery`;
      return [
        {
          code: 'coldProtection',
          severity: 'stop',
          charger: charger.id,
          role: 'lowTempCutoff',
          text: `${charger.name} ${why}; the bank falls to ${celsius(low)} and may not be charged below ${celsius(least)}.`,
          hurts: 'Charging frozen cells harms them for good and can make them dangerous.',
          remedies: has
            ? [
                {
                  label: 'A sensor is now on the battery case',
                  changes: [{ kind: 'setSensor', charger: charger.id, sensor: { fitted: true, place: 'batteryCase', offsetC: 0 } }],
                },
              ]
            : [],
        },
      ];
    });
  },
};
