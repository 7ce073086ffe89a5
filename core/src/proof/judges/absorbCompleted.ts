import { formatDuration, formatQuantity, measure, readingBudget, rectangular, said, type BudgetLine, type Measured } from '../../quantity';
import type { Requirement } from '../../requirements';
import { judge, type Verdict } from '../judge';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps, otherAmps, referredVolts, type ChargerLevels, type StageSpan } from '../inference';
import { robustLevel } from '../statistics';
import { dayOf, daysListed } from './days';
import { base, clock, nameOf, notTested, openRow, type Evidence, type ProofRow } from './context';

/** A day in bulk for so long is a day on which there was something to complete, s. */
const chargedS = 1800;
/** The fallen current must be seen for so long, s, and in so many samples. */
const fallenS = 60;
const fallenSamples = 3;

/** An absorb that lasted to within a tenth of what is asked was not seen to be cut short: a charger counts at its own terminals, ahead of the bank. */
const nearlyAll = 0.9;

/** How absorb ended on one day, or that it was never reached. */
type Ending =
  /** Time at voltage or the fallen current is as the sheet asks. */
  | 'done'
  /** The charger went on to float or rest before either was. */
  | 'cutShort'
  /** Neither, and its source was gone, the log ended or began, or a gap could hold what is missing. */
  | 'open'
  | 'notReached';

interface DayAbsorb {
  readonly day: number;
  readonly ending: Ending;
  readonly row: ProofRow | null;
}

/**
 * Absorb is completed by time at voltage or by the bank's net current having fallen while the voltage stood. Every day on which the charger gave
 * current is judged, also one on which it never came to absorb; the worst decides.
 */
export function absorbCompleted(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const spans = e.spans.get(charger);
  const levels = e.levels.get(charger);
  const name = nameOf(e, charger);
  if (!spans || !levels) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  if (levels.slope !== 0 && !e.log.batteryC)
    return notTested(requirement, `The level of ${name} moves with battery temperature, and the log has none.`, 'Log the battery temperature too.');
  const days = daysCharged(e, charger).map((day): DayAbsorb => {
    const own = spans.flatMap((span, k) =>
      span.stage === 'absorb' && span.atVoltageSeconds > 0 && dayOf(e.log, span.from) === day ? [judgeSpan(e, requirement, levels, span, k)] : [],
    );
    // One that was cut short is not made good by a longer one on the same day.
    const decided = own.find((o) => o.ending === 'cutShort') ?? own.find((o) => o.ending === 'done') ?? own[0];
    return { day, ending: decided?.ending ?? 'notReached', row: decided?.row ?? null };
  });
  const of = (ending: Ending): readonly DayAbsorb[] => days.filter((d) => d.ending === ending);
  const [done, short, open] = [of('done'), of('cutShort'), of('open')];
  const shown = (short[0] ?? open[0] ?? done[0])?.row;
  if (!shown) return notTested(requirement, `${name} was never seen at absorb voltage in this log.`, 'A day with enough sun to reach absorb would test it.');
  if (days.length < 2) return shown;
  const counts = `Completed on ${done.length} of ${days.length} days.`;
  if (short.length > 0) return { ...shown, why: said`${shown.why} ${counts} Cut short on ${daysListed(short.map((d) => d.day))}.` };
  if (done.length === days.length) return { ...shown, why: said`${shown.why} ${counts}` };
  const never = of('notReached').map((d) => d.day);
  return openRow(
    shown,
    `${counts}${open.length > 0 ? ` Begun and not ended on ${daysListed(open.map((d) => d.day))}.` : ''}${never.length > 0 ? ` Not reached on ${daysListed(never)}.` : ''}`,
    'Whether that is often enough is for the maker to say; a log of sunnier days would show the rest.',
  );
}

/**
 * Days on which a charger had something to complete: it came to absorb, or it was in bulk for long. A bank that is full from the morning on has
 * nothing to complete, and a bulk at which the log ends is nobody's shortfall.
 */
