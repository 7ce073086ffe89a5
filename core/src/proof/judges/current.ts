import { formatDuration, formatQuantity, measure, readingBudget, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { allowedAmps } from '../../system';
import { statedFigure } from '../../sheet';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps } from '../inference';
import { base, clock, gapsLeftOut, judged, nameOf, notTested, type Evidence, type ProofRow } from './context';
import { heldMaximum } from './neverAboveMaximum';

/** Net current into the bank, or the sum of the chargers' where the log has only those. */
function into(e: Evidence): { at: (i: number) => number; words: string } | null {
  const { bankAmps, chargers } = e.log;
  if (bankAmps) return { at: (i) => bankAmps[i] ?? NaN, words: 'into the bank' };
  const all = e.plan.input.system.chargers.map((c) => chargers[c.id]?.amps);
  if (all.length === 0 || all.some((a) => a === undefined)) return null;
  return { at: (i) => all.reduce((sum, a) => sum + (a?.[i] ?? NaN), 0), words: 'from all chargers' };
}

const budgetOf = (e: Evidence, amps: number): BudgetLine[] => readingBudget(e.instrument.name, amps, e.instrument.amps);

/** The highest current into the bank that was held for the dwell time. */
export function currentCeiling(e: Evidence, requirement: Requirement): ProofRow {
  const current = into(e);
  if (!current) return notTested(requirement, 'The log has no current of the bank.', 'Log the bank’s current, or that of every charger.');
  const held = heldMaximum(e.log.time, current.at, requirement.dwellSeconds, longestStep(e.report));
  if (!held) return notTested(requirement, 'The log is too short to hold any current.', 'Bring in a longer log.');
  const most = requirement.band.max ?? Infinity;
  const measured = measure(held.value, budgetOf(e, held.value), e.plan.input.coverage);
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `The most that flowed ${current.words} for ${formatDuration(requirement.dwellSeconds)} was ${formatQuantity(held.value, 'A', 1)} ± ${formatQuantity(measured.uncertainty, 'A', 1)} at ${clock(e, held.from)}; ${formatQuantity(most, 'A', 0)} is the most allowed.${gapsLeftOut(e)}`,
  );
  // A day on which little was given proves nothing of what happens when all give their most.
  if (row.verdict === 'pass' && held.value < 0.6 * most)
    return {
      ...row,
      verdict: 'notTested',
      why: `${row.why} So little says nothing of a day on which all sources give their most.`,
      next: 'A log with all sources at full power, or a clamp meter with the loads off and on, would test it.',
    };
  return row;
}

/** The highest current of one charger against its own limit. */
export function currentAsProgrammed(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const amps = e.spans.has(charger) ? chargerAmps(e.log, charger) : undefined;
  if (!amps) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const held = heldMaximum(e.log.time, (i) => amps[i] ?? NaN, requirement.dwellSeconds, longestStep(e.report));
  if (!held) return notTested(requirement, 'The log is too short to hold any current.', 'Bring in a longer log.');
  const most = requirement.band.max ?? Infinity;
  const measured = measure(held.value, budgetOf(e, held.value), e.plan.input.coverage);
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `${name} gave at most ${formatQuantity(held.value, 'A', 1)} ± ${formatQuantity(measured.uncertainty, 'A', 1)} for ${formatDuration(requirement.dwellSeconds)}, at ${clock(e, held.from)}; it was told ${formatQuantity(most, 'A', 1)} at most.`,
  );
  if (row.verdict === 'pass' && held.value < 0.85 * most)
    return {
      ...row,
      verdict: 'notTested',
      why: `${row.why} It never came near its limit.`,
      next: 'An hour in which the source could give more than the limit would test it.',
    };
  return row;
}

/** The worst excess of current over what the sheet allows at the battery's temperature. */
export function currentForTemperature(e: Evidence, requirement: Requirement): ProofRow {
  const current = into(e);
  const warm = e.log.batteryC;
  if (!current || !warm)
    return notTested(requirement, `The log has no ${current ? 'battery temperature' : 'current of the bank'}.`, 'Log current and battery temperature.');
  const { plan, log } = e;
  const range = statedFigure(plan.input.sheet, 'chargeTemperature') ?? {};
  // Neighbours share their temperature: the last answer is kept.
  let lastC = NaN;
  let lastA = NaN;
  const limit = (c: number): number => {
    if (c === lastC) return lastA;
    lastC = c;
    lastA = allowedAmps(range, plan.stairs, plan.ceiling, c);
    return lastA;
  };
  const longest = longestStep(e.report);
  // The excess that was held for the dwell time, at the temperature of its own moment.
  const excess = (i: number): number => {
    const most = limit(warm[i] ?? NaN);
    const amps = current.at(i);
    return Number.isFinite(most) && amps > requirement.zeroA ? amps - most : amps <= requirement.zeroA ? -Infinity : NaN;
  };
  let stepped = 0;
  for (let i = 0; i < log.time.length; i++)
    if (current.at(i) > requirement.zeroA && limit(warm[i] ?? NaN) < (plan.ceiling.binding?.amps ?? Infinity)) stepped += claimedSeconds(log.time, i, longest);
  const held = heldMaximum(log.time, (i) => Math.max(-1e6, excess(i)), requirement.dwellSeconds, longest);
  if (!held || held.value <= -1e6)
    return notTested(requirement, 'Nothing was charged in this log at a known temperature.', 'Log a charge with battery temperature.');
  const i = log.time.findIndex((t) => t >= held.from);
  const celsius = warm[i] ?? NaN;
  const amps = current.at(i);
  const allowed = limit(celsius);
  const budget = budgetOf(e, amps);
  const measured = measure(held.value + allowed, budget, e.plan.input.coverage);
  // A warmer reading than the cells are would allow more than the sheet does: judged at both ends of the sensor's error.
  const t = e.instrument.temperatureErrorC;
  const easiest = Math.max(allowed, limit(celsius + t), limit(celsius - t));
  const hardest = Math.min(allowed, limit(celsius + t), limit(celsius - t));
  const top = measured.value + measured.uncertainty;
  const bottom = measured.value - measured.uncertainty;
  const verdict = top <= hardest ? 'pass' : bottom > easiest ? 'fail' : 'inconclusive';
  const words = `${formatQuantity(measured.value, 'A', 1)} ± ${formatQuantity(measured.uncertainty, 'A', 1)} flowed ${current.words} at ${formatQuantity(celsius, '°C', 1)}, at ${clock(e, held.from)}; at that temperature ${formatQuantity(allowed, 'A', 0)} is the most`;
  const row: ProofRow = {
    ...base(requirement),
    band: { max: allowed },
    verdict,
    measured: measured.value,
    uncertainty: measured.uncertainty,
    budget: measured.budget,
    evidence: { from: held.from, to: held.to },
    why: verdict === 'fail' ? `${words}.` : `Where current came nearest to its limit, ${words}.${gapsLeftOut(e)}`,
    ...(verdict === 'inconclusive'
      ? { next: `A battery temperature to ± ${formatQuantity(Math.max(0.1, t / 3), '°C', 1)}, or a better current reading, would settle it.` }
      : {}),
  };
  if (verdict === 'pass' && stepped < 600)
    return {
      ...row,
      verdict: 'notTested',
      why: `The battery was charged for only ${formatDuration(stepped)} at temperatures where the sheet allows less, so the log cannot show that it is kept to.`,
      next: 'A log through a cold morning would test it.',
    };
  return row;
}
