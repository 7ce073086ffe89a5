import { formatBand, formatDuration, formatQuantity, measure, readingBudget, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps, movesOf, referredVolts, type ChargerLevels, type StageSpan } from '../inference';
import {
  clock,
  dwellOf,
  gapsLeftOut,
  judged,
  nameOf,
  notFromCoarse,
  notOverGaps,
  noWitness,
  notTested,
  openRow,
  type Evidence,
  type Judge,
  type ProofRow,
  whose,
} from './context';
import { heldMaximum } from './neverAboveMaximum';

/** So far above its cutoff a charger is surely not held by the cold, °C. */
const warmAboveC = 6;
/** A charge that begins after less than this in float or at rest may be the morning’s, s. */
const leastHeldS = 1800;

/** The lowest voltage while the charger held or rested, and the voltage at which it began a new charge. */
function recharge(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const spans = e.spans.get(charger);
  const own = e.levels.get(charger);
  const levels = own && movesOf(own, 'rechargeV');
  const amps = spans ? chargerAmps(e.log, charger) : undefined;
  if (!spans || !own || !levels || !amps) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const begun: Begun[] = [];
  spans.forEach((span, k) => {
    const before = spans[k - 1];
    // Only a charge that begins by itself: after float or rest in daylight, not after a night.
    if (span.stage !== 'bulk' || !before || (before.stage !== 'float' && before.stage !== 'rest') || before.to - before.from < leastHeldS) return;
    if (!isNewCharge(e, own, spans, k, amps) || sinceCurrent(e, amps, own.zeroA, span.first) > nightS) return;
    const [low, high] = beganBetween(e, levels, before, span);
    begun.push({ at: span.from, from: before.from, low, high });
  });
  const missed = neverBegan(e, requirement, spans, levels, amps);
  if (missed) return missed;
  const highest = begun.reduce<Begun | null>((a, b) => (a === null || b.low > a.low ? b : a), null);
  const band = requirement.band;
  if (!highest) {
    let lowest = Infinity;
    for (const s of spans)
      if (s.stage === 'float' || s.stage === 'rest') for (let i = s.first; i <= s.last; i++) lowest = Math.min(lowest, referredVolts(e.log, levels, i));
    return notTested(
      requirement,
      Number.isFinite(lowest)
        ? `While ${name} held or rested the bank never fell below ${formatQuantity(lowest, 'V', 2)}, so no new charge began by day.`
        : `${name} was never seen in float or at rest, so no new charge could begin.`,
      'A load that draws the bank down while the source is there would test it.',
    );
  }
  const volts = (highest.low + highest.high) / 2;
  const budget: BudgetLine[] = [
    ...readingBudget(e.instrument.name, volts, e.instrument.volts),
    {
      name: `It began somewhere between ${formatQuantity(highest.low, 'V', 2)} and ${formatQuantity(highest.high, 'V', 2)}: how long it waits is the charger’s own`,
      halfWidth: (highest.high - highest.low) / 2 / e.plan.input.coverage,
      divisor: 1,
      kind: 'systematic',
    },
  ];
  const measured = measure(volts, budget, e.plan.input.coverage);
  const row = judged(
    requirement,
    measured,
    { from: highest.at - 300, to: highest.at + 300 },
    `${name} began a new charge at ${clock(e, highest.at)}, with the bank down to ${formatQuantity(volts, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${begun.length > 1 ? `; the highest of ${begun.length} times` : ''}. ${band.max === undefined ? '' : `${requirement.question === 'specified' ? `At most ${formatQuantity(band.max, 'V', 2)} is asked.` : `${formatBand(band, 'V', 2)} is ${whose(requirement)}.`}`}`,
    { words: `${name} was in float or at rest, and charged anew.` },
  );
  const { gaps } = e.report;
  if (row.verdict === 'fail' && gaps.some((gap) => gap.to > highest.at - lookBackS && gap.from < highest.at + e.report.intervalSeconds))
    return openRow(row, 'A gap in the log just before may hide how low the bank was.', 'A log without that gap would settle it.');
  return notFromCoarse(e, row, finestS, 'pulled the bank lower');
}

/** A charge that began by itself, at a voltage somewhere between two that the log shows. */
interface Begun {
  readonly at: number;
  readonly from: number;
  readonly low: number;
  readonly high: number;
}

/** A charger waits no longer than this below its recharge voltage before it begins, s. */
const longestWaitS = 180;
/** The bank was at its lowest within so long before a charge is seen to begin, s. */
const lookBackS = 900;
/** A dip shorter than this is not seen in coarser samples, s. */
const finestS = 30;

/**
 * Between which voltages a charger took its bank for low: the lowest before it began; and the lowest that it bore before for longer than it waits, and
 * came back to float without a charge, else float itself. In between it gives all it can either way, and nothing tells the two apart.
 */
function beganBetween(e: Evidence, levels: ChargerLevels, before: StageSpan, span: StageSpan): readonly [number, number] {
  const { time } = e.log;
  const start = time[span.first] ?? 0;
  const longest = longestStep(e.report);
  const settled = (levels.floatV ?? levels.absorbV) - levels.toleranceV;
  let low = Infinity;
  let high = levels.floatV ?? levels.absorbV;
  let dipFrom = -1;
  for (let i = before.first; i <= Math.min(span.first + 2, span.last); i++) {
    const volts = referredVolts(e.log, levels, i);
    if (start - (time[i] ?? 0) <= lookBackS + 2 * e.report.intervalSeconds) low = Math.min(low, volts);
    if (volts < settled) {
      if (dipFrom < 0) dipFrom = i;
    } else if (dipFrom >= 0) {
      // It came back to float by itself: what it bore for so long was not low enough.
      const first = dipFrom;
      const bore = i < span.first ? heldMaximum(time.subarray(first, i), (k) => -referredVolts(e.log, levels, first + k), longestWaitS, longest) : null;
      if (bore) high = Math.min(high, -bore.value);
      dipFrom = -1;
    }
  }
  return [low, Math.max(low, high)];
}

