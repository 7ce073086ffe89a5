import { chargerRule } from '../rule';

/** A charger that was not made for this chemistry. */
export const chemistryNotSupported = chargerRule(
  ({ card }, plan) =>
    card.ratings.chemistries.includes(plan.input.sheet.chemistry)
      ? null
      : { severity: 'stop', facts: { model: card.model, madeFor: card.ratings.chemistries, chemistry: plan.input.sheet.chemistry } },
  { belongsTo: 'system' },
);
