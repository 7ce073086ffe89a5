import { expandedUncertainty, formatDuration, formatQuantity, measure, readingBudget, rectangular } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { dayOf, dayWords } from './days';
import { base, judged, notTested, openRow, type Evidence, type ProofRow } from './context';

const dayS = 86_400;
/** Above the level for at least so long, where the sheet gives no time of its own, is an equalise, s. */
const leastHeldS = 1800;
/** An equalise that lasted for this part of its time counts: the charger’s own clock and level are not the log’s. */
const nearlyAll = 0.85;
/** A due equalise waits for a day that ends absorb, d. */
const waitsD = 7;
/** Away from the level for longer than this, one equalise is over, s. */
const restS = 6 * 3600;

/** The equalises of a log: when each ended, s since 1970. */
function equalises(e: Evidence, requirement: Requirement): readonly number[] {
  const { bankVolts, batteryC, time } = e.log;
  const { slope = 0, referenceC = 25 } = requirement.compensation ?? {};
  const longest = longestStep(e.report);
  const level = requirement.levelV ?? Infinity;
  const floor = level - expandedUncertainty(readingBudget(e.instrument.name, level, e.instrument.volts), e.plan.input.coverage);
  const needed = requirement.heldSeconds === undefined ? leastHeldS : nearlyAll * requirement.heldSeconds;
  const sources = Object.values(e.log.chargers).flatMap((c) => (c.amps ? [c.amps] : []));
  const found: number[] = [];
  let held = 0;
  let last = -Infinity;
  for (let i = 0; i < time.length; i++) {
    const now = time[i] ?? 0;
    const volts = (bankVolts[i] ?? NaN) - (slope === 0 ? 0 : slope * ((batteryC?.[i] ?? NaN) - referenceC));
    if (!(volts >= floor) || !sources.some((amps) => (amps[i] ?? 0) > requirement.zeroA)) continue;
    if (now - last > restS) held = 0;
    const before = held;
    held += claimedSeconds(time, i, longest);
    if (held >= needed && before < needed) found.push(now);
    else if (held >= needed) found[found.length - 1] = now;
    last = now;
  }
  return found;
}

/**
 * Whether a bank was equalised as often as its sheet asks. The longest time without decides: between two equalises, or, at the edges of the log, for as
 * long as it shows none. A pass takes at least two of them.
 */
export function equaliseDue(e: Evidence, requirement: Requirement): ProofRow {
  const most = requirement.band.max ?? Infinity;
  if (Object.values(e.log.chargers).every((c) => !c.amps))
    return notTested(
      requirement,
      'The log has no current of a charger, so nothing tells an equalise from another source.',
      'Log the current of every charger.',
    );
  if ((requirement.compensation?.slope ?? 0) !== 0 && !e.log.batteryC)
    return notTested(requirement, 'Its level moves with battery temperature, and the log has none.', 'Log the battery temperature too.');
  const { time } = e.log;
  const [from, to] = [time[0] ?? 0, time.at(-1) ?? 0];
  const done = equalises(e, requirement);
  const marks = [from, ...done, to];
  let worst = { days: -1, from, to };
  for (let k = 1; k < marks.length; k++) {
    const [a = 0, b = 0] = [marks[k - 1], marks[k]];
    if ((b - a) / dayS > worst.days) worst = { days: (b - a) / dayS, from: a, to: b };
  }
  const measured = measure(
    worst.days,
    [{ name: `A due equalise waits for a day that ends absorb: up to ${waitsD} days`, halfWidth: waitsD, divisor: rectangular, kind: 'systematic' }],
    e.plan.input.coverage,
  );
  const on = done.slice(0, 3).map((s) => dayWords(dayOf(e.log, s)));
  const seen =
    done.length === 0
      ? `No equalise in ${formatQuantity(worst.days, 'd', 0)}`
      : `${done.length === 1 ? 'One equalise' : `${done.length} equalises`} (${on.join(', ')}${done.length > on.length ? ', …' : ''}), and none for ${formatQuantity(worst.days, 'd', 0)}`;
  const why = `${seen}; one every ${formatQuantity(most, 'd', 0)} is asked.`;
  if (worst.days + measured.uncertainty < most && done.length < 2)
    return { ...notTested(requirement, why, `A log over more than ${formatQuantity(2 * most, 'd', 0)} would test it.`), ...base(requirement) };
  const row = judged(requirement, measured, { from: worst.from, to: worst.to }, why, {
    words: `The bank was held at equalise ${done.length} times in this log.`,
  });
  const gap = e.report.gaps.reduce((sum, g) => sum + Math.max(0, Math.min(g.to, worst.to) - Math.max(g.from, worst.from)), 0);
  return row.verdict === 'fail' && gap >= (requirement.heldSeconds ?? leastHeldS)
    ? openRow(
        row,
        `Nothing is known of ${formatDuration(gap)} of it, in which one may lie.`,
        'A log without those gaps, or the charger’s own history, would settle it.',
      )
    : row;
}
