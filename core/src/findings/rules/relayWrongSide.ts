import { relayPlan, breakWords } from '../../settings';
import type { FindingRule, Finding } from '../finding';
import { listed, companionsOf } from '../words';

/** A relay between charger and battery. */
export const relayWrongSide: FindingRule = {
  code: 'relayWrongSide',
  short: 'Relay on wrong side',
  check: ({ plan }) =>
    companionsOf(plan, 'thermostat').flatMap(({ companion }): Finding[] => {
      const relay = relayPlan(plan, companion.id);
      const wrong = (relay?.sources ?? []).filter((s) => s.breaks !== s.right && s.breaks !== 'output');
      if (!relay || wrong.length === 0 || !companion.relay) return [];
      const right = wrong[0]?.right ?? 'arraySide';
      return [
        {
          code: 'relayWrongSide',
          severity: 'stop',
          charger: companion.id,
          role: 'outputMode',
          text: `${companion.name} opens ${breakWords[companion.relay.breaks]} of ${listed(wrong.map((s) => s.charger.name))}; it belongs on ${listed([...new Set(wrong.map((s) => breakWords[s.right]))])}.`,
          hurts:
            companion.relay.breaks === 'batterySide'
              ? 'Each cold night the charger loses its supply and its count, and one that lights up on the array alone can guess the system voltage wrongly.'
              : 'It does not stop this source.',
          remedies:
            new Set(wrong.map((s) => s.right)).size === 1
              ? [
                  {
                    label: `It is on ${breakWords[right]} now`,
                    changes: [{ kind: 'setCompanion', companion: companion.id, values: { relay: { ...companion.relay, breaks: right } } }],
                  },
                ]
              : [],
        },
      ];
    }),
};
