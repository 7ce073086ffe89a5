import { formatDuration } from '../../quantity';
import { amps, chargersWithCards, listed } from '../words';
import type { FindingRule } from '../finding';

/** A charger that, running alone, feeds more to the loads than its taper value: by current it would never leave absorb. */
export const taperBelowLoads: FindingRule = {
  code: 'taperBelowLoads',
  short: 'Taper below loads',
  check: ({ plan }) => {
    const load = plan.input.system.loads.maxA;
    const stuck = chargersWithCards(plan).filter(({ charger, card }) => {
      const taper = plan.setting(charger.id, 'taperCurrent');
      return card.absorb.currentSeen === 'ownOutput' && typeof taper?.trueValue === 'number' && !taper.off && taper.trueValue <= load;
    });
    const first = stuck[0];
    if (!first) return [];
    const taper = plan.setting(first.charger.id, 'taperCurrent')?.trueValue ?? 0;
    const time = plan.setting(first.charger.id, 'absorbTime')?.trueValue ?? null;
    const timed = first.card.absorb.end !== 'taper' && time !== null;
    return [
      {
        code: 'taperBelowLoads',
        severity: timed ? 'note' : 'stop',
        charger: first.charger.id,
        role: 'taperCurrent',
        text: `Alone on the bank, ${listed(stuck.map((s) => s.charger.name))} cannot fall below ${amps(taper, 1)} while the loads take ${amps(load)}${timed ? `; the timer of ${formatDuration(time)} ends absorb instead` : ''}.`,
        hurts: timed ? 'Absorb ends by time on such days, never by current.' : 'The charger never leaves absorb while the fridges run.',
        remedies: [],
      },
    ];
  },
};
