/** An allowed range. A missing end is open: `{ max: 26.4 }` reads "at most 26.4". */
export interface Band {
  readonly min?: number;
  readonly max?: number;
}

const slack = 1e-9;

/** Whether `value` lies in `band`, ends included. */
export const contains = (band: Band, value: number): boolean => outsideBy(band, value) === 0;

/** Signed distance from the nearest end: 0 inside, above 0 past the top, below 0 under the bottom. */
export function outsideBy(band: Band, value: number): number {
  if (band.max !== undefined && value > band.max + slack) return value - band.max;
  if (band.min !== undefined && value < band.min - slack) return value - band.min;
  return 0;
}

/** Moves both ends inward by `by`. Returns null when nothing is left. */
export function inset(band: Band, by: number): Band | null {
  const min = band.min === undefined ? undefined : band.min + by;
  const max = band.max === undefined ? undefined : band.max - by;
  if (min !== undefined && max !== undefined && min > max + slack) return null;
  return makeBand(min, max);
}

/** The value of `band` closest to `value`. */
export function clamp(band: Band, value: number): number {
  if (band.max !== undefined && value > band.max) return band.max;
  if (band.min !== undefined && value < band.min) return band.min;
  return value;
}

/** Builds a band and leaves out ends that are undefined. */
export function makeBand(min: number | undefined, max: number | undefined): Band {
  return { ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
}

/** Applies `f` to both ends; `f` must be increasing. */
export const mapBand = (band: Band, f: (end: number) => number): Band =>
  makeBand(band.min === undefined ? undefined : f(band.min), band.max === undefined ? undefined : f(band.max));
