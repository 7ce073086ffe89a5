import { isSource, isUnknown } from '../../card';
import { chargersWithCards } from '../places';
import { jobRule } from '../rule';

/** Chargers of one bank that end absorb by different rules. */
export const absorbEndsDiffer = jobRule((plan) => {
  // Of those whose end nobody knows nothing can be said.
  const list = chargersWithCards(plan).filter(({ card }) => isSource(card.kind) && !isUnknown(card, 'absorbEnd') && !isUnknown(card, 'absorbCount'));
  const kinds = [...new Set(list.map(({ card }) => `${card.absorb.end}/${card.absorb.timerCounts}`))];
  if (kinds.length < 2) return null;
  return {
    severity: 'note',
    role: 'absorbTime',
    facts: {
      groups: kinds.map((kind) => {
        const alike = list.filter(({ card }) => `${card.absorb.end}/${card.absorb.timerCounts}` === kind);
        const { end, timerCounts } = alike[0]?.card.absorb ?? { end: 'none', timerCounts: 'wallClock' };
        return { devices: alike.map(({ charger }) => charger.id), end, wallClock: timerCounts === 'wallClock' };
      }),
    },
  };
});
