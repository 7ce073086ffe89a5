import { formatBand, formatDuration, formatQuantity, measure, readingBudget, said, warmth, type Band } from '../../quantity';
import type { Requirement } from '../../requirements';
import { judge, verdictRank } from '../judge';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps, movesOf, referredVolts, type ChargerLevels } from '../inference';
import { median, robustLevel } from '../statistics';
import { dayOf, dayWords } from './days';
import { judged, nameOf, notTested, openRow, temperatureLine, type Evidence, type Judge, type ProofRow, whose } from './context';

/** Nothing fails by less than this where the voltage was not seen to stand, s. */
const leastToFail = 1800;
/** Least plateau that is evidence of a level, s. */
const leastPlateau = 120;
/** One sample has no scatter of its own, and two have hardly one. */
const leastSamples = 3;

/** What one day shows of a level. */
interface DayLevel {
  readonly day: number;
  readonly volts: number[];
  from: number;
  to: number;
  seconds: number;
  /** First and last sample of its stage. */
  first: number;
  last: number;
}

/** The regulated samples of a stage, day by day. */
function daysHeld(e: Evidence, requirement: Requirement, stage: 'absorb' | 'float', levels: ChargerLevels): readonly DayLevel[] {
  const charger = requirement.charger ?? '';
  const spans = e.spans.get(charger) ?? [];
  const amps = chargerAmps(e.log, charger);
  const seenBy = e.inferred.get(charger);
  const at = stage === 'absorb' ? (seenBy?.absorbV ?? null) : null;
  // Held is what was held as the voltage really moves; the level is told as it was programmed or asked to move.
  const really = { ...levels, slope: seenBy?.slope ?? levels.slope };
  const asked = askedMoves(requirement, levels, stage);
  const longest = longestStep(e.report);
  // A hundred thousand samples of one level tell no more than a tenth of them.
  const total = spans.reduce((sum, span) => sum + (span.stage === stage ? span.last - span.first + 1 : 0), 0);
  const every = Math.max(1, Math.floor(total / 20_000));
  let place = 0;
  const days = new Map<number, DayLevel>();
  for (const span of spans) {
    if (span.stage !== stage) continue;
    const settledFrom = span.from + (stage === 'float' ? 600 : 0);
    for (let i = span.first; i <= span.last; i++) {
      const now = e.log.time[i] ?? 0;
      const regulated =
        stage === 'absorb'
          ? at !== null && referredVolts(e.log, really, i) >= at - levels.toleranceV && (amps?.[i] ?? 0) > levels.zeroA
          : now >= settledFrom && (amps?.[i] ?? 0) > levels.zeroA;
      if (!regulated) continue;
      const key = dayOf(e.log, now);
      let day = days.get(key);
      if (!day) days.set(key, (day = { day: key, volts: [], from: now, to: now, seconds: 0, first: i, last: i }));
      if (place++ % every === 0) day.volts.push(referredVolts(e.log, asked, i));
      day.to = now;
      day.last = i;
      day.seconds += claimedSeconds(e.log.time, i, longest);
    }
  }
  return [...days.values()];
}

/** How the level that is asked for moves: as the sheet has it, or as the charger was told, which may leave float where it is. */
const askedMoves = (requirement: Requirement, levels: ChargerLevels, stage: 'absorb' | 'float'): ChargerLevels => {
  if (requirement.question === 'specified') return { ...levels, slope: requirement.compensation?.slope ?? 0, coldestC: -Infinity, hottestC: Infinity };
  return stage === 'float' ? movesOf(levels, 'floatV') : levels;
};

/**
 * The level held in a stage, each day by itself: the median of its regulated samples, with the logger's systematic error and the scatter of
 * autocorrelated samples. The worst day decides; a day on which nothing shows that the charger regulated proves nothing.
 */
