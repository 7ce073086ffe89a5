import { firstBearingStair } from '../../settings';
import { amps, celsius, chargersWithCards, mostAmps } from '../words';
import type { FindingRule } from '../finding';

/**
 * Above the cutoffs, the sources together give more than the derating table allows. Each source counts from its own cutoff;
 * a stair is left only when the coldest cell that a cutoff lets charge is past it, so the cutoff's own margin is taken off again.
 */
export const deratingExceeded: FindingRule = {
  code: 'deratingExceeded',
  check: ({ plan }) => {
    const sources = chargersWithCards(plan).map(({ charger, card }) => {
      const cutoff = plan.setting(charger.id, 'lowTempCutoff');
      const least = plan.stairs[0]?.fromC ?? 0;
      const margin = (cutoff?.band?.min ?? least) - least;
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
    const bearing = firstBearingStair(plan.input, plan.stairs);
    const coldest = plan.stairs[0];
    return [
      {
        code: 'deratingExceeded',
        severity: 'stop',
        role: 'lowTempCutoff',
        text: `Below ${celsius(last.stair.toC)} the sheet allows ${over.map(({ stair }) => `${amps(stair.amps)} up to ${celsius(stair.toC)}`).join(', ')}, and the sources may give ${amps(first.sum)}.`,
        hurts: 'Too much current into cold cells plates lithium although the cutoff itself is right.',
        remedies: [
          ...(bearing
            ? [
                {
                  label: `Raise every cutoff past ${celsius(bearing.fromC)}`,
                  changes: [{ kind: 'setSchool', school: 'coldCurrent', to: 'raiseCutoff' } as const],
                },
              ]
            : []),
          ...(coldest
            ? [
                {
                  label: `Lower the limits to ${amps(coldest.amps)} together`,
                  changes: [{ kind: 'setSchool', school: 'coldCurrent', to: 'lowerLimits' } as const],
                },
              ]
            : []),
        ],
      },
    ];
  },
};
