import { chargerRule } from '../rule';
import { volts, nameOf } from '../words';

/** Recharge at or below the load disconnect: the loads go off before a new charge begins. */
export const rechargeBelowDisconnect = chargerRule('rechargeBelowDisconnect', ({ charger }, plan) => {
  const recharge = plan.setting(charger.id, 'rechargeVoltage')?.trueValue;
  const disconnects = plan.settings.flatMap((s) => (s.role === 'loadDisconnect' && s.trueValue !== null ? [{ volts: s.trueValue, by: s.charger }] : []));
  const highest = disconnects.sort((a, b) => b.volts - a.volts)[0];
  if (recharge == null || !highest || recharge > highest.volts + 1e-9) return null;
  return {
    severity: 'attention',
    role: 'rechargeVoltage',
    text: `${charger.name} begins a new charge at ${volts(recharge)}, and ${nameOf(plan, highest.by)} disconnects the loads at ${volts(highest.volts)} already.`,
    hurts: 'On a sunny day the loads are off while the charger waits.',
  };
});
