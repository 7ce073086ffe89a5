import { medianSorted, quickselect, sampleCovariance, sampleStandardDeviation, sampleVariance } from 'simple-statistics';

/**
 * Effective number of independent samples in an autocorrelated series: n (1 − ρ) / (1 + ρ) with the lag-one autocorrelation ρ
 * (first-order autoregressive approximation, Bayley and Hammersley 1946). Never less than 1, never more than n.
 */
export function effectiveSamples(values: ArrayLike<number>): number {
  const n = values.length;
  if (n < 3) return Math.max(1, n);
  let mean = 0;
  for (let i = 0; i < n; i++) mean += (values[i] ?? 0) / n;
  let variance = 0;
  let lagged = 0;
  for (let i = 0; i < n; i++) {
    const d = (values[i] ?? 0) - mean;
    variance += d * d;
    if (i > 0) lagged += d * ((values[i - 1] ?? 0) - mean);
  }
  if (variance === 0) return n;
  const rho = Math.min(0.9999, Math.max(0, lagged / variance));
  return Math.min(n, Math.max(1, (n * (1 - rho)) / (1 + rho)));
}

/** Median of any series; typed arrays sort by number and without copies of copies. */
export const median = (values: ArrayLike<number>): number => medianSorted(Float64Array.from(values).sort() as unknown as number[]);

/** Between which values a series mostly lies: a tenth of it below, a tenth above. */
export function mostly(values: readonly number[]): readonly [number, number] {
  const copy = [...values];
  const tenth = (tenths: number): number => {
    const at = Math.floor((copy.length * tenths) / 10);
    quickselect(copy, at);
    return copy[at] ?? NaN;
  };
  return [tenth(1), tenth(9)];
}

/** How much `y` moves when `x` goes through a range, by least squares: positive where both rise together. */
export const riseOver = (x: readonly number[], y: readonly number[], range: number): number =>
  (sampleCovariance([...x], [...y]) / sampleVariance([...x])) * range;

/** Median with its standard error √(π/2)·s/√n_eff (asymptotic, for a normal scatter). */
export function robustLevel(values: readonly number[]): { level: number; standardError: number } {
  const level = median(values);
  if (values.length < 2) return { level, standardError: 0 };
  return { level, standardError: (Math.sqrt(Math.PI / 2) * sampleStandardDeviation(values)) / Math.sqrt(effectiveSamples(values)) };
}
