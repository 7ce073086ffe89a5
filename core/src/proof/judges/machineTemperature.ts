import { formatDuration, formatQuantity, measure, said, thermometerLine, warmth, warmthBy, type Sentence } from '../../quantity';
import type { Requirement } from '../../requirements';
import { chargerAmps } from '../inference';
import { claimedSeconds, longestStep } from '../log';
import { judge } from '../judge';
import { clock, dwellOf, gapsLeftOut, judged, nameOf, notTested, type Evidence, type ProofRow } from './context';
import { heldMaximum } from './neverAboveMaximum';

/** A machine this near to its limit is one that the limit holds, °C. */
const nearC = 12;
/** The current comes down by this part while the machine stays hot: it is held back, s. */
const heldPart = 0.15;
const heldS = 300;

/** The highest temperature of a machine that was held, against its limit. A pass takes an hour in which the limit held it back. */
export function machineTemperature(e: Evidence, requirement: Requirement): ProofRow {
  const id = requirement.charger ?? '';
  const name = nameOf(e, id);
  const machine = e.log.chargers[id]?.machineC;
  const limit = requirement.band.max ?? Infinity;
  if (!machine) return notTested(requirement, `The log has no temperature of the machine of ${name}.`, 'Log it, or do the test at full field.');
  const longest = longestStep(e.report);
  const dwell = dwellOf(e, requirement);
  const held = heldMaximum(e.log.time, (i) => machine[i] ?? NaN, dwell, longest);
  if (!held) return notTested(requirement, `The log has no ${formatDuration(dwell)} of that temperature in one piece.`, 'Bring in a longer log.');
  const measured = measure(held.value, [thermometerLine(e.instrument.name, e.instrument.temperatureErrorC)], e.plan.input.coverage);
  const by = heldBack(e, id, machine, limit);
  const row = judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    said`The machine of ${name} came to ${warmth(held.value, 0)} ± ${warmthBy(measured.uncertainty)} for ${formatDuration(dwell)} at ${clock(e, held.from)}; ${warmth(limit, 0)} is its limit.${gapsLeftOut(e)}`,
    by !== null
      ? { words: by }
      : {
          missing:
            held.value < limit - nearC
              ? 'It never came near its limit.'
              : 'Nothing shows that the limit held it back: its current did not come down while it was hot.',
          next: 'An hour at full field and slow revolutions would test it.',
        },
  );
  // A machine that stayed cool put nothing to the test.
  return row.verdict === 'inconclusive' && judge(measured, requirement.band) === 'pass' ? { ...row, verdict: 'notTested' } : row;
}

/** What shows that the limit held a machine back, in words: its current came down while it stood hot. Null where nothing does. */
function heldBack(e: Evidence, id: string, machine: Float32Array, limit: number): Sentence | null {
  const amps = chargerAmps(e.log, id);
  if (!amps) return null;
  const { time } = e.log;
  const longest = longestStep(e.report);
  let seconds = 0;
  let most = 0;
  for (let i = 0; i < machine.length; i++) {
    const hot = (machine[i] ?? NaN) >= limit - nearC && (amps[i] ?? 0) > 0;
    if (!hot) {
      seconds = most = 0;
      continue;
    }
    // What it gave on its way there counts too.
    if (most === 0) for (let k = i; k >= 0 && (time[i] ?? 0) - (time[k] ?? 0) <= heldS; k--) most = Math.max(most, amps[k] ?? 0);
    most = Math.max(most, amps[i] ?? 0);
    seconds += claimedSeconds(time, i, longest);
    const now = amps[i] ?? 0;
    if (seconds >= heldS && now < (1 - heldPart) * most)
      return said`At ${warmth(machine[i] ?? NaN, 0)} its current had come down from ${formatQuantity(most, 'A', 0)} to ${formatQuantity(now, 'A', 0)}.`;
  }
  return null;
}
