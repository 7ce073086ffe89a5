import { chargerRule } from '../rule';

/** A sensor that reads warmer than the cell: the cutoff acts late, and the margin grows. */
export const sensorReadsWarm = chargerRule(
  ({ charger, card }, plan) => {
    if (!charger.sensor.fitted || charger.sensor.offsetC < 1 || !card.sensor.usedFor.includes('cutoff')) return null;
    return {
      severity: 'attention',
      role: 'lowTempCutoff',
      facts: { warmerDegrees: charger.sensor.offsetC, cutoffC: plan.setting(charger.id, 'lowTempCutoff')?.trueValue ?? null },
      remedies: [{ does: 'recordSensorOnCase', changes: [{ kind: 'setSensor', charger: charger.id, sensor: { place: 'batteryCase', offsetC: 0 } }] }],
    };
  },
  { belongsTo: 'system' },
);
