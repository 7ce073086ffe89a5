import { per12 } from '../../settings';
import { belowTripPer12V, lowestTrip } from '../../system';
import { judged } from '../places';
import { chargerRule, puttingRight } from '../rule';

/** A high-voltage alarm, as found or as set, at or near the BMS trip: it comes after the disconnect. */
export const alarmPastTrip = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'highVoltageAlarm');
  const trip = lowestTrip(plan.input.sheet, plan.input.system);
  const alarm = judged(setting)?.value;
  if (!setting || !trip || alarm == null) return null;
  const least = per12(plan, belowTripPer12V);
  if (trip.volts - alarm >= least - 1e-9) return null;
  return {
    severity: alarm >= trip.volts ? 'stop' : 'attention',
    role: 'highVoltageAlarm',
    facts: { alarm, trip: trip.volts, by: trip.by, least },
    remedies: puttingRight(setting),
  };
});
