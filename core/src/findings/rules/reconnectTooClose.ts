import { per12 } from '../../settings';
import { judged } from '../places';
import { puttingRight, settingRule } from '../rule';

/** Least dead band between load disconnect and reconnect, V per 12 V: what a bank recovers when a load goes off. */
const leastPer12V = 0.3;

/** Loads that come back as soon as they are off: the reconnect, as set or as found, stands just above the disconnect. */
export const reconnectTooClose = settingRule((s, plan) => {
  if (s.role !== 'loadReconnect') return null;
  const reconnect = judged(s);
  const disconnect = judged(plan.setting(s.charger, 'loadDisconnect'));
  const least = per12(plan, leastPer12V);
  if (!reconnect || !disconnect || reconnect.value - disconnect.value >= least - 1e-9) return null;
  return {
    severity: 'attention',
    facts: { reconnectV: reconnect.value, disconnectV: disconnect.value, leastV: least },
    remedies: s.override || reconnect.found ? puttingRight(s) : [],
  };
});
