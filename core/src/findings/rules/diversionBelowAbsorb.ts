import { chargerRule, puttingRight } from '../rule';
import { volts } from '../words';

/** Diversion at or below the charging setpoint. */
export const diversionBelowAbsorb = chargerRule('diversionBelowAbsorb', ({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'diversionVoltage');
  const absorb = plan.setting(charger.id, 'absorbVoltage');
  const diversion = setting?.override ? setting.trueValue : (setting?.presentTrue ?? setting?.trueValue);
  if (card.kind !== 'turbine' || !setting || diversion == null || absorb?.trueValue == null) return null;
  if (diversion <= absorb.trueValue + 1e-9)
    return {
      severity: 'stop',
      role: 'diversionVoltage',
      text: `${charger.name} diverts from ${volts(diversion)}, at or under its absorb ${volts(absorb.trueValue)}.`,
      hurts: 'The bank is never filled: everything above goes into the diversion load.',
      remedies: puttingRight(setting),
    };
  return null;
});
