import { cardOf } from '../../settings';
import type { FindingRule } from '../finding';

/** A charger whose card the job does not carry: nothing can be worked out for it. */
export const cardMissing: FindingRule<{ card: string }> = {
  belongsTo: 'system',
  check: ({ plan }) =>
    plan.input.system.chargers
      .filter((charger) => !cardOf(plan.input, charger))
      .map((charger) => ({ severity: 'stop', charger: charger.id, facts: { card: charger.card } })),
};
