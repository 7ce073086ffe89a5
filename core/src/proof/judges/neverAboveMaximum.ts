import { formatDuration, formatQuantity, measure, readingBudget, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { blindSpot, clock, gapsLeftOut, judged, notTested, temperatureLine, type Evidence, type ProofRow } from './context';

/** The highest voltage that was held for the dwell time, against the (for lead: compensated) maximum. */
export function neverAboveMaximum(e: Evidence, requirement: Requirement): ProofRow {
  const { log } = e;
  const limit = requirement.band.max ?? Infinity;
  const slope = requirement.compensation?.slope ?? 0;
  const reference = requirement.compensation?.referenceC ?? 25;
  if (slope !== 0 && !log.batteryC)
    return notTested(requirement, 'The maximum moves with battery temperature, and the log has none.', 'Log the battery temperature too.');
  const referred = (i: number): number => (log.bankVolts[i] ?? NaN) - (slope === 0 ? 0 : slope * ((log.batteryC?.[i] ?? reference) - reference));
  const longest = longestStep(e.report);
  const held = heldMaximum(log.time, referred, requirement.dwellSeconds, longest);
  if (!held) return notTested(requirement, 'The log is too short to hold any voltage.', 'Bring in a longer log.');
  const budget: BudgetLine[] = [...readingBudget(e.instrument.name, held.value, e.instrument.volts), ...temperatureLine(e, slope)];
  const measured = measure(held.value, budget, e.plan.input.coverage);
  const above = held.value > limit;
  let unknown = 0;
  for (let i = 0; i < log.time.length; i++) if (!Number.isFinite(referred(i))) unknown += claimedSeconds(log.time, i, longest);
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `The highest voltage held for ${formatDuration(requirement.dwellSeconds)} was ${formatQuantity(held.value, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${slope === 0 ? '' : ` referred to ${reference} °C`} at ${clock(e, held.from)}; ${formatQuantity(limit, 'V', 2)} is the most${above ? `, ${formatQuantity(held.value - limit, 'V', 2)} less` : ''}.${gapsLeftOut(e)}`,
  );
  return blindSpot(row, unknown, 'battery temperature, and the maximum moves with it', 'A log with battery temperature in every sample would settle it.');
}

/**
 * The greatest of all least values over windows of `dwell` seconds: the highest level that was *held*.
 * A window never reaches over a missing value or a step longer than `longest`. One pass with a monotone queue.
 */
export function heldMaximum(
  time: Float64Array,
  value: (i: number) => number,
  dwell: number,
  longest = Infinity,
): { value: number; from: number; to: number } | null {
  let queue: number[] = [];
  let head = 0;
  let start = 0;
  let best: { value: number; from: number; to: number } | null = null;
  for (let i = 0; i < time.length; i++) {
    const here = value(i);
    const known = Number.isFinite(here);
    if (!known || (i > 0 && (time[i] ?? 0) - (time[i - 1] ?? 0) > longest)) {
      queue = [];
      head = 0;
      start = known ? i : i + 1;
    }
    if (!known) continue;
    while (queue.length > head && value(queue[queue.length - 1] ?? 0) >= here) queue.pop();
    queue.push(i);
    while ((time[i] ?? 0) - (time[start + 1] ?? Infinity) >= dwell) start++;
    while ((queue[head] ?? 0) < start) head++;
    if ((time[i] ?? 0) - (time[start] ?? 0) < dwell) continue;
    const least = value(queue[head] ?? i);
    if (best === null || least > best.value) best = { value: least, from: time[start] ?? 0, to: time[i] ?? 0 };
  }
  return best;
}
