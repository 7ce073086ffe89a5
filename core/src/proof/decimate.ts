/** A trace for a plot. Gaps are NaN. */
export interface Trace {
  readonly time: number[];
  readonly value: number[];
}

/**
 * Thins a trace to about `points`, keeping the least and the greatest sample of every bucket, so that no spike is lost.
 *
 * @param breakAfter a NaN is put where samples lie further apart than this, s
 */
export function decimate(time: Float64Array, values: Float32Array, points: number, breakAfter: number): Trace {
  const out: Trace = { time: [], value: [] };
  const size = Math.max(1, Math.ceil((2 * time.length) / points));
  let previous = time[0] ?? 0;
  for (let start = 0; start < time.length; start += size) {
    const end = Math.min(time.length, start + size);
    let low = start;
    let high = start;
    for (let i = start; i < end; i++) {
      if ((values[i] ?? NaN) < (values[low] ?? NaN)) low = i;
      if ((values[i] ?? NaN) > (values[high] ?? NaN)) high = i;
    }
    const kept = low === high ? [low] : low < high ? [low, high] : [high, low];
    if ((time[start] ?? 0) - previous > breakAfter) {
      out.time.push(previous + 1);
      out.value.push(NaN);
    }
    for (const i of kept) {
      out.time.push(time[i] ?? 0);
      out.value.push(values[i] ?? NaN);
    }
    previous = time[end - 1] ?? previous;
  }
  return out;
}
