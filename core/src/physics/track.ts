/** Values at rising times, joined by straight lines and held level past the ends. Keeps its place, for times that mostly rise. */
export interface Track {
  at(t: number): number;
  /** The next time at which the line bends; Infinity past the last. */
  next(t: number): number;
}

/** Reads values along their times. */
export function makeTrack(time: Float64Array, values: Float64Array): Track {
  let i = 0;
  const seek = (t: number): void => {
    while (i > 0 && (time[i] ?? 0) > t) i--;
    while (i < time.length - 2 && (time[i + 1] ?? Infinity) <= t) i++;
  };
  return {
    at(t) {
      seek(t);
      const t0 = time[i] ?? 0;
      const t1 = time[i + 1] ?? t0 + 1;
      const v0 = values[i] ?? 0;
      return v0 + ((values[i + 1] ?? v0) - v0) * Math.min(1, Math.max(0, (t - t0) / (t1 - t0 || 1)));
    },
    next(t) {
      seek(t);
      return time[i + 1] ?? Infinity;
    },
  };
}
