import { coldPlan, type ColdPlan, type Schools } from '../../settings';
import { cutoffMargin } from '../../system';
import { amps, celsius, chargersWithCards, listed, mostAmps } from '../words';
import type { Finding, FindingRule } from '../finding';

/**
 * Above the cutoffs, the sources together give more than the derating table allows. Each source counts from its own cutoff;
 * a stair is left only when the coldest cell that a cutoff lets charge is past it, so the cutoff's own margin is taken off again.
 */
export const deratingExceeded: FindingRule = {
  code: 'deratingExceeded',
  check: ({ plan }) => {
    const sources = chargersWithCards(plan).map(({ charger, card }) => {
      const cutoff = plan.setting(charger.id, 'lowTempCutoff');
      const margin = cutoffMargin(charger.sensor, plan.input.system.site).total;
      return {
        charger,
        coldestCellC: cutoff?.trueValue == null ? -Infinity : cutoff.trueValue - margin,
        amps: mostAmps(plan, charger, card),
      };
    });
    const over = plan.stairs
      .map((stair) => ({ stair, sum: sources.filter((s) => s.coldestCellC < stair.toC - 1e-9).reduce((total, s) => total + s.amps, 0) }))
      .filter(({ stair, sum }) => sum > stair.amps + 1e-9);
    const last = over.at(-1);
    const first = over[0];
    if (!first || !last || plan.input.system.site.bankLowC >= last.stair.toC) return [];
    return [
      {
        code: 'deratingExceeded',
        severity: 'stop',
        role: 'lowTempCutoff',
        text: `Below ${celsius(last.stair.toC)} the sheet allows ${over.map(({ stair }) => `${amps(stair.amps)} up to ${celsius(stair.toC)}`).join(', ')}, and the sources may give ${amps(first.sum)}.`,
        hurts: 'Too much current into cold cells plates lithium although the cutoff itself is right. A charger that derates by temperature is another way out.',
        remedies: waysOut.flatMap(({ to, label }): Finding['remedies'] => {
          const cold = coldPlan(plan.input, plan.ceiling.binding?.amps ?? Infinity, plan.stairs, to);
          return cold.bears && to !== plan.input.schools.coldCurrent
            ? [{ label: label(cold, plan.input.system.chargers), changes: [{ kind: 'setSchool', school: 'coldCurrent', to }] }]
            : [];
        }),
      },
    ];
  },
};

type Names = readonly { readonly id: string; readonly name: string }[];

/** "DC-DC from 0 °C, Solar fore and Solar aft from 5 °C". */
function starts(cold: ColdPlan, names: Names): string {
  const stairs = [...new Set(cold.sources.map((s) => s.fromC))].sort((a, b) => a - b);
  const at = (fromC: number): string[] => cold.sources.filter((s) => s.fromC === fromC).map((s) => names.find((n) => n.id === s.charger)?.name ?? s.charger);
  return stairs.map((fromC) => `${listed(at(fromC))} from ${celsius(fromC)}`).join(', ');
}

/** Ways out, each with the numbers it would come to. */
const waysOut: readonly { readonly to: Schools['coldCurrent']; readonly label: (cold: ColdPlan, names: Names) => string }[] = [
  { to: 'raiseCutoff', label: (cold) => `Raise every cutoff past ${celsius(Math.max(...cold.sources.map((s) => s.fromC)))}` },
  { to: 'stagger', label: (cold, names) => `Stagger: ${starts(cold, names)}` },
  {
    to: 'lowerLimits',
    label: (cold, names) => {
      const limited = cold.sources.filter((s) => cold.shares.has(s.charger));
      const others = cold.sources.filter((s) => !cold.shares.has(s.charger));
      const late = others.map((s) => `, ${names.find((n) => n.id === s.charger)?.name ?? s.charger} from ${celsius(s.fromC)}`).join('');
      return `Lower the limits to ${amps(limited.reduce((sum, s) => sum + s.amps, 0))} together${late}`;
    },
  },
];
