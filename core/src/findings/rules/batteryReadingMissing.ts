import { isLithium } from '../../sheet';
import { chargerRule } from '../rule';

/** A charger that takes the battery's temperature over the network, and no sensor is on it. */
export const batteryReadingMissing = chargerRule(
  ({ charger, card }, plan) => {
    if (card.sensor.reads !== 'network' || charger.sensor.fitted || card.sensor.usedFor.length === 0) return null;
    // On lithium a sensor that only compensation uses is better left off.
    if (isLithium(plan.input.sheet.chemistry) && !card.sensor.usedFor.includes('cutoff')) return null;
    return {
      severity: 'attention',
      facts: { known: charger.sensor.fitted !== undefined },
      remedies: [{ does: 'recordSensorFitted', changes: [{ kind: 'setSensor', charger: charger.id, sensor: { fitted: true, place: 'batteryCase' } }] }],
    };
  },
  { belongsTo: 'system' },
);
