/** How finely and how quietly a log tells its volts. */
export interface Signal {
  /** Smallest step between two values, V. */
  readonly stepV: number;
  /** Scatter of one sample, V. */
  readonly noiseV: number;
}

/** Samples looked at, spread over the log. */
const looked = 6000;

/**
 * Step and scatter of a voltage column. The scatter comes from second differences, which a straight rise does not touch:
 * σ = 1.4826 × median|v(i−1) − 2 v(i) + v(i+1)| / √6 (median absolute deviation for a normal scatter).
 */
export function signalOf(volts: Float32Array): Signal {
  const n = volts.length;
  const block = Math.max(1, Math.floor(n / looked)) * 3;
  const values = new Set<number>();
  const bends: number[] = [];
  for (let i = 1; i + 1 < n; i += n > 3 * looked ? block : 1) {
    const a = volts[i - 1] ?? NaN;
    const b = volts[i] ?? NaN;
    const c = volts[i + 1] ?? NaN;
    if (values.size < 4000 && b === b) values.add(Math.round(b * 10_000));
    const bend = Math.abs(a - 2 * b + c);
    if (bend === bend) bends.push(bend);
  }
  const sorted = [...values].sort((x, y) => x - y);
  // Noise in the last place of 32-bit numbers is no step.
  let step = Infinity;
  for (let i = 1; i < sorted.length; i++) step = Math.min(step, (sorted[i] ?? 0) - (sorted[i - 1] ?? 0));
  bends.sort((x, y) => x - y);
  const scatter = (1.4826 * (bends[Math.floor(bends.length / 2)] ?? 0)) / Math.sqrt(6);
  return { stepV: Number.isFinite(step) ? Math.max(0.001, step / 10_000) : 0.01, noiseV: scatter };
}

/** How far from a level a sample may lie and still count as at it, V: the least that is asked, or what steps and scatter of the log make of it. */
export const levelTolerance = ({ stepV, noiseV }: Signal, leastV: number): number => Math.max(leastV, 1.05 * stepV + 2 * Math.min(noiseV, leastV / 2));

/** Mean over the samples within `seconds` before and after, without reaching over a step longer than `longest`. Gaps stay gaps. */
export function smoothed(time: Float64Array, values: Float32Array, seconds: number, longest: number): Float32Array {
  const n = values.length;
  const out = new Float32Array(n);
  let low = 0;
  let high = -1;
  let sum = 0;
  let count = 0;
  for (let i = 0; i < n; i++) {
    const now = time[i] ?? 0;
    if (i > 0 && now - (time[i - 1] ?? 0) > longest) {
      low = i;
      high = i - 1;
      sum = 0;
      count = 0;
    }
    while (high + 1 < n && (time[high + 1] ?? 0) - now <= seconds && (high < i || (time[high + 1] ?? 0) - (time[high] ?? 0) <= longest)) {
      const v = values[++high] ?? NaN;
      if (v === v) {
        sum += v;
        count++;
      }
    }
    while (low < i && now - (time[low] ?? 0) > seconds) {
      const v = values[low++] ?? NaN;
      if (v === v) {
        sum -= v;
        count--;
      }
    }
    out[i] = count > 0 ? sum / count : NaN;
  }
  return out;
}
