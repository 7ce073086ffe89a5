import { relayPlan } from '../../settings';
import { companionRule } from '../rule';

/** A relay between charger and battery. */
export const relayWrongSide = companionRule('thermostat', (companion, plan) => {
  const { relay } = companion;
  const wrong = (relayPlan(plan, companion.id)?.sources ?? []).filter((s) => s.breaks !== s.right && s.breaks !== 'output');
  const first = wrong[0];
  if (!relay || !first) return null;
  const right = [...new Set(wrong.map((s) => s.right))];
  return {
    severity: 'stop',
    role: 'outputMode',
    facts: { breaks: relay.breaks, devices: wrong.map((s) => s.charger.id), right },
    remedies:
      right.length === 1
        ? [
            {
              does: 'recordRelayMoved',
              facts: { to: first.right },
              changes: [{ kind: 'setCompanion', companion: companion.id, values: { relay: { ...relay, breaks: first.right } } }],
            },
          ]
        : [],
  };
});
