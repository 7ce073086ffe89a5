import { formatDuration, formatQuantity, measure, readingBudget, said, warmth, warmthBy, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { allowedAmps } from '../../system';
import { statedFigure } from '../../sheet';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps } from '../inference';
import { family } from '../../card';
import { chargersWithCards, mostAmps, sourcesOf } from '../../settings';
import {
  bankCurrentMended,
  bankCurrentMissing,
  base,
  clock,
  dwellOf,
  gapsLeftOut,
  judged,
  nameOf,
  notBetweenSamples,
  notTested,
  openRow,
  type Evidence,
  type ProofRow,
} from './context';
import { heldMaximum } from './neverAboveMaximum';

/**
 * Net current into the bank; else the sum of the chargers', less the loads where the log has them. Without them the sum is only the most that can have
 * gone in: enough to be under a limit, not to be over one.
 */
function into(e: Evidence): { at: (i: number) => number; words: string; most?: true } | null {
  const { chargers } = e.log;
  const { bankAmps } = e;
  if (bankAmps) return { at: (i) => bankAmps[i] ?? NaN, words: 'into the bank' };
  const { loadAmps } = e.log;
  const all = e.plan.input.system.chargers.map((c) => chargers[c.id]?.amps);
  if (all.length === 0 || all.some((a) => a === undefined)) return null;
  const given = (i: number): number => all.reduce((sum, a) => sum + (a?.[i] ?? NaN), 0);
  return loadAmps
    ? { at: (i) => given(i) - (loadAmps[i] ?? NaN), words: 'from all chargers, less the loads,' }
    : { at: given, words: 'from all chargers', most: true };
}

const loadsTake = 'The loads took a part of it, and the log does not say how much.';
const loadsMended = 'Log the bank’s current, or that of the loads.';

const budgetOf = (e: Evidence, amps: number): BudgetLine[] => readingBudget(e.instrument.name, amps, e.instrument.amps);

/** A current this near to what is the most, or nearer, has put the limit to the test. */
const nearLimit = 0.93;
/** A limit shows as a flat top: so long within this part of the highest current. */
const flatTopS = 1200;
const flatPart = 0.015;
/** The sun's own top is as flat at noon, and moves by more than that in this time, s. */
const flatSunS = 7200;
/** Where a limit cuts the sun's course off there is a knee: beside it the current moved by this part of the top within so long, s. */
const kneeS = 900;
const kneePart = 0.03;
/** More than this part of the top between two samples, or in a minute, is a cloud's edge and no knee. */
const jumpPart = 0.05;

/** A stretch in which a current stood within `flatPart` of its highest, in one piece: its samples and seconds. */
interface FlatTop {
  readonly from: number;
  readonly to: number;
  readonly seconds: number;
}

/** The longest stretch at the top; null where there is none. */
function flatTop(e: Evidence, at: (i: number) => number, most: number): FlatTop | null {
  const longest = longestStep(e.report);
  const apart = Math.max(flatPart * most, e.instrument.amps.resolution);
  let from = 0;
  let run = 0;
  let best: FlatTop | null = null;
  for (let i = 1; i < e.log.time.length; i++) {
    const step = claimedSeconds(e.log.time, i, longest);
    if (!(step > 0 && Math.abs(at(i) - most) <= apart)) run = 0;
    else {
      if (run === 0) from = i;
      run += step;
      if (run > (best?.seconds ?? 0)) best = { from, to: i, seconds: run };
    }
  }
  return best;
}

/** Whether the current came up to a flat top, or left it, at a pace at which the sun's own course has no flat top beside it. */
function hasKnee({ log, report }: Evidence, at: (i: number) => number, most: number, { from, to }: FlatTop): boolean {
  const { time } = log;
  const jump = (seconds: number): number => jumpPart * most * Math.max(1, seconds / 60);
  const steadily = (edge: number, way: 1 | -1): boolean => {
    let moved = 0;
    for (let i = edge; ; i += way) {
      const next = i + way;
      const seconds = Math.abs((time[next] ?? NaN) - (time[i] ?? NaN));
      const by = at(i) - at(next);
      if (!(seconds <= longestStep(report)) || !(Math.abs(by) <= jump(seconds))) return false;
      moved += by;
      if (Math.abs((time[next] ?? 0) - (time[edge] ?? 0)) >= kneeS) return moved >= kneePart * most;
    }
  };
  return steadily(from, -1) || steadily(to, 1);
}

/** The most that all sources may give together by their own limits, A. */
const allLimits = (e: Evidence): number => sourcesOf(e.plan.input).reduce((sum, { charger, card }) => sum + mostAmps(e.plan, charger, card), 0);

