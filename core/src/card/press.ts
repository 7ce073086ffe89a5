import { tidy } from '../quantity';
import type { NumberParameter } from './card';
import { deviceRange } from './convention';

/**
 * What stands on the display after pressing up (`by` above 0) or down so many times: step by step, stopping at the ends, or jumping from one end
 * to the other where the card says it wraps.
 *
 * @example afterPresses(pressFor, 10, -1, 24) // 720 on a card whose ten minutes wrap to twelve hours
 */
export function afterPresses(parameter: NumberParameter, value: number, by: number, systemVolts: number): number {
  const { min, max } = deviceRange(parameter, systemVolts);
  let now = value;
  for (let i = 0; i < Math.min(20_000, Math.abs(by)); i++) {
    const next = tidy(now + Math.sign(by) * parameter.step);
    now = next < min - 1e-9 ? (parameter.wraps ? max : min) : next > max + 1e-9 ? (parameter.wraps ? min : max) : next;
  }
  return now;
}