function daysCharged(e: Evidence, charger: string): readonly number[] {
  const spans = e.spans.get(charger) ?? [];
  const longest = longestStep(e.report);
  const seconds = new Map<number, number>();
  const reached = new Set<number>();
  spans.forEach((span, k) => {
    if (span.stage === 'absorb' && span.atVoltageSeconds > 0) reached.add(dayOf(e.log, span.from));
    if (span.stage !== 'bulk' || k === spans.length - 1) return;
    for (let i = span.first; i <= span.last; i++) {
      const day = dayOf(e.log, e.log.time[i] ?? 0);
      seconds.set(day, (seconds.get(day) ?? 0) + claimedSeconds(e.log.time, i, longest));
    }
  });
  return [...new Set([...reached, ...[...seconds].flatMap(([day, s]) => (s >= chargedS ? [day] : []))])].sort((a, b) => a - b);
}

/** One absorb, from its first touch to what came after it. */
function judgeSpan(e: Evidence, requirement: Requirement, levels: ChargerLevels, span: StageSpan, place: number): { ending: Ending; row: ProofRow } {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const interval = e.report.intervalSeconds;
  // A sister that holds the bank higher lets its timer run too: the lower of what it was told and what it was seen to hold counts.
  const level = Math.min(e.inferred.get(charger)?.absorbV ?? levels.absorbV, levels.absorbV);
  const counted = atVoltage(e, charger, span, levels, level, 1);
  const edges = Math.max(2, countEdges(e, span, levels, level));
  // Where the charger’s own timer begins to count is known to its threshold and to what its cable drops, and its clock to one part in a hundred.
  const strict = atVoltage(e, charger, span, levels, level, 0.4);
  const loose = atVoltage(e, charger, span, levels, level, 2.5);
  const timeBudget: BudgetLine[] = [
    {
      name: `Sampling every ${formatDuration(interval)}: each of ${edges} edges is known to half a sample`,
      halfWidth: interval * Math.sqrt(edges) * 0.5,
      divisor: rectangular,
      kind: 'systematic',
    },
    {
      name: 'The charger’s own threshold for “at voltage”, and its clock (1 %)',
      halfWidth: Math.max(counted * 0.005, counted - strict, (loose - counted) / 2),
      divisor: rectangular,
      kind: 'systematic',
    },
  ];
  const time = measure(counted, timeBudget, e.plan.input.coverage);
  const least = requirement.band.min;
  const byTime = least === undefined ? null : judge(time, requirement.band);
  const minutes = `${formatQuantity(time.value / 60, 'min', 0)} ± ${formatQuantity(Math.max(time.uncertainty / 60, 0.1), 'min', 1)} at voltage between ${clock(e, span.from)} and ${clock(e, span.to)}`;
  const asked = least === undefined ? '' : `, ${formatDuration(least)} asked`;
  const inMinutes = {
    ...base(requirement),
    unit: 'min',
    digits: 0,
    band: least === undefined ? {} : { min: least / 60 },
    measured: time.value / 60,
    uncertainty: time.uncertainty / 60,
    budget: time.budget.map((line) => ({ ...line, halfWidth: line.halfWidth / 60 })),
    evidence: { from: span.from, to: span.to },
  };
  const timeRow = (verdict: Exclude<Verdict, 'pass'>, why: string, next?: string): ProofRow => ({ ...inMinutes, verdict, why, ...(next ? { next } : {}) });
  const open = (why: string, next: string) => ({ ending: 'open', row: timeRow('inconclusive', why, next) }) as const;
  const lowest = requirement.levelV === undefined ? -Infinity : requirement.levelV - levels.toleranceV;
  if (byTime === 'pass' && level < lowest)
    return open(
      `${name} counted ${minutes}${asked}, but at ${formatQuantity(level, 'V', 2)}; at least ${formatQuantity(requirement.levelV ?? 0, 'V', 2)} is required.`,
      'Set its absorb to the sheet’s figure, and log another day.',
    );
  const ownStood = e.witnesses.regulation({ charger, from: span.first, to: span.last, levelV: level });
  // Whose time it was: beside another source that may have held the bank, its own timer may have run for none of it.
  const shared = ownStood === null && othersGave(e, charger, span, levels.zeroA);
  if (byTime === 'pass' && !shared)
    return {
      ending: 'done',
      row: {
        ...inMinutes,
        verdict: 'pass',
        why: `${name} counted ${minutes}${asked}.`,
        witness: ownStood ?? `The bank was at ${formatQuantity(level, 'V', 2)} while ${name} alone gave current.`,
      },
    };
  const taper = requirement.taperA === undefined ? null : taperAtEnd(e, charger, span, levels, level);
  const band = { max: requirement.taperA ?? Infinity };
  const byTaper = taper && judge(taper, band);
  const words =
    taper && requirement.taperA !== undefined
      ? `net bank current at the end ${formatQuantity(taper.value, 'A', 1)} ± ${formatQuantity(taper.uncertainty, 'A', 1)}, at most ${formatQuantity(requirement.taperA, 'A', 1)} asked`
      : '';
  // Whether the bank was filled, not by whom: its own current coming down is as good as the charger’s.
  const stood = ownStood ?? (e.bankAmps ? e.witnesses.regulation({ charger, from: span.first, to: span.last, levelV: level, net: e.bankAmps }) : null);
  if (taper && byTaper === 'pass' && stood !== null)
    return {
      ending: 'done',
      row: {
        ...base(requirement),
        unit: 'A',
        digits: 1,
        band,
        verdict: 'pass',
        measured: taper.value,
        uncertainty: taper.uncertainty,
        budget: taper.budget,
        evidence: { from: span.from, to: span.to },
        why: `${name} counted ${minutes}; ${words}. The fallen current ends absorb.`,
        witness: stood,
      },
    };
  const told = `${name} counted ${minutes}${asked}${words === '' ? '' : `; ${words}`}.`;
  if (byTime === 'pass')
    return open(`${told} Another source gave current too, and may have held the bank there.`, 'A day on which it works alone would settle it.');
  if (byTaper === 'pass')
    return open(
      `${told} The voltage fell with the current, so a cloud may have done it.`,
      'A log in which the current falls while the voltage stays level would settle it.',
    );
  const spans = e.spans.get(charger) ?? [];
  const after = spans[place + 1]?.stage;
  const missing = least === undefined ? 0 : least - time.value;
  const unknown = unseen(e, span);
  if (span.first === 0) return open(`${told} The log begins in the middle of it.`, 'A log of the whole of absorb would settle it.');
  if (unknown > 0 && unknown + time.uncertainty >= missing)
    return open(`${told} Nothing is known of ${formatDuration(unknown)} of it.`, 'A log without that gap would settle it.');
  if (requirement.taperA !== undefined && endsInGap(e, span))
    return open(`${told} A gap lies at its end, in which its current may have fallen.`, 'A log without that gap would settle it.');
  if (after === undefined) return open(`${told} The log ends before absorb did.`, 'A log to the end of absorb would settle it.');
  if (after !== 'float' && after !== 'rest')
    return open(`${told} Its source was gone, or it was stopped, before absorb ended.`, 'A longer sunny spell would settle it.');
  if (least !== undefined && span.to - span.from >= nearlyAll * least)
    return open(`${told} That is what its own timer may have counted at its terminals.`, 'The time it reports itself would settle it.');
  if (byTime === 'inconclusive' || byTaper === 'inconclusive') return open(told, 'A log with a shorter interval or a better current reading would settle it.');
  if (requirement.taperA !== undefined && byTaper !== 'fail')
    return open(`${told} The log does not show the bank’s current falling.`, 'Log the bank’s current with a shorter interval.');
  if (shared)
    return open(
      `${told} Another source gave current too, and may have held the bank while its own timer ran.`,
      'A day on which it works alone would settle it.',
    );
  if (least !== undefined && bankHeld(e, charger, span, levels, lowest === -Infinity ? level - levels.toleranceV : lowest) >= nearlyAll * least)
    return open(`${told} Another charger went on to hold the bank there.`, 'A day on which it works alone would settle it.');
  return {
    ending: 'cutShort',
    row: timeRow('fail', `${name} counted only ${minutes}${asked}${words === '' ? '' : `, and the ${words}`}. It then went on to ${after}.`),
  };
}

