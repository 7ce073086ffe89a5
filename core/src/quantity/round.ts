/** Which way a value may be moved when it has to fit a step. */
export type Direction = 'down' | 'up' | 'nearest';

/** Slack for binary fractions: 28.1 / 0.1 must count as 281 steps, not 280. */
const slack = 1e-9;

/** How many decimals are needed to write `step` exactly, at most 9. */
export function decimalsOf(step: number): number {
  for (let digits = 0; digits < 9; digits++) {
    const scaled = step * 10 ** digits;
    if (Math.abs(scaled - Math.round(scaled)) < 1e-9 * Math.max(1, Math.abs(scaled))) return digits;
  }
  return 9;
}

/** Cuts off binary noise: 28.300000000000004 becomes 28.3. Keeps 9 decimals. */
export const tidy = (value: number): number => (Math.abs(value) < 4e6 ? Math.round(value * 1e9) / 1e9 : Number(value.toFixed(9)));

/**
 * Rounds `value` to a multiple of `step` counted from `origin`.
 *
 * @param value any finite number, in the unit of `step`
 * @param step size of one step, above 0
 * @param direction `down` never exceeds the value, `up` never falls below it, `nearest` rounds halves down
 * @param origin a value that is on the grid, usually the least value a device accepts
 * @example roundToStep(28.31, 0.1, 'down') // 28.3
 */
export function roundToStep(value: number, step: number, direction: Direction, origin = 0): number {
  const steps = (value - origin) / step;
  const whole = direction === 'down' ? Math.floor(steps + slack) : direction === 'up' ? Math.ceil(steps - slack) : Math.ceil(steps - 0.5 - slack);
  return tidy(origin + whole * step);
}
