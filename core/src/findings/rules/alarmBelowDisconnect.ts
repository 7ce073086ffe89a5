import { judged } from '../places';
import { puttingRight, settingRule } from '../rule';

/** A low-voltage alarm that comes after the loads are off. */
export const alarmBelowDisconnect = settingRule((s, plan) => {
  if (s.role !== 'lowVoltageAlarm') return null;
  const alarm = judged(s);
  const disconnects = plan.settings.flatMap((other) => {
    const at = other.role === 'loadDisconnect' ? judged(other) : null;
    return at ? [at.value] : [];
  });
  const disconnectV = Math.max(...disconnects);
  if (!alarm || disconnects.length === 0 || alarm.value > disconnectV + 1e-9) return null;
  return { severity: 'attention', facts: { alarmV: alarm.value, disconnectV }, remedies: s.override || alarm.found ? puttingRight(s) : [] };
});