/** Seconds on the day of a span in which the bank stood at a level with current from another charger, whoever it was. */
function bankHeld(e: Evidence, charger: string, span: StageSpan, levels: ChargerLevels, floor: number): number {
  const others = otherAmps(e.log, charger);
  const longest = longestStep(e.report);
  const day = dayOf(e.log, span.from);
  let seconds = 0;
  const sameDay = (i: number): boolean => i >= 0 && i < e.log.time.length && dayOf(e.log, e.log.time[i] ?? 0) === day;
  let first = span.first;
  while (sameDay(first - 1)) first--;
  for (let i = first; sameDay(i); i++) {
    if (referredVolts(e.log, levels, i) >= floor && others.some((amps) => (amps[i] ?? 0) > levels.zeroA)) seconds += claimedSeconds(e.log.time, i, longest);
  }
  return seconds;
}

/** Whether other sources gave current for most of a span. */
function othersGave(e: Evidence, charger: string, span: StageSpan, zeroA: number): boolean {
  const others = otherAmps(e.log, charger);
  let on = 0;
  for (let i = span.first; i <= span.last; i++) if (others.some((amps) => (amps[i] ?? 0) > zeroA)) on++;
  return on > (span.last - span.first + 1) / 2;
}

/** A gap within so long of the end of absorb hides how far its current fell, s. */
const endS = 600;

