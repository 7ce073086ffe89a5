import { formatDuration, formatQuantity, measure, readingBudget, rectangular, type BudgetLine, type Measured } from '../../quantity';
import type { Requirement } from '../../requirements';
import { judge, type Verdict } from '../judge';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps, referredVolts, type ChargerLevels, type StageSpan } from '../inference';
import { robustLevel } from '../statistics';
import { base, clock, nameOf, notTested, type Evidence, type ProofRow } from './context';

/** Absorb is completed by time at voltage or by the bank's net current having fallen, whichever the log can show. */
export function absorbCompleted(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const spans = e.spans.get(charger)?.filter((s) => s.stage === 'absorb');
  const levels = e.levels.get(charger);
  const name = nameOf(e, charger);
  if (!spans || !levels) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const best = spans.reduce<StageSpan | null>((a, b) => (a === null || b.atVoltageSeconds > a.atVoltageSeconds ? b : a), null);
  if (!best || best.atVoltageSeconds === 0)
    return notTested(requirement, `${name} was never seen at absorb voltage in this log.`, 'A day with enough sun to reach absorb would test it.');
  const interval = e.report.intervalSeconds;
  const edges = Math.max(2, countEdges(e, best, levels));
  const timeBudget: BudgetLine[] = [
    {
      name: `Sampling every ${formatDuration(interval)}: each of ${edges} edges is known to half a sample`,
      halfWidth: interval * Math.sqrt(edges) * 0.5,
      divisor: rectangular,
      kind: 'systematic',
    },
  ];
  // Where the charger’s own timer begins to count is known to its threshold, and its clock to one part in a hundred.
  const strict = atVoltage(e, charger, best, levels, 0.4);
  timeBudget.push({
    name: 'The charger’s own threshold for “at voltage”, and its clock (1 %)',
    halfWidth: Math.max(best.atVoltageSeconds * 0.01, Math.abs(best.atVoltageSeconds - strict) / 2),
    divisor: rectangular,
    kind: 'systematic',
  });
  const time = measure(best.atVoltageSeconds, timeBudget, e.plan.input.coverage);
  const span = { from: best.from, to: best.to };
  const byTime = requirement.band.min === undefined ? null : judge(time, requirement.band);
  const minutes = `${formatQuantity(time.value / 60, 'min', 0)} ± ${formatQuantity(Math.max(time.uncertainty / 60, 0.1), 'min', 1)} at voltage between ${clock(e, best.from)} and ${clock(e, best.to)}`;
  const asked = requirement.band.min === undefined ? '' : `, ${formatDuration(requirement.band.min)} asked`;
  const taper = taperAtEnd(e, charger, best, levels);
  const inMinutes = { ...base(requirement), unit: 'min', digits: 0, band: requirement.band.min === undefined ? {} : { min: requirement.band.min / 60 } };
  const timeRow = (verdict: Verdict, why: string, next?: string): ProofRow => ({
    ...inMinutes,
    verdict,
    measured: time.value / 60,
    uncertainty: time.uncertainty / 60,
    budget: time.budget.map((line) => ({ ...line, halfWidth: line.halfWidth / 60 })),
    evidence: span,
    why,
    ...(next ? { next } : {}),
  });
  if (byTime === 'pass') return timeRow('pass', `${name} counted ${minutes}${asked}.`);
  if (requirement.taperA !== undefined && taper) {
    const band = { max: requirement.taperA };
    const verdict = judge(taper, band);
    const words = `net bank current at the end ${formatQuantity(taper.value, 'A', 1)} ± ${formatQuantity(taper.uncertainty, 'A', 1)}, at most ${formatQuantity(requirement.taperA, 'A', 1)} asked`;
    if (verdict === 'pass')
      return {
        ...base(requirement),
        unit: 'A',
        digits: 1,
        band,
        verdict,
        measured: taper.value,
        uncertainty: taper.uncertainty,
        budget: taper.budget,
        evidence: span,
        why: `${name} counted ${minutes}; ${words}. The fallen current ends absorb.`,
      };
    if (byTime === 'fail' && verdict === 'fail') return timeRow('fail', `${name} counted only ${minutes}${asked}, and the ${words}.`);
    return timeRow(
      'inconclusive',
      `${name} counted ${minutes}${asked}; ${words}.`,
      'A log with a shorter interval or a better current reading would settle it.',
    );
  }
  if (byTime === 'fail')
    return timeRow(
      requirement.taperA === undefined ? 'fail' : 'inconclusive',
      `${name} counted only ${minutes}${asked}${requirement.taperA === undefined ? '' : ', and the log does not show the bank current falling'}.`,
      'A longer sunny spell would settle it.',
    );
  return timeRow('inconclusive', `${name} counted ${minutes}${asked}.`, 'A log with a shorter interval would settle it.');
}

/** Seconds at voltage in a span, with a threshold of so many tolerances below the level. */
function atVoltage(e: Evidence, charger: string, span: StageSpan, levels: ChargerLevels, tolerances: number): number {
  const seen = e.inferred.get(charger);
  const floor = (seen?.absorbV ?? levels.absorbV) - (seen?.toleranceV ?? levels.toleranceV) * tolerances;
  const amps = chargerAmps(e.log, charger);
  const longest = longestStep(e.report);
  let seconds = 0;
  for (let i = span.first; i <= span.last; i++)
    if ((amps?.[i] ?? 0) > levels.zeroA && referredVolts(e.log, levels, i) >= floor) seconds += claimedSeconds(e.log.time, i, longest);
  return seconds;
}

/** How often a span crosses the absorb level. */
function countEdges(e: Evidence, span: StageSpan, levels: ChargerLevels): number {
  let edges = 0;
  let before = false;
  for (let i = span.first; i <= span.last; i++) {
    const at = referredVolts(e.log, levels, i) >= levels.absorbV - levels.toleranceV;
    if (at !== before) edges++;
    before = at;
  }
  return edges;
}

/** Net bank current over the last minute at voltage; null without a bank current. */
function taperAtEnd(e: Evidence, charger: string, span: StageSpan, levels: ChargerLevels): Measured | null {
  const { bankAmps, time } = e.log;
  if (!bankAmps) return null;
  const level = e.inferred.get(charger)?.absorbV ?? levels.absorbV;
  const amps = chargerAmps(e.log, charger);
  const counts = (i: number): boolean =>
    referredVolts(e.log, levels, i) >= level - levels.toleranceV && (amps?.[i] ?? 0) > levels.zeroA && Number.isFinite(bankAmps[i]);
  let last = span.last;
  while (last > span.first && !counts(last)) last--;
  const values: number[] = [];
  for (let i = last; i >= span.first && (time[last] ?? 0) - (time[i] ?? 0) <= 60; i--) if (counts(i)) values.push(bankAmps[i] ?? 0);
  if (values.length === 0) return null;
  const { level: net, standardError } = robustLevel(values);
  return measure(
    net,
    [
      ...readingBudget(e.instrument.name, net, e.instrument.amps),
      { name: `Scatter of ${values.length} samples`, halfWidth: standardError, divisor: 1, kind: 'random' },
    ],
    e.plan.input.coverage,
  );
}