function level(e: Evidence, requirement: Requirement, stage: 'absorb' | 'float'): ProofRow {
  const charger = requirement.charger ?? '';
  const levels = e.levels.get(charger);
  const name = nameOf(e, charger);
  if (!levels || !e.spans.has(charger)) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  if (levels.slope !== 0 && !e.log.batteryC)
    return notTested(requirement, `The level of ${name} moves with battery temperature, and the log has none.`, 'Log the battery temperature too.');
  const seenBy = e.inferred.get(charger);
  const { slope } = askedMoves(requirement, levels, stage);
  const all = daysHeld(e, requirement, stage, levels);
  const held = all.filter((d) => d.seconds >= leastPlateau && d.volts.length >= leastSamples);
  const seconds = all.reduce((sum, d) => Math.max(sum, d.seconds), 0);
  if (held.length === 0)
    return notTested(
      requirement,
      seconds === 0
        ? `${name} was never seen in ${stage} in this log.`
        : seconds < leastPlateau
          ? `${name} was in ${stage} for only ${formatDuration(seconds)}; ${formatDuration(leastPlateau)} are needed.`
          : `${name} was in ${stage} for fewer than ${leastSamples} samples on any day; the log has one every ${formatDuration(e.report.intervalSeconds)}.`,
      stage === 'absorb' ? 'A day with enough sun to reach absorb would test it.' : 'A day that ends absorb before evening would test it.',
    );
  const seen = stage === 'absorb' ? seenBy?.absorbSeen : seenBy?.floatSeen;
  const judgedDays = held.map((d) => {
    const { level: middle, standardError } = robustLevel(regulatedOnly(d.volts, levels.toleranceV));
    const measured = measure(
      middle,
      [
        ...readingBudget(e.instrument.name, middle, e.instrument.volts),
        {
          name: `Scatter of ${d.volts.length} samples, counted as fewer because neighbours resemble each other`,
          halfWidth: standardError,
          divisor: 1,
          kind: 'random',
        },
        ...temperatureLine(e, slope),
      ],
      e.plan.input.coverage,
    );
    const own = e.witnesses.regulation({
      charger,
      from: d.first,
      to: d.last,
      levelV: stage === 'absorb' ? (seenBy?.absorbV ?? middle) : middle,
      slope: stage === 'absorb' ? (seenBy?.slope ?? levels.slope) : slope,
    });
    return { ...d, measured, scatter: standardError, verdict: judge(measured, requirement.band), off: edgeDistance(requirement.band, middle), witness: own };
  });
  const witnessed = judgedDays.filter((d) => d.witness !== null);
  const counted = witnessed.length > 0 ? witnessed : judgedDays;
  const worst = counted.reduce((a, b) => (verdictRank(b.verdict) < verdictRank(a.verdict) || (b.verdict === a.verdict && b.off < a.off) ? b : a));
  const referred = slope !== 0 ? said` (referred to ${warmth(levels.referenceC, 0)})` : '';
  const of =
    counted.length > 1 ? ` on ${dayWords(worst.day)}, ${worst.verdict === 'pass' ? 'nearest to its limit' : 'the worst'} of ${counted.length} days` : '';
  const row = judged(
    requirement,
    worst.measured,
    { from: worst.from, to: worst.to },
    said`${name} held ${formatQuantity(worst.measured.value, 'V', 2)} ± ${formatQuantity(worst.measured.uncertainty, 'V', 2)}${referred} for ${formatDuration(worst.seconds)} in ${stage}${of}; ${formatBand(requirement.band, 'V', 2)} is ${whose(requirement)}.`,
    worst.witness !== null
      ? { words: worst.witness }
      : {
          missing: `Nothing shows that ${name} held it there: its current did not come down while the voltage stayed level.`,
          next: `A spell in ${stage} in which its current falls while the voltage stays level would show it.`,
        },
  );
  if (row.verdict !== 'fail') return row;
  // A level that was not seen to be held is none to fail by.
  if (worst.scatter > levels.toleranceV || (worst.witness === null && (!seen || worst.seconds < leastToFail)))
    return openRow(row, 'The voltage was on its way there rather than held.', `A longer stay in ${stage} would settle it: half an hour at one voltage.`);
  // On a full bank a charger comes to float without absorb: what it holds below absorb to the end of its day may be that.
  if (
    stage === 'absorb' &&
    worst.measured.value < (requirement.band.min ?? -Infinity) &&
    !(nearAbsorb(levels, worst.measured.value) && lowerAfter(e, charger, worst))
  )
    return openRow(row, 'On a bank that is full it may have been its float.', 'A day on which it is seen to go on to float would settle it.');
  return row;
}

/** Whether a level lies nearer to absorb than to float by as much as keeps the two apart: a third of the way. */
const nearAbsorb = ({ absorbV, floatV }: ChargerLevels, volts: number): boolean => floatV === null || absorbV - volts <= 0.35 * (absorbV - floatV);

/** Whether a charger was seen in float after absorb on the same day. */
const lowerAfter = (e: Evidence, charger: string, day: DayLevel): boolean =>
  (e.spans.get(charger) ?? []).some((s) => s.stage === 'float' && s.from >= day.to && s.to - s.from >= leastPlateau && dayOf(e.log, s.from) === day.day);

/** How far a value lies inside the nearer end of a band; negative outside. */
const edgeDistance = ({ min = -Infinity, max = Infinity }: Band, value: number): number => Math.min(value - min, max - value);

/**
 * The samples that lie on the plateau, when most of them do: a dip under load or cloud is not the level a charger regulates at.
 * With less than half of them on it there is no plateau, and all samples count.
 */
function regulatedOnly(volts: readonly number[], tolerance: number): readonly number[] {
  const middle = median(volts);
  const near = volts.filter((v) => Math.abs(v - middle) <= tolerance);
  return near.length * 2 > volts.length ? near : volts;
}

/** The level held in absorb. */
export const absorbLevel: Judge = (evidence, requirement) => level(evidence, requirement, 'absorb');

/** The level held in float. */
export const floatLevel: Judge = (evidence, requirement) => level(evidence, requirement, 'float');
