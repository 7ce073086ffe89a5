import { parameterFor } from '../../card';
import { isLithium } from '../../sheet';
import { chargerRule } from '../rule';

/** A sensor left off, to be safe from compensation, at a charger whose cutoff needs it. */
export const sensorUnplugged = chargerRule(
  'sensorUnplugged',
  ({ charger, card }, plan) => {
    const both = card.sensor.usedFor.includes('cutoff') && card.sensor.usedFor.includes('compensation') && parameterFor(card, 'lowTempCutoff');
    if (!isLithium(plan.input.sheet.chemistry) || charger.sensor.fitted || !both) return null;
    return {
      severity: 'attention',
      role: 'lowTempCutoff',
      text: `${charger.name}’s sensor is unplugged, and its cutoff needs it${card.sensor.withoutSensor === 'stopsCharging' ? '; without it the charger stops' : '; without it the cutoff is ignored'}.`,
      hurts: 'Compensation is kept off by its own setting; unplugging the sensor takes the cold protection with it.',
      remedies: [
        {
          label: 'The sensor is plugged in, on the battery case',
          changes: [{ kind: 'setSensor', charger: charger.id, sensor: { fitted: true, place: 'batteryCase', offsetC: 0 } }],
        },
      ],
    };
  },
  { belongsTo: 'system' },
);
