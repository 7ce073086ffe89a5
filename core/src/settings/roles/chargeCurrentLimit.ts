import { continuousFuseFactor } from '../../system';
import { missing, type RoleRule } from '../context';
import { ratedSum } from '../cold';
import type { Step } from '../setting';

/** Charge current limit: this charger's share of the ceiling by rating, cut at its own rating, fuse and cable. */
export const chargeCurrentLimit: RoleRule = {
  role: 'chargeCurrentLimit',
  want: (context) => {
    const { input, ceiling, stairs, card, charger } = context;
    if (!ceiling.binding) return missing(context, 'greatest charge current');
    const lowered = input.schools.coldCurrent === 'lowerLimits' && stairs[0] !== undefined && stairs[0].amps < ceiling.binding.amps;
    const total = lowered && stairs[0] ? stairs[0].amps : ceiling.binding.amps;
    const sum = ratedSum(input);
    const share = (total * card.ratings.outputA) / sum;
    const steps: Step[] = [
      {
        kind: 'start',
        words: lowered
          ? 'Lowered to what the coldest stair of the sheet allows'
          : `Ceiling of the bank: ${ceiling.binding.name.toLowerCase()}, ${ceiling.binding.sum}`,
        value: total,
        unit: 'A',
        digits: 0,
      },
      { kind: 'change', words: `Share by rating, ${card.ratings.outputA} of ${sum} A`, value: share, unit: 'A', digits: 1 },
    ];
    const own = [
      { name: 'its rating', amps: card.ratings.outputA },
      ...(charger.fuseA === undefined ? [] : [{ name: `its fuse, ${charger.fuseA} A × ${continuousFuseFactor}`, amps: charger.fuseA * continuousFuseFactor }]),
      ...(charger.cableA === undefined ? [] : [{ name: 'its cable', amps: charger.cableA }]),
    ].reduce((a, b) => (b.amps < a.amps ? b : a));
    if (own.amps < share) steps.push({ kind: 'change', words: `Cut at ${own.name}`, value: own.amps, unit: 'A', digits: 0 });
    const exact = Math.min(share, own.amps);
    return { kind: 'number', exact, band: { max: exact }, inset: 0, prefer: 'down', steps };
  },
};
