import { missing, type RoleRule } from '../context';
import { ownLimit, unlimitedA } from '../cold';
import type { Step } from '../setting';

/** Charge current limit: this charger's share of what the ceiling leaves after sources that cannot be limited, cut at its own rating, fuse and cable. */
export const chargeCurrentLimit: RoleRule = {
  role: 'chargeCurrentLimit',
  want: (context) => {
    const { input, ceiling, cold, charger, card } = context;
    if (!ceiling.binding) return missing(context, 'greatest charge current');
    const unlimited = input.system.chargers.reduce((amps, c) => amps + (unlimitedA(input, c) ?? 0), 0);
    const share = cold.shares.get(charger.id);
    if (!share) return missing(context, 'greatest charge current');
    const own = ownLimit(input, charger);
    const steps: Step[] = [
      {
        kind: 'start',
        words: cold.lowered
          ? 'Lowered to what the coldest stair of the sheet allows'
          : `Ceiling of the bank: ${ceiling.binding.name.toLowerCase()}, ${ceiling.binding.sum}`,
        value: cold.lowered ? cold.totalA - unlimited : cold.totalA,
        unit: 'A',
        digits: 0,
      },
      ...(unlimited > 0 && !cold.lowered
        ? [{ kind: 'change', words: 'Less what sources without a limit may give', value: -unlimited, unit: 'A', digits: 0 } as const]
        : []),
      { kind: 'change', words: share.words, value: share.uncut, unit: 'A', digits: 1 },
      ...(own.amps < share.uncut ? [{ kind: 'result', words: `Cut at ${own.name}`, value: own.amps, unit: 'A', digits: 0 } as const] : []),
    ];
    if (input.schools.limitMeasured === 'shunt')
      steps.push({
        kind: 'note',
        words:
          card.absorb.currentSeen === 'bank'
            ? 'School: measured at the shunt. Loads come on top; the bank gets the whole of it.'
            : `School: measured at the shunt, which this charger cannot see. Its own output is limited, and loads up to ${input.system.loads.maxA} A share it.`,
      });
    return { kind: 'number', exact: share.amps, band: { max: share.amps }, inset: 0, prefer: 'down', steps };
  },
};
