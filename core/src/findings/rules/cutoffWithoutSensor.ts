import { formatQuantity } from '../../quantity';
import { statedFigure } from '../../sheet';
import { readsBattery } from '../../system';
import { chargerRule } from '../rule';

/** A cutoff is set, and no sensor on the battery makes it act. Where it freezes this is a stop of its own. */
export const cutoffWithoutSensor = chargerRule(
  'cutoffWithoutSensor',
  ({ charger, card }, plan) => {
    const cutoff = plan.setting(charger.id, 'lowTempCutoff');
    const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min ?? 0;
    if (typeof cutoff?.value !== 'number' || readsBattery(charger, card) || plan.input.system.site.bankLowC < least) return null;
    return {
      severity: 'attention',
      role: 'lowTempCutoff',
      text: `${charger.name} has its cutoff at ${formatQuantity(cutoff.value, cutoff.unit, cutoff.digits)} and no sensor on the battery${card.sensor.withoutSensor === 'stopsCharging' ? ': it will not charge' : ': it ignores the cutoff'}.`,
      hurts: 'Whoever reads the setting will believe in a protection that is not there.',
      remedies: [
        {
          label: 'A sensor is now on the battery case',
          changes: [{ kind: 'setSensor', charger: charger.id, sensor: { fitted: true, place: 'batteryCase', offsetC: 0 } }],
        },
      ],
    };
  },
  { belongsTo: 'system' },
);
