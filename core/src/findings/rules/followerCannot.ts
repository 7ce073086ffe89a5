import { chargerRule } from '../rule';

/** A charger entered as a follower that cannot take its leader's figures. */
export const followerCannot = chargerRule(
  'followerCannot',
  ({ charger, card }, plan) => {
    const leader = plan.input.system.chargers.find((c) => c.id === charger.follows);
    if (!leader || (card.canFollow && leader.card === charger.card)) return null;
    return {
      severity: 'attention',
      role: 'follows',
      text: card.canFollow
        ? `${charger.name} is entered as following ${leader.name}, which is of another kind.`
        : `${charger.name} (${card.model}) cannot take its figures from ${leader.name}.`,
      hurts: 'Its own values count. They are worked out and keyed like those of any other charger.',
    };
  },
  { belongsTo: 'system' },
);
