import { chargerRule } from '../rule';

/** Recharge at or below the load disconnect: the loads go off before a new charge begins. */
export const rechargeBelowDisconnect = chargerRule(({ charger }, plan) => {
  const disconnects = plan.settings.flatMap((s) => (s.role === 'loadDisconnect' && s.trueValue !== null ? [{ volts: s.trueValue, by: s.charger }] : []));
  const highest = disconnects.reduce<(typeof disconnects)[number] | null>((top, d) => (top === null || d.volts > top.volts ? d : top), null);
  const recharge = plan.setting(charger.id, 'rechargeVoltage')?.trueValue;
  if (!highest || recharge == null || recharge > highest.volts + 1e-9) return null;
  return { severity: 'attention', role: 'rechargeVoltage', facts: { recharge, disconnect: highest.volts, device: highest.by } };
});
