import type { Finding, FindingRule } from '../finding';
import { chargersWithCards, nameOf, volts } from '../words';

/** Recharge at or below the load disconnect: the loads go off before a new charge begins. */
export const rechargeBelowDisconnect: FindingRule = {
  code: 'rechargeBelowDisconnect',
  check: ({ plan }) => {
    const disconnects = plan.settings.flatMap((s) => (s.role === 'loadDisconnect' && s.trueValue !== null ? [{ volts: s.trueValue, by: s.charger }] : []));
    const highest = disconnects.reduce<(typeof disconnects)[number] | null>((top, d) => (top === null || d.volts > top.volts ? d : top), null);
    if (!highest) return [];
    return chargersWithCards(plan).flatMap(({ charger }): Finding[] => {
      const recharge = plan.setting(charger.id, 'rechargeVoltage')?.trueValue;
      if (recharge == null || recharge > highest.volts + 1e-9) return [];
      return [
        {
          code: 'rechargeBelowDisconnect',
          severity: 'attention',
          charger: charger.id,
          role: 'rechargeVoltage',
          text: `${charger.name} begins a new charge at ${volts(recharge)}, and ${nameOf(plan, highest.by)} disconnects the loads at ${volts(highest.volts)} already.`,
          hurts: 'On a sunny day the loads are off while the charger waits.',
          remedies: [],
        },
      ];
    });
  },
};
