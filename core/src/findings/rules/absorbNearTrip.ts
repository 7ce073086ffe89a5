import { figureOnBank, statedFigure } from '../../sheet';
import { chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** Least distance between absorb and the pack's trip, V per 12 V of system voltage. */
const leastPer12V = 0.2;

/** Absorb so close to the BMS over-voltage trip that ripple or a step in load opens it. */
export const absorbNearTrip: FindingRule = {
  code: 'absorbNearTrip',
  check: ({ plan }) => {
    const figure = statedFigure(plan.input.sheet, 'bmsOverVoltage');
    const trip = figure && (figureOnBank(figure, plan.facts.shape).band.max ?? figureOnBank(figure, plan.facts.shape).target);
    if (trip === undefined) return [];
    const least = (leastPer12V * (plan.facts.systemVolts ?? plan.facts.nominalVolts)) / 12;
    return chargersWithCards(plan).flatMap(({ charger }) => {
      const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
      if (absorb == null || trip - absorb >= least - 1e-9) return [];
      return [
        {
          code: 'absorbNearTrip',
          severity: 'stop',
          charger: charger.id,
          role: 'absorbVoltage',
          text: `${charger.name} absorbs at ${volts(absorb)}, ${volts(trip - absorb)} under the BMS trip ${volts(trip, 1)}; at least ${volts(least, 1)} is wanted.`,
          hurts: 'The BMS disconnects a running system: spikes, dead alternator diodes, lost loads.',
          remedies: [],
        },
      ];
    });
  },
};
