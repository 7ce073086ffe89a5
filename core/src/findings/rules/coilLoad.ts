import { formatQuantity, formatNumber } from '../../quantity';
import { relayPlan } from '../../settings';
import type { FindingRule, Finding } from '../finding';
import { companionsOf } from '../words';

/** A coil that takes more than this part of the bank in a day is worth a word. */
const worth = 0.01;

/** What the coil of a relay that is held closed all day takes from the bank. */
export const coilLoad: FindingRule = {
  code: 'coilLoad',
  belongsTo: 'system',
  check: ({ plan }) =>
    companionsOf(plan, 'thermostat').flatMap(({ companion }): Finding[] => {
      const perDay = relayPlan(plan, companion.id)?.coilWhPerDay ?? null;
      const bank = plan.facts.capacityAh * plan.facts.nominalVolts;
      const big = perDay !== null && perDay > worth * bank;
      const unfused = companion.relay?.coilW !== undefined && companion.relay.fusedSupply !== true;
      if (perDay === null || (!big && !unfused)) return [];
      return [
        {
          code: 'coilLoad',
          severity: unfused ? 'attention' : 'note',
          charger: companion.id,
          text: `The coil of ${companion.name}’s relay takes ${formatQuantity(perDay, 'Wh', 0)} a day, ${formatNumber((100 * perDay) / bank, 1)} % of the bank${unfused ? ', and no fused slot is entered for it' : ''}.`,
          hurts:
            'It is a standing load in the weeks with the least sun. A latching relay, or one that is closed only by day, takes less; give it a fuse of its own.',
          remedies: [],
        },
      ];
    }),
};
