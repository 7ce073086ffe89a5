import { per12 } from '../../settings';
import { belowTripPer12V, lowestTrip } from '../../system';
import { chargerRule } from '../rule';

/**
 * One cell ahead of the others trips the BMS at a pack voltage that looks harmless. A stop where it was measured, or where the charger has an alarm
 * that would have to lie between absorb and the trip; on an assumed spread alone it is a thing to look at.
 */
export const cellSpread = chargerRule(({ charger }, plan) => {
  const trip = lowestTrip(plan.input.sheet, plan.input.system);
  const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
  const least = per12(plan, belowTripPer12V);
  if (!trip?.cell || absorb == null || trip.volts - absorb >= least - 1e-9) return null;
  const alarm = plan.setting(charger.id, 'highVoltageAlarm')?.value != null;
  return {
    severity: !trip.cell.assumed || alarm ? 'stop' : 'attention',
    role: 'absorbVoltage',
    facts: { absorb, meanV: absorb / plan.facts.cells, ...trip.cell, lowestV: trip.volts, leastV: least, alarm },
  };
});
