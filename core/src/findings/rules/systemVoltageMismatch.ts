import { chargerRule } from '../rule';

/** A charger that cannot work at this bank's voltage. */
export const systemVoltageMismatch = chargerRule(
  ({ card }, plan) =>
    plan.facts.systemVolts !== null && card.ratings.systemVolts.includes(plan.facts.systemVolts)
      ? null
      : {
          severity: 'stop',
          role: 'systemVoltage',
          facts: { nominalV: plan.facts.nominalVolts, model: card.model, worksAtV: card.ratings.systemVolts },
        },
  { belongsTo: 'system' },
);
