import { claimedSeconds } from '../log';

/** What a search for a level sees. */
export interface Ground {
  readonly time: Float64Array;
  /** Volts with compensation taken off. */
  readonly volts: Float32Array;
  /** Whether a sample counts in the search. */
  readonly counts: (i: number) => boolean;
  readonly longest: number;
}

/** A level found in a log. */
export interface Plateau {
  readonly volts: number;
  /** Time within the tolerance of it, s. */
  readonly seconds: number;
  /** Time within half of the tolerance, over the time between that and the whole: a flat stretch is sharp, a slow pass is not. */
  readonly sharpness: number;
}

/**
 * The densest level between `low` and `high` with little time above it: something held it there.
 *
 * @param near the level that is looked for first: others need twice the time
 * @param past the part of its own time that may lie above it
 * @param stepV smallest step of the log’s volts
 */
export function findPlateau(ground: Ground, low: number, high: number, near: number, toleranceV: number, past: number, stepV = 0): Plateau | null {
  // Steps of the display must not look like scatter.
  const innerV = Math.max(toleranceV / 2, Math.min(toleranceV, 1.1 * stepV));
  const { time, volts, counts, longest } = ground;
  const width = Math.max(toleranceV / 4, (high - low) / 400);
  const size = Math.max(8, Math.ceil((high - low) / width));
  const bins = new Float64Array(size);
  let above = 0;
  for (let i = 1; i < time.length; i++) {
    if (!counts(i)) continue;
    const seconds = claimedSeconds(time, i, longest);
    const bin = Math.floor(((volts[i] ?? NaN) - low) / width);
    if (bin >= size) above += seconds;
    else if (bin >= 0) bins[bin] = (bins[bin] ?? 0) + seconds;
  }
  // Two bins to each side are the tolerance, half of it to each side.
  const half = 2;
  const over = new Float64Array(size + 1);
  over[size] = above;
  for (let b = size - 1; b >= 0; b--) over[b] = (over[b + 1] ?? 0) + (bins[b] ?? 0);
  let best = -1;
  let most = 0;
  for (let b = 0; b < size; b++) {
    let sum = 0;
    for (let k = Math.max(0, b - half); k <= Math.min(size - 1, b + half); k++) sum += bins[k] ?? 0;
    if ((over[Math.min(size, b + half + 3)] ?? 0) > past * sum) continue;
    const middle = low + (b + 0.5) * width;
    const weight = sum * (Math.abs(middle - near) <= 1.5 * toleranceV ? 2 : 1);
    if (weight > most + 1e-9) {
      most = weight;
      best = b;
    }
  }
  if (best < 0) return null;
  // The window is wider than what it holds: its middle of mass is where the plateau lies.
  let mass = 0;
  let moment = 0;
  for (let k = Math.max(0, best - half); k <= Math.min(size - 1, best + half); k++) {
    mass += bins[k] ?? 0;
    moment += (bins[k] ?? 0) * (k + 0.5);
  }
  const middle = low + (moment / mass) * width;
  let seconds = 0;
  let inner = 0;
  let sum = 0;
  // Twice: the mean of what lies near moves the middle onto the plateau.
  let centre = middle;
  for (let round = 0; round < 2; round++) {
    seconds = inner = sum = 0;
    for (let i = 1; i < time.length; i++) {
      const off = (volts[i] ?? NaN) - centre;
      if (!(Math.abs(off) <= toleranceV) || !counts(i)) continue;
      const step = claimedSeconds(time, i, longest);
      seconds += step;
      if (Math.abs(off) <= innerV) {
        inner += step;
        sum += step * (volts[i] ?? 0);
      }
    }
    if (inner > 0) centre = sum / inner;
  }
  return { volts: centre, seconds, sharpness: inner / Math.max(1, seconds - inner) };
}
