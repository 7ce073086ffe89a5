import { jobRule } from '../rule';
import { amps, chargersWithCards } from '../words';

/** Two chargers of different rating found on the same current limit. */
export const limitCopied = jobRule('limitCopied', (plan) => {
  const found = chargersWithCards(plan).flatMap(({ charger, card }) => {
    const s = plan.setting(charger.id, 'chargeCurrentLimit');
    return s?.presentTrue !== undefined && s.trueValue !== null ? [{ charger, card, found: s.presentTrue, wanted: s.trueValue }] : [];
  });
  for (const a of found)
    for (const b of found)
      if (a.card.ratings.outputA > b.card.ratings.outputA && Math.abs(a.found - b.found) < 0.05 && Math.abs(b.found - b.wanted) > 0.5)
        return {
          severity: 'attention',
          role: 'chargeCurrentLimit',
          text: `${a.charger.name} (${amps(a.card.ratings.outputA)}) and ${b.charger.name} (${amps(b.card.ratings.outputA)}) were both found limited to ${amps(a.found)}, as if copied; ${amps(a.wanted)} and ${amps(b.wanted)} are worked out.`,
          hurts: 'One is over its cable, or the other below need.',
        };
  return null;
});
