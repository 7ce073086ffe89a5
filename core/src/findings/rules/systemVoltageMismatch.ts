import { chargersWithCards } from '../words';
import type { FindingRule } from '../finding';

/** A charger that cannot work at this bank's voltage. */
export const systemVoltageMismatch: FindingRule = {
  code: 'systemVoltageMismatch',
  belongsTo: 'system',
  short: 'Wrong system voltage',
  check: ({ plan }) =>
    chargersWithCards(plan)
      .filter(({ card }) => plan.facts.systemVolts === null || !card.ratings.systemVolts.includes(plan.facts.systemVolts))
      .map(({ charger, card }) => ({
        code: 'systemVoltageMismatch',
        severity: 'stop',
        charger: charger.id,
        role: 'systemVoltage',
        text: `The bank is ${plan.facts.nominalVolts.toFixed(1)} V nominal; ${charger.name} (${card.model}) works at ${card.ratings.systemVolts.join(', ')} V.`,
        hurts: 'On the wrong system voltage all setpoints are doubled or halved.',
        remedies: [],
      })),
};
