import { coldPlan, type ColdPlan, type Plan, type Schools, mostAmps } from '../../settings';
import { cutoffMargin } from '../../system';
import { chargersWithCards } from '../places';
import type { Remedy } from '../finding';
import { jobRule } from '../rule';

/**
 * Above the cutoffs, the sources together give more than the derating table allows. Each source counts from its own cutoff;
 * a stair is left only when the coldest cell that a cutoff lets charge is past it, so the cutoff's own margin is taken off again.
 */
export const deratingExceeded = jobRule((plan) => {
  const sources = chargersWithCards(plan).map(({ charger, card }) => {
    const cutoff = plan.setting(charger.id, 'lowTempCutoff');
    const margin = cutoffMargin(charger.sensor, plan.input.system.site).total;
    return { coldestCellC: cutoff?.trueValue == null ? -Infinity : cutoff.trueValue - margin, amps: mostAmps(plan, charger, card) };
  });
  const over = plan.stairs
    .map((stair) => ({ stair, sum: sources.filter((s) => s.coldestCellC < stair.toC - 1e-9).reduce((total, s) => total + s.amps, 0) }))
    .filter(({ stair, sum }) => sum > stair.amps + 1e-9);
  const last = over.at(-1);
  const first = over[0];
  if (!first || !last || plan.input.system.site.bankLowC >= last.stair.toC) return null;
  return {
    severity: 'stop',
    role: 'lowTempCutoff',
    facts: { givesA: first.sum, allowed: over.map(({ stair }) => ({ belowC: stair.toC, amps: stair.amps })) },
    remedies: waysOut(plan),
  };
});

/** Ways out that keep within the table, each with the numbers it would come to. */
function waysOut(plan: Plan): readonly Remedy[] {
  const within = (to: Schools['coldCurrent'], remedy: (cold: ColdPlan, changes: Remedy['changes']) => Remedy): readonly Remedy[] => {
    const cold = coldPlan(plan.input, plan.ceiling.binding?.amps ?? Infinity, plan.stairs, to);
    return cold.bears && to !== plan.input.schools.coldCurrent ? [remedy(cold, [{ kind: 'setSchool', school: 'coldCurrent', to }])] : [];
  };
  const starts = (sources: ColdPlan['sources']) => sources.map(({ charger, fromC }) => ({ device: charger, fromC }));
  return [
    ...within('raiseCutoff', ({ sources }, changes) => ({ does: 'raiseCutoffs', facts: { pastC: Math.max(...sources.map((s) => s.fromC)) }, changes })),
    ...within('stagger', ({ sources }, changes) => ({ does: 'stagger', facts: { sources: starts(sources) }, changes })),
    ...within('lowerLimits', ({ sources, shares }, changes) => ({
      does: 'lowerLimits',
      facts: {
        togetherA: sources.filter((s) => shares.has(s.charger)).reduce((sum, s) => sum + s.amps, 0),
        late: starts(sources.filter((s) => !shares.has(s.charger))),
      },
      changes,
    })),
  ];
}
