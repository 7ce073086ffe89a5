import { formatDuration, formatQuantity } from '../../quantity';
import type { Requirement } from '../../requirements';
import { chargerAmps, referredVolts } from '../inference';
import { claimedSeconds, longestStep } from '../log';
import { readyWords } from '../witness';
import { dayOf, dayWords } from './days';
import { base, nameOf, notTested, type Evidence, type ProofRow } from './context';

/** An absorb may last this much longer than the sheet asks before what it holds is a float by another name. */
const patience = 1.5;
/** Daylight, or another source of it, after absorb in which a float would have shown, s. */
const leastAfterS = 3600;

interface Day {
  readonly day: number;
  /** Held above rest after absorb was due to end, s. */
  held: number;
  /** The source was there after absorb, s. */
  after: number;
  volts: number;
  from: number;
  to: number;
}

/**
 * Where the sheet permits no float: for how long a charger held the bank above its resting volts once absorb was over, or was due to be. The longest day
 * decides. A pass takes hours with the source there after absorb, in which a float would have been seen.
 */
export function noFloat(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const spans = e.spans.get(charger);
  const levels = e.levels.get(charger);
  const amps = spans ? chargerAmps(e.log, charger) : undefined;
  const rest = requirement.levelV;
  if (!spans || !levels || !amps || rest === undefined) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const { log } = e;
  const longest = longestStep(e.report);
  const ready = e.witnesses.readiness(charger);
  const due = (levels.absorbSeconds ?? 0) * patience;
  const days = new Map<number, Day>();
  let absorbed = 0;
  for (const span of spans) {
    if (span.stage === 'bulk' || span.stage === 'off') absorbed = 0;
    for (let i = span.first; i <= span.last; i++) {
      const step = claimedSeconds(log.time, i, longest);
      const volts = referredVolts(log, levels, i);
      const on = (amps[i] ?? 0) > requirement.zeroA;
      if (span.stage === 'absorb' && on) absorbed += step;
      const over =
        absorbed > 0 && (span.stage === 'float' || span.stage === 'rest' || (span.stage === 'absorb' && levels.absorbSeconds !== null && absorbed > due));
      if (!over) continue;
      const now = log.time[i] ?? 0;
      const key = dayOf(log, now);
      let day = days.get(key);
      if (!day) days.set(key, (day = { day: key, held: 0, after: 0, volts: 0, from: now, to: now }));
      if (ready.could[i] || on) day.after += step;
      if (!on || !(volts > rest + levels.toleranceV)) continue;
      if (day.held === 0) day.from = now;
      day.held += step;
      day.volts += step * volts;
      day.to = now;
    }
  }
  const worst = [...days.values()].reduce<Day | null>((a, b) => (a === null || b.held > a.held || (b.held === a.held && b.after > a.after) ? b : a), null);
  if (!worst)
    return notTested(
      requirement,
      `${name} was not seen to end absorb in this log, nor to go on with it past its time.`,
      'A day that ends absorb before evening would test it.',
    );
  const most = requirement.band.max ?? 0;
  const unsure = 2 * e.report.intervalSeconds;
  const row = {
    ...base(requirement),
    measured: worst.held,
    uncertainty: unsure,
    budget: [
      {
        name: `Sampling every ${formatDuration(e.report.intervalSeconds)}: begin and end`,
        halfWidth: unsure / e.plan.input.coverage,
        divisor: 1,
        kind: 'systematic' as const,
      },
    ],
    evidence: { from: worst.from, to: worst.to },
  };
  const of = days.size > 1 ? ` on ${dayWords(worst.day)}, the longest of ${days.size} days` : '';
  const held = `${name} held ${formatQuantity(worst.held > 0 ? worst.volts / worst.held : rest, 'V', 2)} for ${formatDuration(worst.held)} after absorb${of}; the sheet permits no float, and a full bank rests at about ${formatQuantity(rest, 'V', 2)}`;
  if (worst.held - unsure > most) return { ...row, verdict: 'fail', why: `${held}.` };
  const after = Math.min(...[...days.values()].map((d) => d.after));
  const longestAfter = Math.max(...[...days.values()].map((d) => d.after));
  if (worst.held + unsure > most) return { ...row, verdict: 'inconclusive', why: `${held}.`, next: 'A log with a shorter interval would settle it.' };
  if (longestAfter < leastAfterS)
    return {
      ...row,
      verdict: 'notTested',
      why: `After absorb ${name} was seen to have its source for only ${formatDuration(longestAfter)}, so the log cannot show that it rests.`,
      next: 'A sunny afternoon after absorb, with measured light or a sister’s current, would test it.',
    };
  return {
    ...row,
    verdict: 'pass',
    why: `${name} rested after absorb${days.size > 1 ? ` on each of ${days.size} days` : ''}: for at most ${formatDuration(worst.held)} it held more than the ${formatQuantity(rest, 'V', 2)} of a full bank at rest.`,
    witness: `${readyWords(ready)} It had it for ${formatDuration(longestAfter)}${days.size > 1 && after < longestAfter ? ' on the longest of these days' : ''} after absorb.`,
  };
}
