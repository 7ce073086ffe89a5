import { isLithium } from '../../sheet';
import { chargerRule } from '../rule';

/** A sensor that only compensation uses, still plugged in on lithium: a reset brings compensation back. */
export const sensorStillPlugged = chargerRule(
  ({ charger, card }, plan) => {
    const only = card.sensor.usedFor.length === 1 && card.sensor.usedFor[0] === 'compensation';
    const { lithiumSensor } = plan.input.schools;
    if (!isLithium(plan.input.sheet.chemistry) || !charger.sensor.fitted || lithiumSensor === 'keep' || (!only && lithiumSensor !== 'unplug')) return null;
    if (!only && card.sensor.usedFor.includes('cutoff')) return null;
    return {
      severity: 'attention',
      role: 'compensationSlope',
      facts: {},
      remedies: [{ does: 'recordSensorUnplugged', changes: [{ kind: 'setSensor', charger: charger.id, sensor: { fitted: false } }] }],
    };
  },
  { belongsTo: 'system' },
);
