import { chargerRule } from '../rule';

/** A charger entered as a follower that cannot take its leader's figures. */
export const followerCannot = chargerRule(
  ({ charger, card }, plan) => {
    const leader = plan.input.system.chargers.find((c) => c.id === charger.follows);
    if (!leader || (card.canFollow && leader.card === charger.card)) return null;
    return { severity: 'attention', role: 'follows', facts: { leader: leader.id, otherKind: card.canFollow, model: card.model } };
  },
  { belongsTo: 'system' },
);
