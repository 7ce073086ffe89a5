import { relayPlan } from '../../settings';
import { companionRule } from '../rule';

/** A relay whose contact cannot break what it switches. */
export const relayContactTooSmall = companionRule('thermostat', (companion, plan) => {
  const relay = relayPlan(plan, companion.id);
  return (relay?.sources ?? []).flatMap((s) =>
    s.enough || !relay
      ? []
      : [
          {
            severity: 'stop' as const,
            role: 'thermostatSetpoint' as const,
            facts: {
              own: relay.contact.own,
              volts: relay.contact.volts,
              amps: relay.contact.amps,
              breaks: s.breaks,
              device: s.charger.id,
              mustVolts: s.volts ?? null,
              mustAmps: s.amps ?? null,
            },
          },
        ],
  );
});
