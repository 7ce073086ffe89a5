import { per12 } from '../../settings';
import { overVoltageTrip } from '../../sheet';
import { chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** Least distance between absorb and the pack's trip, V per 12 V of system voltage. */
const leastPer12V = 0.2;

/** Absorb so close to the BMS over-voltage trip that ripple or a step in load opens it. */
export const absorbNearTrip: FindingRule = {
  code: 'absorbNearTrip',
  short: 'Absorb near BMS trip',
  check: ({ plan }) => {
    const trip = overVoltageTrip(plan.input.sheet, plan.facts.shape);
    if (trip === undefined) return [];
    const least = per12(plan, leastPer12V);
    return chargersWithCards(plan).flatMap(({ charger }) => {
      const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
      if (absorb == null || trip - absorb >= least - 1e-9) return [];
      return [
        {
          code: 'absorbNearTrip',
          severity: 'stop',
          charger: charger.id,
          role: 'absorbVoltage',
          text: `${charger.name} absorbs at ${volts(absorb)}, ${absorb > trip ? `${volts(absorb - trip)} above` : `only ${volts(trip - absorb)} under`} the BMS trip ${volts(trip, 1)}; at least ${volts(least, 1)} under it is wanted.`,
          hurts: 'The BMS disconnects a running system: spikes, dead alternator diodes, lost loads.',
          remedies: [],
        },
      ];
    });
  },
};
