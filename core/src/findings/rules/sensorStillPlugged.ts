import { isLithium } from '../../sheet';
import { chargerRule } from '../rule';

/** A sensor that only compensation uses, still plugged in on lithium: a reset brings compensation back. */
export const sensorStillPlugged = chargerRule(
  'sensorStillPlugged',
  ({ charger, card }, plan) => {
    const only = card.sensor.usedFor.length === 1 && card.sensor.usedFor[0] === 'compensation';
    const { lithiumSensor } = plan.input.schools;
    if (!isLithium(plan.input.sheet.chemistry) || !charger.sensor.fitted || lithiumSensor === 'keep' || (!only && lithiumSensor !== 'unplug')) return null;
    if (!only && card.sensor.usedFor.includes('cutoff')) return null;
    return {
      severity: 'attention',
      role: 'compensationSlope',
      text: `${charger.name} uses its battery sensor for compensation alone, and it is still plugged in on a lithium bank.`,
      hurts: 'After a reset compensation is on again, and with the sensor it acts. Without the sensor it cannot.',
      remedies: [{ label: 'It is unplugged now', changes: [{ kind: 'setSensor', charger: charger.id, sensor: { fitted: false } }] }],
    };
  },
  { belongsTo: 'system' },
);