/** A charger that gave nothing for so long begins a morning, not a new charge, s. */
const nightS = 4 * 3600;

/** Time since a charger last gave current, s. */
function sinceCurrent(e: Evidence, amps: Float32Array, zeroA: number, at: number): number {
  let i = at - 1;
  while (i >= 0 && !((amps[i] ?? 0) > zeroA)) i--;
  return i < 0 ? Infinity : (e.log.time[at] ?? 0) - (e.log.time[i] ?? 0);
}

/** Whether a bulk was a new charge: absorb came of it, or the charger pushed the bank well above float. */
function isNewCharge(e: Evidence, levels: ChargerLevels, spans: readonly StageSpan[], k: number, amps: Float32Array): boolean {
  const span = spans[k];
  if (!span) return false;
  if ((spans[k + 1]?.atVoltageSeconds ?? 0) > 0) return true;
  const floor = (levels.floatV ?? Infinity) + 3 * levels.toleranceV;
  const float = movesOf(levels, 'floatV');
  for (let i = span.first; i <= span.last; i++) if (referredVolts(e.log, float, i) > floor && (amps[i] ?? 0) > levels.zeroA) return true;
  return false;
}

/** A bank this long under the programmed recharge, its source there and its charger idle, was not recharged, s. */
const missedS = 1800;

/**
 * A charger that was told where to begin anew and did not: the bank stood under that for long, its source was there, it was warm enough, and nothing
 * was given. Null where that was not seen.
 */
function neverBegan(e: Evidence, requirement: Requirement, spans: readonly StageSpan[], levels: ChargerLevels, amps: Float32Array): ProofRow | null {
  const least = requirement.band.min;
  if (least === undefined || (levels.cutoffC !== null && !e.log.batteryC)) return null;
  const ready = e.witnesses.readiness(requirement.charger ?? '');
  const longest = longestStep(e.report);
  const warmFrom = (levels.cutoffC ?? -Infinity) + warmAboveC;
  let held = false;
  let seconds = 0;
  let from = 0;
  let lowest = Infinity;
  for (const span of spans) {
    if (span.stage === 'absorb') held = true;
    for (let i = span.first; i <= span.last; i++) {
      const volts = referredVolts(e.log, levels, i);
      const idle =
        held &&
        ready.could[i] === 1 &&
        !((amps[i] ?? NaN) > requirement.zeroA) &&
        volts < least - levels.toleranceV &&
        !((e.log.batteryC?.[i] ?? Infinity) < warmFrom);
      if (!idle) {
        seconds = 0;
        continue;
      }
      if (seconds === 0) [from, lowest] = [e.log.time[i] ?? 0, volts];
      seconds += claimedSeconds(e.log.time, i, longest);
      lowest = Math.min(lowest, volts);
      if (seconds < missedS) continue;
      const measured = measure(lowest, readingBudget(e.instrument.name, lowest, e.instrument.volts), e.plan.input.coverage);
      return judged(
        requirement,
        measured,
        { from, to: e.log.time[i] ?? from },
        `${nameOf(e, requirement.charger)} had its source for ${formatDuration(seconds)} from ${clock(e, from)}, with the bank down to ${formatQuantity(lowest, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}, and began no new charge; ${formatBand(requirement.band, 'V', 2)} is ${whose(requirement)}.`,
        noWitness,
      );
    }
  }
  return null;
}

/** Recharge as the sheet asks, and as programmed. */
export const rechargeLevel: Judge = recharge;

/** Nobody equalised: the highest voltage this charger held for five minutes while it gave current. */
export function noEqualise(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const levels = e.levels.get(charger);
  const amps = e.spans.has(charger) ? chargerAmps(e.log, charger) : undefined;
  if (!amps || !levels) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  if (levels.slope !== 0 && !e.log.batteryC)
    return notTested(requirement, 'What would be equalising moves with battery temperature, and the log has none.', 'Log the battery temperature too.');
  const longest = longestStep(e.report);
  const dwell = dwellOf(e, requirement);
  const held = heldMaximum(e.log.time, (i) => ((amps[i] ?? NaN) > requirement.zeroA ? referredVolts(e.log, levels, i) : NaN), dwell, longest);
  let charged = 0;
  for (let i = 0; i < amps.length; i++) if ((amps[i] ?? 0) > requirement.zeroA) charged += claimedSeconds(e.log.time, i, longest);
  if (!held || charged < 3600)
    return notTested(requirement, `${name} charged for only ${formatDuration(charged)} in this log.`, 'A day of charging would test it.');
  const measured = measure(held.value, readingBudget(e.instrument.name, held.value, e.instrument.volts), e.plan.input.coverage);
  const absorbV = e.inferred.get(charger)?.absorbV ?? levels.absorbV;
  const reached = held.value >= absorbV - levels.toleranceV;
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `While ${name} charged, the highest voltage held for ${formatDuration(dwell)} was ${formatQuantity(held.value, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)} at ${clock(e, held.from)}; more than ${formatQuantity(requirement.band.max ?? 0, 'V', 2)} would be equalising.${gapsLeftOut(e)}`,
    reached
      ? { words: `${name} came to absorb, from which an equalise begins, and charged for ${formatDuration(charged)} in all.` }
      : { missing: `${name} never came to absorb, from which an equalise begins.`, next: 'A day that reaches absorb would test it.' },
  );
  return notOverGaps(e, row);
}
