import { parameterFor, plainEnd, toDevice } from '../../card';
import { deviceSetting, displacedTaper, endsByOwnCurrent, mostAmps, sourcesOf } from '../../settings';
import { jobRule } from '../rule';

/** Ways to end absorb in which a charger’s own current can end it. */
const byCurrent: readonly string[] = ['taper', 'whicheverFirst'];

/**
 * Chargers that end absorb on their own output beside a source that does not taper with them: it takes the current over, and their own falls under any
 * share long before the bank is full.
 */
export const taperDisplaced = jobRule((plan) => {
  const ending = sourcesOf(plan.input).flatMap(({ charger, card }) => {
    const taper = plan.setting(charger.id, 'taperCurrent');
    const taperA = taper?.off === false ? taper.trueValue : null;
    return endsByOwnCurrent(card) && byCurrent.includes(card.absorb.end) && taperA !== null ? [{ charger, card, taperA }] : [];
  });
  const first = ending[0];
  const displaced = first && displacedTaper(plan.input, first.taperA, (c, card) => mostAmps(plan, c, card));
  if (!first || !displaced) return null;
  const { taperA } = first;
  const atLeast = ending.every((e) => {
    const parameter = parameterFor(e.card, 'taperCurrent');
    if (!parameter || parameter.unit === 'choice') return true;
    const device = deviceSetting(plan.facts, e.card);
    const least = plainEnd(parameter, device.systemVolts, 'least');
    return least !== undefined && toDevice(parameter, e.taperA, device) <= least + 1e-9;
  });
  return {
    severity: 'attention',
    charger: first.charger.id,
    role: 'taperCurrent',
    facts: {
      devices: ending.map((e) => e.charger.id),
      taperA,
      others: displaced.others.map((c) => c.id),
      othersA: displaced.othersA,
      bankA: displaced.bankA,
      atLeast,
    },
    remedies: atLeast ? [] : [{ does: 'timeEndsAbsorb', changes: [{ kind: 'setSchool', school: 'absorbEnd', to: 'time' }] }],
  };
});
