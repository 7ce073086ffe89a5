import { coldProtected, keyedText } from '../../settings';
import { statedFigure } from '../../sheet';
import { readsBattery, stopsWithoutSensor } from '../../system';
import { chargerRule } from '../rule';

/** A cutoff is set, and no sensor on the battery makes it act; or it keeps a charger without a sensor from charging at all. */
export const cutoffWithoutSensor = chargerRule(
  'cutoffWithoutSensor',
  ({ charger, card }, plan) => {
    const cutoff = plan.setting(charger.id, 'lowTempCutoff');
    // Where nothing works against the cold that is said as a stop of its own.
    if (!cutoff || cutoff.off || readsBattery(charger, card) || !coldProtected(plan, charger, card)) return null;
    const nothing = stopsWithoutSensor(charger, card);
    const freezes = plan.input.system.site.bankLowC < (statedFigure(plan.input.sheet, 'chargeTemperature')?.min ?? 0);
    if (!nothing && (freezes || cutoff.value === null)) return null;
    return {
      severity: nothing ? 'stop' : 'attention',
      role: 'lowTempCutoff',
      text: nothing
        ? `${charger.name} will charge nothing: its cutoff is set, it has no battery sensor, and without one it stops.`
        : `${charger.name} has its cutoff at ${keyedText(cutoff)} and no sensor on the battery: it ignores the cutoff.`,
      hurts: nothing ? 'The bank runs flat with the source running.' : 'Whoever reads the setting will believe in a protection that is not there.',
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
