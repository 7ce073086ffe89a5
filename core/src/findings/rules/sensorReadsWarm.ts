import { celsius, chargersWithCards } from '../words';
import type { FindingRule } from '../finding';

/** A sensor that reads warmer than the cell: the cutoff acts late, and the margin grows. */
export const sensorReadsWarm: FindingRule = {
  code: 'sensorReadsWarm',
  belongsTo: 'system',
  short: 'Sensor reads warm',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger, card }) => {
      if (!charger.sensor.fitted || charger.sensor.offsetC < 1 || !card.sensor.usedFor.includes('cutoff')) return [];
      const cutoff = plan.setting(charger.id, 'lowTempCutoff')?.value;
      return [
        {
          code: 'sensorReadsWarm',
          severity: 'attention',
          charger: charger.id,
          role: 'lowTempCutoff',
          text: `${charger.name}’s sensor reads ${celsius(charger.sensor.offsetC, 1)} warmer than the cell${typeof cutoff === 'number' ? `, so its cutoff has to stand at ${celsius(cutoff)}` : ''}.`,
          hurts: 'With the sheet’s figure keyed as it is, the cells would be charged that much too cold.',
          remedies: [
            {
              label: 'The sensor is now on the bare case',
              changes: [{ kind: 'setSensor', charger: charger.id, sensor: { place: 'batteryCase', offsetC: 0 } }],
            },
          ],
        },
      ];
    }),
};
