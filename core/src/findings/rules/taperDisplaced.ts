import { mostAmps } from '../../settings';
import { isSource, parameterFor } from '../../card';
import { chargersWithCards } from '../places';
import { jobRule } from '../rule';

/** Ways to end absorb in which a charger’s own current can end it. */
const byCurrent: readonly string[] = ['taper', 'whicheverFirst'];

/**
 * Chargers that end absorb on their own output beside a source that does not taper with them: it takes the current over, and their own falls under any
 * share long before the bank is full.
 */
export const taperDisplaced = jobRule((plan) => {
  const all = chargersWithCards(plan).filter(({ card }) => isSource(card.kind));
  const ending = all.filter(({ charger, card }) => {
    const taper = plan.setting(charger.id, 'taperCurrent');
    return card.absorb.currentSeen === 'ownOutput' && byCurrent.includes(card.absorb.end) && typeof taper?.trueValue === 'number' && !taper.off;
  });
  const others = all.filter(({ card }) => !parameterFor(card, 'taperCurrent') && card.absorb.currentSeen !== 'bank');
  const first = ending[0];
  if (!first || others.length === 0) return null;
  const taperA = plan.setting(first.charger.id, 'taperCurrent')?.trueValue ?? 0;
  const othersA = others.reduce((sum, { charger, card }) => sum + mostAmps(plan, charger, card), 0);
  const bankA = taperA + othersA - plan.input.system.loads.minA;
  if (bankA <= 2 * taperA) return null;
  return {
    severity: 'attention',
    charger: first.charger.id,
    role: 'taperCurrent',
    facts: { devices: ending.map((s) => s.charger.id), taperA, others: others.map((s) => s.charger.id), othersA, bankA },
    remedies: plan.input.schools.absorbEnd === 'time' ? [] : [{ does: 'timeEndsAbsorb', changes: [{ kind: 'setSchool', school: 'absorbEnd', to: 'time' }] }],
  };
});
