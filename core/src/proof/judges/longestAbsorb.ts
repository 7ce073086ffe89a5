import { formatDuration, formatQuantity, measure, rectangular } from '../../quantity';
import type { Requirement } from '../../requirements';
import { chargerAmps, referredVolts } from '../inference';
import { claimedSeconds, longestStep } from '../log';
import { dayOf, dayWords } from './days';
import { clock, judged, nameOf, notTested, openRow, type Evidence, type ProofRow } from './context';

/** One absorb as long as it was seen. */
interface Held {
  readonly seconds: number;
  /** Within it nothing was written for so long, s. */
  readonly unseen: number;
  readonly from: number;
  readonly to: number;
  /** It was seen to begin, and to end in float or at rest: by itself. */
  readonly whole: boolean;
}

/**
 * Absorb no longer than the sheet permits: time at its level, cycle by cycle. The longest decides. A pass takes absorbs that were seen to end by
 * themselves; what a cloud or the evening ended says nothing of how long it would have lasted.
 */
export function longestAbsorb(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const spans = e.spans.get(charger);
  const levels = e.levels.get(charger);
  const seen = e.inferred.get(charger);
  const amps = spans ? chargerAmps(e.log, charger) : undefined;
  if (!spans || !levels || !seen || !amps) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  if (levels.slope !== 0 && !e.log.batteryC)
    return notTested(requirement, `The level of ${name} moves with battery temperature, and the log has none.`, 'Log the battery temperature too.');
  const { time } = e.log;
  const longest = longestStep(e.report);
  const really = { ...levels, slope: seen.slope };
  // Below what the sheet asks of absorb it is none, however long it lasts.
  const floor = Math.max(seen.absorbV - seen.toleranceV, (requirement.levelV ?? -Infinity) - seen.toleranceV);
  const list = spans.flatMap((span, k): Held[] => {
    if (span.stage !== 'absorb') return [];
    let [seconds, unseen] = [0, 0];
    for (let i = span.first; i <= span.last; i++) {
      const step = claimedSeconds(time, i, longest);
      if (i > span.first && step === 0) unseen += (time[i] ?? 0) - (time[i - 1] ?? 0);
      if ((amps[i] ?? 0) > levels.zeroA && referredVolts(e.log, really, i) >= floor) seconds += step;
    }
    const after = spans[k + 1]?.stage;
    return seconds === 0 ? [] : [{ seconds, unseen, from: span.from, to: span.to, whole: span.first > 0 && (after === 'float' || after === 'rest') }];
  });
  const worst = list.reduce<Held | null>((a, b) => (a === null || b.seconds > a.seconds ? b : a), null);
  if (!worst) return notTested(requirement, `${name} was never seen at absorb voltage in this log.`, 'A day with enough sun to reach absorb would test it.');
  const measured = measure(
    worst.seconds,
    [
      {
        name: `Sampling every ${formatDuration(e.report.intervalSeconds)}: begin and end are known to a sample`,
        halfWidth: e.report.intervalSeconds,
        divisor: rectangular,
        kind: 'systematic',
      },
      { name: 'The charger’s own threshold for “at voltage”, and its clock (1 %)', halfWidth: worst.seconds * 0.01, divisor: rectangular, kind: 'systematic' },
    ],
    e.plan.input.coverage,
  );
  const minutes = (s: number): string => formatQuantity(s / 60, 'min', 0);
  const days = new Set(list.map((h) => dayOf(e.log, h.from))).size;
  const whole = list.filter((h) => h.whole);
  const row = judged(
    requirement,
    measured,
    { from: worst.from, to: worst.to },
    `${name} held absorb for ${minutes(worst.seconds)} ± ${formatQuantity(measured.uncertainty / 60, 'min', 1)} from ${clock(e, worst.from)}${days > 1 ? ` on ${dayWords(dayOf(e.log, worst.from))}, the longest of ${list.length} times` : ''}; at most ${minutes(requirement.band.max ?? 0)} is permitted.`,
    whole.length > 0
      ? {
          words: `It ended absorb by itself ${whole.length === 1 ? 'once' : `${whole.length} times`} in this log, at the latest after ${minutes(Math.max(...whole.map((h) => h.seconds)))}.`,
        }
      : {
          missing: 'It was never seen to end by itself: the log, the light or the day ended first.',
          next: 'A day that ends absorb before evening would test it.',
        },
  );
  const hidden = Math.max(...list.map((h) => h.seconds + h.unseen));
  return row.verdict === 'pass' && hidden > (requirement.band.max ?? Infinity)
    ? openRow(row, 'A gap in the log could hold the rest of it.', 'A log without that gap would settle it.')
    : row;
}
