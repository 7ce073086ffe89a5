import { chargerRule, puttingRight } from '../rule';

/** A system voltage found on automatic, or on another class than the bank's. */
export const systemVoltageFound = chargerRule(
  'systemVoltageFound',
  ({ charger }, plan) => {
    const setting = plan.setting(charger.id, 'systemVoltage');
    const found = charger.present.systemVoltage;
    if (typeof setting?.value !== 'string' || found === undefined || found === setting.value) return null;
    const automatic = Number.isNaN(Number(found));
    return {
      severity: automatic ? 'attention' : 'stop',
      role: 'systemVoltage',
      text: `${charger.name} was found on system voltage “${String(found)}”, and the bank is ${setting.value} V.`,
      hurts: automatic
        ? 'Detected wrongly once, on a flat bank or with the array first, it doubles or halves every setpoint.'
        : 'All setpoints are doubled or halved.',
      remedies: puttingRight(setting),
    };
  },
  { short: 'System voltage as found' },
);
