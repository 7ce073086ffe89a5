import { per12 } from '../../settings';
import { lowestTrip } from '../../system';
import { chargerRule } from '../rule';

/** Least distance between absorb and the lowest trip, V per 12 V of system voltage. */
export const leastPer12V = 0.2;

/** Absorb so close to the pack’s over-voltage trip that ripple or a step in load opens it. Where a cell trips first that is said of the cell. */
export const absorbNearTrip = chargerRule(({ charger }, plan) => {
  const trip = lowestTrip(plan.input.sheet, plan.input.system);
  const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
  const least = per12(plan, leastPer12V);
  if (trip?.by !== 'pack' || absorb == null || trip.volts - absorb >= least - 1e-9) return null;
  return { severity: 'stop', role: 'absorbVoltage', facts: { absorb, trip: trip.volts, least } };
});
