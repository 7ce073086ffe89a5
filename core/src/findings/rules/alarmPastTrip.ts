import { per12 } from '../../settings';
import { overVoltageTrip } from '../../sheet';
import { chargerRule, puttingRight } from '../rule';

/** A high-voltage alarm, as found or as set, at or near the BMS trip: it comes after the disconnect. */
export const alarmPastTrip = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'highVoltageAlarm');
  const trip = overVoltageTrip(plan.input.sheet, plan.facts.shape);
  const alarm = setting?.override ? setting.trueValue : (setting?.presentTrue ?? setting?.trueValue);
  if (!setting || trip === undefined || alarm == null) return null;
  const least = per12(plan, 0.2);
  if (trip - alarm >= least - 1e-9) return null;
  return { severity: alarm >= trip ? 'stop' : 'attention', role: 'highVoltageAlarm', facts: { alarm, trip, least }, remedies: puttingRight(setting) };
});
