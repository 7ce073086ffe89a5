import { per12 } from '../../settings';
import { belowTripPer12V, lowestTrip } from '../../system';
import { chargerRule } from '../rule';

/** Absorb so close to the pack’s over-voltage trip that ripple or a step in load opens it. Where a cell trips first that is said of the cell. */
export const absorbNearTrip = chargerRule(({ charger }, plan) => {
  const trip = lowestTrip(plan.input.sheet, plan.input.system);
  const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
  const least = per12(plan, belowTripPer12V);
  if (trip?.by !== 'pack' || absorb == null || trip.volts - absorb >= least - 1e-9) return null;
  return { severity: 'stop', role: 'absorbVoltage', facts: { absorb, trip: trip.volts, least } };
});
