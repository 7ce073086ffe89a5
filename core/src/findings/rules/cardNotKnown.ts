import { chargerRule } from '../rule';

/** A charger of which little more than the plate is known: what is counted with in its place is a careful guess. */
export const cardNotKnown = chargerRule(
  ({ card }) => {
    const steps = card.parameters.filter((p) => p.unit !== 'choice' && (p.notKnown ?? []).length > 0).length;
    const unknown = card.notKnown ?? [];
    return steps === 0 && unknown.length === 0 ? null : { severity: 'attention', facts: { model: card.model, steps, unknown } };
  },
  { belongsTo: 'system' },
);
