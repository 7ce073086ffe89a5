import { airAt } from '../physics';
import type { Site } from '../system';
import { dayOfMonth, seasonalDawn, type Scenario } from './scenario';

/** Hour at which the air is coldest, and time constant with which a heated place warms, h. */
const dawnHour = 5.5;
const heatingHours = 0.5;

/** Air around the bank over a run. */
export interface Air {
  /** °C at a time from the start, s. */
  at(t: number): number;
  /** Where a bank stands at the start that has lived through many such days, °C. */
  readonly bankStartC: number;
}

/**
 * The air of a scenario: a cosine a day, its dawn moving with the place's year, and a heater where there is one.
 *
 * @param bankSeconds time constant of the bank's temperature, s
 */
export function makeAir(scenario: Scenario, site: Site, bankSeconds: number): Air {
  const { dawnC, swingC, fromHour, heated } = scenario;
  const first = dayOfMonth(scenario.month);
  const dawnOf = (day: number): number => dawnC + (day === 0 ? 0 : seasonalDawn(site, ((first + day - 1) % 365) + 1) - seasonalDawn(site, first));
  // The periodic answer of a first-order lag to the day's cosine: damped, and late by a phase.
  const omega = (2 * Math.PI) / 86_400;
  const phase = Math.atan(omega * bankSeconds);
  const damp = 1 / Math.hypot(1, omega * bankSeconds);
  return {
    at(t) {
      const seconds = fromHour * 3600 + t;
      const day = Math.floor(seconds / 86_400);
      const hour = (seconds - day * 86_400) / 3600;
      const plain = airAt(hour, dawnOf(day), swingC, dawnHour);
      return heated && hour >= heated.fromHour ? plain + heated.byC * (1 - Math.exp(-(hour - heated.fromHour) / heatingHours)) : plain;
    },
    bankStartC: dawnC + (swingC / 2) * (1 - damp * Math.cos(((fromHour - dawnHour) / 24) * 2 * Math.PI - phase)),
  };
}
