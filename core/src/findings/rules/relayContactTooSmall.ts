import { relayPlan, breakWords } from '../../settings';
import type { FindingRule, Finding } from '../finding';
import { amps, volts, companionsOf } from '../words';

/** A relay whose contact cannot break what it switches. */
export const relayContactTooSmall: FindingRule = {
  code: 'relayContactTooSmall',
  short: 'Contact too small',
  check: ({ plan }) =>
    companionsOf(plan, 'thermostat').flatMap(({ companion }): Finding[] => {
      const relay = relayPlan(plan, companion.id);
      return (relay?.sources ?? [])
        .filter((s) => !s.enough)
        .map((s) => ({
          code: 'relayContactTooSmall',
          severity: 'stop',
          charger: companion.id,
          role: 'thermostatSetpoint',
          text: `${relay?.contact.own ? `${companion.name}’s own contact` : `The relay of ${companion.name}`} breaks ${relay?.contact.volts === null ? 'an unknown voltage' : volts(relay?.contact.volts ?? 0, 0)} and ${relay?.contact.amps === null ? 'an unknown current' : amps(relay?.contact.amps ?? 0)}; on ${breakWords[s.breaks]} of ${s.charger.name} it must break ${volts(s.volts ?? 0, 0)} and ${amps(s.amps ?? 0)}.`,
          hurts: 'A direct-current arc does not go out in a contact that is too small: it welds shut, or burns.',
          remedies: [],
        }));
    }),
};
