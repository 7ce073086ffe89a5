import { formatDuration, formatQuantity, measure, readingBudget } from '../../quantity';
import type { Requirement } from '../../requirements';
import { chargerAmps } from '../inference';
import { claimedSeconds, longestStep } from '../log';
import { robustLevel } from '../statistics';
import { judged, nameOf, notTested, type Evidence, type ProofRow } from './context';

/** Compared without current for so long in all, s, and over so many volts for each volt: what stands still may be stuck. */
const leastS = 1800;
const leastSamples = 10;
const leastSpread = 0.01;

/**
 * What a charger’s own voltage lies away from the bank’s, which another instrument wrote, over all the time in which no current flowed that its cable
 * could drop a part of.
 */
export function displayAgrees(e: Evidence, requirement: Requirement): ProofRow {
  const id = requirement.charger ?? '';
  const name = nameOf(e, id);
  const own = e.log.chargers[id]?.volts;
  const amps = own ? chargerAmps(e.log, id) : undefined;
  const test = 'A log with the bank’s volts and its own, or the test with a meter, would test it.';
  if (!own || !amps) return notTested(requirement, `The log has no voltage as ${name} itself measures it${own ? ', with its current' : ''}.`, test);
  if (e.log.bankVoltsBy === 'chargers') return notTested(requirement, 'The log has no voltage of the bank by another instrument.', test);
  const { time, bankVolts } = e.log;
  const longest = longestStep(e.report);
  const apart: number[] = [];
  let [seconds, low, high] = [0, Infinity, -Infinity];
  let [from, to] = [0, 0];
  for (let i = 0; i < time.length; i++) {
    const [v, bank] = [own[i] ?? NaN, bankVolts[i] ?? NaN];
    if (!(Math.abs(amps[i] ?? NaN) <= requirement.zeroA) || !Number.isFinite(v - bank)) continue;
    seconds += claimedSeconds(time, i, longest);
    apart.push(v - bank);
    low = Math.min(low, v);
    high = Math.max(high, v);
    if (from === 0) from = time[i] ?? 0;
    to = time[i] ?? 0;
  }
  if (seconds < leastS || apart.length < leastSamples)
    return notTested(requirement, `${name} gave no current for only ${formatDuration(seconds)}; under current its cable drops a part.`, test);
  const { level, standardError } = robustLevel(apart);
  const middle = (low + high) / 2;
  const measured = measure(
    level,
    [
      ...readingBudget(e.instrument.name, middle, e.instrument.volts),
      {
        name: `Scatter of ${apart.length} samples, counted as fewer because neighbours resemble each other`,
        halfWidth: standardError,
        divisor: 1,
        kind: 'random',
      },
    ],
    e.plan.input.coverage,
  );
  const signed = (value: number): string => `${value < 0 ? '−' : '+'}${formatQuantity(Math.abs(value), 'V', 2)}`;
  return judged(
    requirement,
    measured,
    { from, to },
    `Without current ${name} wrote ${signed(level)} ± ${formatQuantity(measured.uncertainty, 'V', 2)} beside the bank’s voltage, over ${formatDuration(seconds)} between ${formatQuantity(low, 'V', 2)} and ${formatQuantity(high, 'V', 2)}; ± ${formatQuantity(requirement.band.max ?? 0, 'V', 2)} is one step of its display.`,
    high - low >= leastSpread * middle
      ? { words: `It followed the bank over ${formatQuantity(high - low, 'V', 2)}.` }
      : {
          missing: 'The voltage hardly moved, so a frozen display would look the same.',
          next: 'A longer log, with the bank higher and lower, would show it.',
        },
  );
}
