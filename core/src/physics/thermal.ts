/** A first-order lag after `h` seconds: exact for an input that stands still through the step. Time constant 0 follows at once. */
export const lagged = (before: number, input: number, h: number, seconds: number): number =>
  seconds <= 0 ? input : input + (before - input) * Math.exp(-h / seconds);

/** A lump of mass in air: joules per kelvin, and the time constant of its coupling to the air. */
export interface Lump {
  readonly heatCapacity: number;
  readonly seconds: number;
}

/** Temperature of a lump after `h` seconds: it tends to the air plus heat × τ/C (Newton's law of cooling, exact for steady air and heat). */
export const lumpAfter = (lump: Lump, celsius: number, airC: number, heatW: number, h: number): number =>
  lagged(celsius, airC + (heatW * lump.seconds) / lump.heatCapacity, h, lump.seconds);

/**
 * Air temperature of a day that is coldest at `dawnHour` and swings by `swingC`: a cosine, the first harmonic of the daily course.
 *
 * @param hour of the day, 0 to 24
 */
export const airAt = (hour: number, dawnC: number, swingC: number, dawnHour: number): number =>
  dawnC + (swingC / 2) * (1 - Math.cos(((hour - dawnHour) / 24) * 2 * Math.PI));
