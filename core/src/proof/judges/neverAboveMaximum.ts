import { formatDuration, formatQuantity, measure, readingBudget, said, warmth, type BudgetLine, type Sentence } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { blindSpot, clock, dwellOf, gapsLeftOut, judged, notOverGaps, notTested, openRow, temperatureLine, type Evidence, type ProofRow } from './context';

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
  const dwell = dwellOf(e, requirement);
  const held = heldMaximum(log.time, referred, dwell, longest);
  if (!held) return notTested(requirement, 'The log is too short to hold any voltage.', 'Bring in a longer log.');
  const budget: BudgetLine[] = [...readingBudget(e.instrument.name, held.value, e.instrument.volts), ...temperatureLine(e, slope)];
  const measured = measure(held.value, budget, e.plan.input.coverage);
  const above = held.value > limit;
  const referral = slope === 0 ? '' : said` referred to ${warmth(reference, 0)}`;
  let unknown = 0;
  let highest = { volts: -Infinity, at: 0 };
  for (let i = 0; i < log.time.length; i++) {
    const volts = referred(i);
    if (!Number.isFinite(volts)) unknown += claimedSeconds(log.time, i, longest);
    else if (volts > highest.volts) highest = { volts, at: log.time[i] ?? 0 };
  }
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    said`The highest voltage held for ${formatDuration(dwell)} was ${formatQuantity(held.value, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${referral} at ${clock(e, held.from)}; ${formatQuantity(limit, 'V', 2)} is the most${above ? `, ${formatQuantity(held.value - limit, 'V', 2)} less` : ''}.${gapsLeftOut(e)}`,
    { words: `“Never above” needs none: it says what was seen in samples ${formatDuration(e.report.intervalSeconds)} apart, and no more.` },
  );
  return blindSpot(
    notOverGaps(e, highest.volts > limit ? notPastInSamples(e, row, highest, referral) : row),
    unknown,
    'battery temperature, and the maximum moves with it',
    'A log with battery temperature in every sample would settle it.',
  );
}

/** A pass with a sample past the limit, in a log too coarse to tell for how long: inconclusive. Samples close enough show what was held. */
function notPastInSamples(e: Evidence, row: ProofRow, past: { readonly volts: number; readonly at: number }, referral: Sentence): ProofRow {
  const { dwellSeconds } = row.requirement;
  if (row.verdict !== 'pass' || dwellOf(e, row.requirement) <= dwellSeconds) return row;
  return openRow(
    row,
    said`A sample shows ${formatQuantity(past.volts, 'V', 2)}${referral} at ${clock(e, past.at)}, and samples ${formatDuration(e.report.intervalSeconds)} apart do not tell for how long.`,
    `A log with a sample every ${formatDuration(dwellSeconds / 2)} or more often would settle it.`,
  );
}

/**
 * The greatest of all least values over windows of `dwell` seconds: the highest level that was *held*.
 * A window never reaches over a missing value or a step longer than `longest`. One pass with a monotone queue (Lemire 2006).
 */
export function heldMaximum(
  time: Float64Array,
  value: (i: number) => number,
  dwell: number,
  longest = Infinity,
): { value: number; from: number; to: number } | null {
  const n = time.length;
  const values = new Float64Array(n);
  for (let i = 0; i < n; i++) values[i] = value(i);
  // The queue never holds more than the samples of one window; its places are used again from the front.
  const queue = new Int32Array(n);
  let head = 0;
  let tail = 0;
  let start = 0;
  let best = -Infinity;
  let bestStart = -1;
  let bestEnd = -1;
  let before = -Infinity;
  for (let i = 0; i < n; i++) {
    const here = values[i]!;
    const now = time[i]!;
    const known = here - here === 0;
    if (!known || now - before > longest) {
      head = tail = 0;
      start = known ? i : i + 1;
    }
    before = now;
    if (!known) continue;
    while (tail > head && values[queue[tail - 1]!]! >= here) tail--;
    queue[tail++] = i;
    while (start + 1 < n && now - time[start + 1]! >= dwell) start++;
    while (queue[head]! < start) head++;
    if (now - time[start]! < dwell) continue;
    const least = values[queue[head]!]!;
    if (least > best) {
      best = least;
      bestStart = start;
      bestEnd = i;
    }
  }
  return bestStart < 0 ? null : { value: best, from: time[bestStart] ?? 0, to: time[bestEnd] ?? 0 };
}
