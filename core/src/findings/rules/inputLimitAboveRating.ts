import { chargerRule, puttingRight } from '../rule';
import { volts } from '../words';

/** An input-side limit above what the charger's input bears. */
export const inputLimitAboveRating = chargerRule('inputLimitAboveRating', ({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'inputLimitVoltage');
  const most = card.ratings.inputVolts?.max;
  const stands = setting?.override ? setting.trueValue : (setting?.presentTrue ?? setting?.trueValue);
  if (most === undefined || stands == null || stands < most - 1e-9) return null;
  return {
    severity: 'stop',
    role: 'inputLimitVoltage',
    text: `${charger.name}’s input limit ${volts(stands, 0)} is not below the ${volts(most, 0)} its input bears.`,
    hurts: 'A runaway destroys the charger before the limit acts.',
    remedies: puttingRight(setting),
  };
});
