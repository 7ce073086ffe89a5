import { chargerRule, puttingRight } from '../rule';

/** A system voltage found on automatic, or on another class than the bank's. */
export const systemVoltageFound = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'systemVoltage');
  const found = charger.present.systemVoltage;
  if (typeof setting?.value !== 'string' || found === undefined || found === setting.value) return null;
  const automatic = Number.isNaN(Number(found));
  return {
    severity: automatic ? 'attention' : 'stop',
    role: 'systemVoltage',
    facts: { reads: String(found), bankV: setting.value, automatic },
    remedies: puttingRight(setting),
  };
});
