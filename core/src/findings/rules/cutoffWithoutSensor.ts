import { coldProtected } from '../../settings';
import { statedFigure } from '../../sheet';
import { readsBattery, stopsWithoutSensor } from '../../system';
import type { DeviceReading } from '../finding';
import { chargerRule, fittingSensor, readingOf } from '../rule';

type NoSensor =
  { readonly chargesNothing: true; readonly known: boolean } | { readonly chargesNothing: false; readonly known: boolean; readonly cutoff: DeviceReading };

/** A cutoff is set, and no sensor on the battery makes it act; or it keeps a charger without a sensor from charging at all. */
export const cutoffWithoutSensor = chargerRule<NoSensor>(
  ({ charger, card }, plan) => {
    const cutoff = plan.setting(charger.id, 'lowTempCutoff');
    // Where nothing works against the cold that is said as a stop of its own.
    if (!cutoff || cutoff.off || readsBattery(charger, card) || !coldProtected(plan, charger, card)) return null;
    const nothing = stopsWithoutSensor(charger, card);
    const known = charger.sensor.fitted !== undefined;
    const freezes = plan.input.system.site.bankLowC < (statedFigure(plan.input.sheet, 'chargeTemperature')?.min ?? 0);
    if (!nothing && (freezes || cutoff.value === null)) return null;
    return {
      severity: nothing ? 'stop' : 'attention',
      role: 'lowTempCutoff',
      facts: nothing ? { chargesNothing: true, known } : { chargesNothing: false, known, cutoff: readingOf(cutoff, cutoff.value ?? '') },
      remedies: [fittingSensor(charger.id)],
    };
  },
  { belongsTo: 'system' },
);
