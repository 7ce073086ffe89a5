import { chargersWithCards } from '../places';
import { jobRule } from '../rule';

/** A charger that, running alone, feeds more to the loads than its taper value: by current it would never leave absorb. */
export const taperBelowLoads = jobRule((plan) => {
  const loadA = plan.input.system.loads.maxA;
  const stuck = chargersWithCards(plan).filter(({ charger, card }) => {
    const taper = plan.setting(charger.id, 'taperCurrent');
    return card.absorb.currentSeen === 'ownOutput' && typeof taper?.trueValue === 'number' && !taper.off && taper.trueValue <= loadA;
  });
  const first = stuck[0];
  if (!first) return null;
  const taperA = plan.setting(first.charger.id, 'taperCurrent')?.trueValue ?? 0;
  const time = plan.setting(first.charger.id, 'absorbTime')?.trueValue ?? null;
  const timerS = first.card.absorb.end === 'taper' ? null : time;
  return {
    severity: timerS === null ? 'stop' : 'note',
    charger: first.charger.id,
    role: 'taperCurrent',
    facts: { devices: stuck.map((s) => s.charger.id), taperA, loadA, timerS },
  };
});