/** Whether nothing was written of the end of a span. */
const endsInGap = (e: Evidence, span: StageSpan): boolean => e.report.gaps.some((gap) => gap.to > span.to - endS && gap.from < span.to + endS / 10);

/** Seconds within a span of which nothing was written, or no voltage. */
function unseen(e: Evidence, span: StageSpan): number {
  const longest = longestStep(e.report);
  let seconds = 0;
  for (let i = span.first + 1; i <= Math.min(span.last + 1, e.log.time.length - 1); i++) {
    const step = (e.log.time[i] ?? 0) - (e.log.time[i - 1] ?? 0);
    if (step > longest || !Number.isFinite(e.log.bankVolts[i])) seconds += step;
  }
  return seconds;
}

/** Seconds at voltage in a span, with a threshold of so many tolerances below the level. */
function atVoltage(e: Evidence, charger: string, span: StageSpan, levels: ChargerLevels, level: number, tolerances: number): number {
  const floor = level - (e.inferred.get(charger)?.toleranceV ?? levels.toleranceV) * tolerances;
  const amps = chargerAmps(e.log, charger);
  const longest = longestStep(e.report);
  let seconds = 0;
  for (let i = span.first; i <= span.last; i++)
    if ((amps?.[i] ?? 0) > levels.zeroA && referredVolts(e.log, levels, i) >= floor) seconds += claimedSeconds(e.log.time, i, longest);
  return seconds;
}

/** How often a span crosses the absorb level. */
function countEdges(e: Evidence, span: StageSpan, levels: ChargerLevels, level: number): number {
  let edges = 0;
  let before = false;
  for (let i = span.first; i <= span.last; i++) {
    const at = referredVolts(e.log, levels, i) >= level - levels.toleranceV;
    if (at !== before) edges++;
    before = at;
  }
  return edges;
}

/** Net bank current over the last samples at voltage; null without a bank current, or where they are too few to be a current that has fallen. */
function taperAtEnd(e: Evidence, charger: string, span: StageSpan, levels: ChargerLevels, level: number): Measured | null {
  const { time } = e.log;
  const { bankAmps } = e;
  if (!bankAmps) return null;
  const amps = chargerAmps(e.log, charger);
  const counts = (i: number): boolean =>
    referredVolts(e.log, levels, i) >= level - levels.toleranceV && (amps?.[i] ?? 0) > levels.zeroA && Number.isFinite(bankAmps[i]);
  let last = span.last;
  while (last > span.first && !counts(last)) last--;
  const reach = Math.max(fallenS, (fallenSamples - 0.5) * e.report.intervalSeconds);
  const values: number[] = [];
  for (let i = last; i >= span.first && (time[last] ?? 0) - (time[i] ?? 0) <= reach; i--) if (counts(i)) values.push(bankAmps[i] ?? 0);
  if (values.length < fallenSamples) return null;
  const { level: net, standardError } = robustLevel(values);
  return measure(
    net,
    [
      ...readingBudget(e.instrument.name, net, e.instrument.amps),
      { name: `Scatter of ${values.length} samples`, halfWidth: standardError, divisor: 1, kind: 'random' },
      { name: 'It was still falling over them', halfWidth: Math.max(0, (values.at(-1) ?? 0) - (values[0] ?? 0)) / 2, divisor: rectangular, kind: 'systematic' },
    ],
    e.plan.input.coverage,
  );
}
