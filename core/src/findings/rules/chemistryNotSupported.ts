import { chemistryWords } from '../../sheet';
import { chargersWithCards } from '../words';
import type { FindingRule } from '../finding';

/** A charger that was not made for this chemistry. */
export const chemistryNotSupported: FindingRule = {
  code: 'chemistryNotSupported',
  belongsTo: 'system',
  short: 'Wrong chemistry',
  check: ({ plan }) =>
    chargersWithCards(plan)
      .filter(({ card }) => !card.ratings.chemistries.includes(plan.input.sheet.chemistry))
      .map(({ charger, card }) => ({
        code: 'chemistryNotSupported',
        severity: 'stop',
        charger: charger.id,
        text: `${charger.name} (${card.model}) is made for ${card.ratings.chemistries.map((c) => chemistryWords[c]).join(', ')}, and the bank is ${chemistryWords[plan.input.sheet.chemistry]}.`,
        hurts: 'It lacks what this chemistry needs: a cold cutoff, or a way to end absorb.',
        remedies: [],
      })),
};
