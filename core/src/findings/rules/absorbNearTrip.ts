import { per12 } from '../../settings';
import { overVoltageTrip } from '../../sheet';
import { chargerRule } from '../rule';

/** Least distance between absorb and the pack's trip, V per 12 V of system voltage. */
const leastPer12V = 0.2;

/** Absorb so close to the BMS over-voltage trip that ripple or a step in load opens it. */
export const absorbNearTrip = chargerRule(({ charger }, plan) => {
  const trip = overVoltageTrip(plan.input.sheet, plan.facts.shape);
  const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
  const least = per12(plan, leastPer12V);
  if (trip === undefined || absorb == null || trip - absorb >= least - 1e-9) return null;
  return { severity: 'stop', role: 'absorbVoltage', facts: { absorb, trip, least } };
});
