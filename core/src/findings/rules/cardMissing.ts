import { cardOf } from '../../settings';
import type { FindingRule } from '../finding';

/** A charger whose card the job does not carry: nothing can be worked out for it. */
export const cardMissing: FindingRule = {
  code: 'cardMissing',
  belongsTo: 'system',
  short: 'No card',
  check: ({ plan }) =>
    plan.input.system.chargers
      .filter((charger) => !cardOf(plan.input, charger))
      .map((charger) => ({
        code: 'cardMissing',
        severity: 'stop',
        charger: charger.id,
        text: `${charger.name} names the card “${charger.card}”, which this job does not carry.`,
        hurts: 'No setting can be worked out for it. Choose its model on System.',
        remedies: [],
      })),
};
