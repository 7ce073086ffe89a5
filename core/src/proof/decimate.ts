import type { Log } from './log';

/** A trace for a plot. Gaps are NaN. */
export interface Trace {
  readonly time: number[];
  readonly value: number[];
}

/** A stretch of time, s since 1970. */
interface Within {
  readonly from: number;
  readonly to: number;
}

/**
 * Thins a trace to about `points`, keeping the least and the greatest sample of every bucket, so that no spike is lost.
 *
 * @param breakAfter a NaN is put where samples lie further apart than this, s
 * @param within only what a stretch shows: its own samples, and one beyond at either end; nothing for all of them
 */
export function decimate(time: Float64Array, values: Float32Array, points: number, breakAfter: number, within?: Within): Trace {
  const out: Trace = { time: [], value: [] };
  const first = within ? Math.max(0, firstFrom(time, within.from) - 1) : 0;
  const last = within ? Math.min(time.length, firstFrom(time, within.to) + 1) : time.length;
  const size = Math.max(1, Math.ceil((2 * (last - first)) / points));
  let previous = time[first] ?? 0;
  let at = first;
  while (at < last) {
    const start = at;
    let low = start;
    let high = start;
    let least = NaN;
    let most = NaN;
    let before = time[start] ?? 0;
    if (before - previous > breakAfter) {
      out.time.push(previous + 1);
      out.value.push(NaN);
    }
    for (; at < last && at - start < size; at++) {
      const now = time[at] ?? 0;
      // A bucket ends where a gap begins: nothing is drawn across it.
      if (now - before > breakAfter) break;
      before = now;
      const value = values[at] ?? NaN;
      // Until a value is known, the first one that is known is the least and the greatest.
      if (!(value >= least) && !Number.isNaN(value)) {
        low = at;
        least = value;
      }
      if (!(value <= most) && !Number.isNaN(value)) {
        high = at;
        most = value;
      }
    }
    previous = before;
    for (const i of low === high ? [low] : low < high ? [low, high] : [high, low]) {
      out.time.push(time[i] ?? 0);
      out.value.push(values[i] ?? NaN);
    }
  }
  return out;
}

/** The place of the first sample that is not before a moment; how many there are where all are. */
function firstFrom(time: Float64Array, at: number): number {
  let low = 0;
  let high = time.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((time[middle] ?? 0) < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What is drawn of a log. */
export interface DrawnLog {
  readonly volts: Trace;
  readonly battery?: Trace;
  readonly bankAmps?: Trace;
  /** Chargers whose own current the log has. */
  readonly chargers: readonly { readonly id: string; readonly amps: Trace }[];
}

/** The traces of a log that are drawn, each of about `points`; of a stretch where one is said. The rest is as for `decimate`. */
export function drawnLog(log: Log, points: number, breakAfter: number, within?: Within): DrawnLog {
  const trace = (values: Float32Array): Trace => decimate(log.time, values, points, breakAfter, within);
  return {
    volts: trace(log.bankVolts),
    ...(log.batteryC ? { battery: trace(log.batteryC) } : {}),
    ...(log.bankAmps ? { bankAmps: trace(log.bankAmps) } : {}),
    chargers: Object.entries(log.chargers).flatMap(([id, c]) => (c.amps ? [{ id, amps: trace(c.amps) }] : [])),
  };
}
