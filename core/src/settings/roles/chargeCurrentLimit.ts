import { chargerAmpacity, continuousFuseFactor } from '../../system';
import { missing, type RoleRule } from '../context';
import { ratedSum, unlimitedA } from '../cold';
import type { Step } from '../setting';

/** Charge current limit: this charger's share by rating of what the ceiling leaves after sources that cannot be limited, cut at its own rating, fuse and cable. */
export const chargeCurrentLimit: RoleRule = {
  role: 'chargeCurrentLimit',
  want: (context) => {
    const { input, ceiling, stairs, card, charger } = context;
    if (!ceiling.binding) return missing(context, 'greatest charge current');
    const lowered = input.schools.coldCurrent === 'lowerLimits' && stairs[0] !== undefined && stairs[0].amps < ceiling.binding.amps;
    const total = lowered && stairs[0] ? stairs[0].amps : ceiling.binding.amps;
    const unlimited = input.system.chargers.reduce((amps, c) => amps + (unlimitedA(input, c) ?? 0), 0);
    const sum = ratedSum(input) - unlimited;
    const left = Math.max(0, total - unlimited);
    const share = (left * card.ratings.outputA) / sum;
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
      ...(unlimited > 0 ? [{ kind: 'change', words: 'Less what sources without a limit may give', value: -unlimited, unit: 'A', digits: 0 } as const] : []),
      { kind: 'change', words: `Share by rating, ${card.ratings.outputA} of ${sum} A`, value: share, unit: 'A', digits: 1 },
    ];
    const cable = chargerAmpacity(charger);
    const own = [
      { name: 'its rating', amps: card.ratings.outputA },
      ...(charger.fuseA === undefined ? [] : [{ name: `its fuse, ${charger.fuseA} A × ${continuousFuseFactor}`, amps: charger.fuseA * continuousFuseFactor }]),
      ...(cable === null ? [] : [{ name: 'its cable', amps: cable }]),
    ].reduce((a, b) => (b.amps < a.amps ? b : a));
    if (own.amps < share) steps.push({ kind: 'change', words: `Cut at ${own.name}`, value: own.amps, unit: 'A', digits: 0 });
    const exact = Math.min(share, own.amps);
    return { kind: 'number', exact, band: { max: exact }, inset: 0, prefer: 'down', steps };
  },
};
