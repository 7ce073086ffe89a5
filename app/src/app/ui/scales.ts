import { range } from 'd3-array';
import { scaleLinear, type ScaleLinear } from 'd3-scale';
import { line } from 'd3-shape';

/** A place on a drawing's axis and what is written there. */
export interface Tick {
  /** px along the axis. */
  readonly at: number;
  readonly words: string;
}

/** A tenth of a pixel is as fine as a drawing is written. */
const tenth = (a: number, b: number) => (share: number) => Math.round(10 * (a + (b - a) * share)) / 10;

/**
 * A straight axis: `domain` in the figure's unit onto `reach` in px, to a tenth of a pixel. What lies beyond the domain lies beyond the reach.
 * A domain of one value is given room, so that nothing is divided by nothing.
 * @example axis([10, 15], [100, 0])(12.5) // 50
 */
export function axis(domain: readonly [number, number], reach: readonly [number, number]): ScaleLinear<number, number> {
  const [from, to] = domain;
  return scaleLinear([from, from === to ? from + 1 : to], reach).interpolate(tenth);
}

/** The round values of a step within a domain, both ends counted. */
export function rounds([from, to]: readonly [number, number], step: number): number[] {
  const least = Math.ceil(from / step - 1e-9);
  return range(least, Math.floor(to / step + 1e-9) + 1).map((n) => n * step);
}

/** The round values of a step along an axis, with their words. */
export const ticksOf = (scale: ScaleLinear<number, number>, step: number, words: (value: number) => string): Tick[] => {
  const [from = 0, to = 0] = scale.domain();
  return rounds([Math.min(from, to), Math.max(from, to)], step).map((v) => ({ at: scale(v), words: words(v) }));
};

/** Values over time as a path, to a tenth of a pixel; a value that is missing breaks it. */
export function tracePath(
  trace: { readonly time: readonly number[]; readonly value: readonly number[] },
  x: (t: number) => number,
  y: (v: number) => number,
): string {
  const draw = line<number>(
    (_, i) => x(trace.time[i] ?? NaN),
    (v) => y(v),
  )
    .defined((v) => Number.isFinite(v))
    .digits(1);
  return draw(trace.value) ?? '';
}

/** Points as a path, to a tenth of a pixel. */
export const pointsPath = (points: readonly (readonly [number, number])[]): string =>
  line<readonly [number, number]>()
    .digits(1)
    .x(([x]) => x)
    .y(([, y]) => y)(points) ?? '';