/** The highest current into the bank that was held for the dwell time. */
export function currentCeiling(e: Evidence, requirement: Requirement): ProofRow {
  const current = into(e);
  if (!current) return notTested(requirement, bankCurrentMissing(e), bankCurrentMended(e));
  const dwell = dwellOf(e, requirement);
  const held = heldMaximum(e.log.time, current.at, dwell, longestStep(e.report));
  if (!held) return notTested(requirement, 'The log is too short to hold any current.', 'Bring in a longer log.');
  const most = requirement.band.max ?? Infinity;
  const measured = measure(held.value, budgetOf(e, held.value), e.plan.input.coverage);
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `The most that flowed ${current.words} for ${formatDuration(dwell)} was ${formatQuantity(held.value, 'A', 1)} ± ${formatQuantity(measured.uncertainty, 'A', 1)} at ${clock(e, held.from)}; ${formatQuantity(most, 'A', 0)} is the most allowed.${gapsLeftOut(e)}`,
    { words: `It came to ${formatQuantity(held.value, 'A', 0)} of the ${formatQuantity(Math.min(most, allLimits(e)), 'A', 0)} that can flow at the most.` },
  );
  if (row.verdict === 'fail' && current.most) return openRow(row, loadsTake, loadsMended);
  // A day on which little was given proves nothing of what happens when all give their most.
  if (row.verdict === 'pass' && held.value < nearLimit * Math.min(most, allLimits(e)))
    return openRow(
      row,
      'So little says nothing of a day on which all sources give their most.',
      'A log with all sources at full power, or a clamp meter with the loads off and on, would test it.',
      'notTested',
    );
  return notBetweenSamples(e, row);
}

/** The highest current of one charger against its own limit. */
export function currentAsProgrammed(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const amps = e.spans.has(charger) ? chargerAmps(e.log, charger) : undefined;
  if (!amps) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const dwell = dwellOf(e, requirement);
  const held = heldMaximum(e.log.time, (i) => amps[i] ?? NaN, dwell, longestStep(e.report));
  if (!held) return notTested(requirement, 'The log is too short to hold any current.', 'Bring in a longer log.');
  const most = requirement.band.max ?? Infinity;
  const told = requirement.toldA ?? most;
  const at = (i: number): number => amps[i] ?? NaN;
  const flat = flatTop(e, at, held.value);
  const sun = family(chargersWithCards(e.plan.input).find((c) => c.charger.id === charger)?.card.kind ?? 'monitor') === 'solar';
  const limited = flat !== null && flat.seconds >= flatTopS && (!sun || flat.seconds >= flatSunS || hasKnee(e, at, held.value, flat));
  const measured = measure(held.value, budgetOf(e, held.value), e.plan.input.coverage);
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `${name} gave at most ${formatQuantity(held.value, 'A', 1)} ± ${formatQuantity(measured.uncertainty, 'A', 1)} for ${formatDuration(dwell)}, at ${clock(e, held.from)}; ${requirement.notRead ? 'its limit was worked out as' : 'it was set to'} ${formatQuantity(told, 'A', 1)}, and ${formatQuantity(most, 'A', 1)} is tolerated.`,
    { words: `Its current was flat there for ${formatDuration(Math.round(flat?.seconds ?? 0))}: the limit held it, not the source.` },
  );
  // What the limit holds stands where it was told, as far as the instrument can tell.
  const near = held.value >= nearLimit * told && measured.value + measured.uncertainty >= (1 - flatPart) * told;
  if (row.verdict === 'pass' && !(near && limited))
    return openRow(
      row,
      near ? 'It only touched that: nothing shows that the limit held it.' : 'It never came near its limit.',
      'An hour in which the source could give more than the limit would test it.',
      'notTested',
    );
  return row;
}

/** The worst excess of current over what the sheet allows at the battery's temperature. */
export function currentForTemperature(e: Evidence, requirement: Requirement): ProofRow {
  const current = into(e);
  const warm = e.log.batteryC;
  if (!current || !warm)
    return notTested(requirement, current ? 'The log has no battery temperature.' : bankCurrentMissing(e), 'Log current and battery temperature.');
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
  const t = e.temperature.errorC;
  const easiest = Math.max(allowed, limit(celsius + t), limit(celsius - t));
  const hardest = Math.min(allowed, limit(celsius + t), limit(celsius - t));
  const top = measured.value + measured.uncertainty;
  const bottom = measured.value - measured.uncertainty;
  const words = said`${formatQuantity(measured.value, 'A', 1)} ± ${formatQuantity(measured.uncertainty, 'A', 1)} flowed ${current.words} at ${warmth(celsius)}, at ${clock(e, held.from)}; at that temperature ${formatQuantity(allowed, 'A', 0)} is the most`;
  const parts = {
    ...base(requirement),
    band: { max: allowed },
    measured: measured.value,
    uncertainty: measured.uncertainty,
    budget: measured.budget,
    evidence: { from: held.from, to: held.to },
  };
  if (bottom > easiest)
    return current.most
      ? { ...parts, verdict: 'inconclusive', why: said`${words}. ${loadsTake}`, next: loadsMended }
      : { ...parts, verdict: 'fail', why: said`${words}.` };
  const why = said`Where current came nearest to its limit, ${words}.${gapsLeftOut(e)}`;
  if (top > hardest)
    return {
      ...parts,
      verdict: 'inconclusive',
      why,
      next: said`A battery temperature to ± ${warmthBy(Math.max(0.1, t / 3))}, or a better current reading, would settle it.`,
    };
  if (stepped < 600)
    return {
      ...parts,
      verdict: 'notTested',
      why: `The battery was charged for only ${formatDuration(stepped)} at temperatures where the sheet allows less, so the log cannot show that this is held.`,
      next: 'A log through a cold morning would test it.',
    };
  // What may all have gone into the loads was no charge.
  if (current.most) return { ...parts, verdict: 'notTested', why: said`${why} ${loadsTake}`, next: loadsMended };
  const row: ProofRow = {
    ...parts,
    verdict: 'pass',
    why,
    witness: `The battery was charged for ${formatDuration(stepped)} at temperatures where the sheet allows less.`,
  };
  return notBetweenSamples(e, row);
}
