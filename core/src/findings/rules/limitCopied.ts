import { chargersWithCards } from '../places';
import { jobRule } from '../rule';

/** Two chargers of different rating found on the same current limit. */
export const limitCopied = jobRule((plan) => {
  const found = chargersWithCards(plan).flatMap(({ charger, card }) => {
    const s = plan.setting(charger.id, 'chargeCurrentLimit');
    return s?.presentTrue !== undefined && s.trueValue !== null
      ? [{ device: charger.id, ratedA: card.ratings.outputA, foundA: s.presentTrue, worksOutA: s.trueValue }]
      : [];
  });
  for (const larger of found)
    for (const smaller of found)
      if (larger.ratedA > smaller.ratedA && Math.abs(larger.foundA - smaller.foundA) < 0.05 && Math.abs(smaller.foundA - smaller.worksOutA) > 0.5)
        return { severity: 'attention', role: 'chargeCurrentLimit', facts: { larger, smaller } };
  return null;
});
