import { digitsApart } from '../../quantity';
import { per12 } from '../../settings';
import { overVoltageTrip } from '../../sheet';
import { chargerRule, puttingRight } from '../rule';
import { volts } from '../words';

/** A high-voltage alarm, as found or as set, at or near the BMS trip: it comes after the disconnect. */
export const alarmPastTrip = chargerRule(
  'alarmPastTrip',
  ({ charger }, plan) => {
    const setting = plan.setting(charger.id, 'highVoltageAlarm');
    const opens = overVoltageTrip(plan.input.sheet, plan.facts.shape);
    const stands = setting?.override ? setting.trueValue : (setting?.presentTrue ?? setting?.trueValue);
    if (!setting || opens === undefined || stands == null) return null;
    const least = per12(plan, 0.2);
    if (opens - stands >= least - 1e-9) return null;
    const digits = digitsApart(stands, opens, 1);
    const where = Math.abs(stands - opens) < 1e-9 ? 'at' : stands > opens ? 'above' : `only ${volts(opens - stands, digits)} under`;
    return {
      severity: stands >= opens ? 'stop' : 'attention',
      role: 'highVoltageAlarm',
      text: `${charger.name}’s high-voltage alarm ${volts(stands, digits)} is ${where} the BMS trip ${volts(opens, digits)}.`,
      hurts: 'The bank drops off first, and diodes can fail before anybody is warned.',
      remedies: puttingRight(setting),
    };
  },
  { short: 'Alarm past BMS trip' },
);
