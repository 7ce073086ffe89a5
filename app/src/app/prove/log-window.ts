/** A stretch of a log, s since 1970. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** What can be done to the stretch in view. */
export type Move = 'closer' | 'wider' | 'earlier' | 'later';

/** The shortest stretch that is looked at, s: five minutes. */
export const shortest = 300;

/** The stretch after a move, inside the whole log; null where that is the whole. */
export function moved(whole: Stretch, window: Stretch, move: Move): Stretch | null {
  const width = window.to - window.from;
  const all = whole.to - whole.from;
  const wanted = move === 'closer' ? Math.min(width, Math.max(shortest, width / 2)) : move === 'wider' ? width * 2 : width;
  if (wanted >= all) return null;
  const shift = move === 'earlier' ? -width / 2 : move === 'later' ? width / 2 : 0;
  const middle = (window.from + window.to) / 2 + shift;
  const from = Math.min(Math.max(middle - wanted / 2, whole.from), whole.to - wanted);
  return { from, to: from + wanted };
}

/** Places of samples spread evenly over a stretch: at most so many, each once, in the order of time. */
export function spread(time: Float64Array, { from, to }: Stretch, most: number): readonly number[] {
  const first = time.findIndex((t) => t >= from);
  const last = time.findLastIndex((t) => t <= to);
  if (first < 0 || last < first) return [];
  const count = last - first + 1;
  if (count <= most) return Array.from({ length: count }, (_, i) => first + i);
  return Array.from({ length: most }, (_, i) => first + Math.round((i * (count - 1)) / (most - 1)));
}
