import { unknownsOf } from '../../card';
import { chargerRule } from '../rule';

/** A charger of which little more than the plate is known: what is counted with in its place is a careful guess. */
export const cardNotKnown = chargerRule(
  ({ card }) => {
    const unknown = unknownsOf(card);
    return unknown.length === 0 ? null : { severity: 'attention', facts: { model: card.model, unknown } };
  },
  { belongsTo: 'system' },
);
