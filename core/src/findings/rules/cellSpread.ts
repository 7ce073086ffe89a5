import { figureOnBank, scaleVolts, statedFigure } from '../../sheet';
import { chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** The highest cell above the mean at the end of absorb, when nobody has measured it, V. */
const assumedSpreadV = 0.1;

/** One cell ahead of the others trips the BMS at a pack voltage that looks harmless. */
export const cellSpread: FindingRule = {
  code: 'cellSpread',
  check: ({ plan }) => {
    const figure = statedFigure(plan.input.sheet, 'bmsCellOverVoltage');
    const printed = figure?.max ?? figure?.target;
    if (!figure || printed === undefined || figureOnBank(figure, plan.facts.shape).band.max === undefined) return [];
    const trip = scaleVolts(printed, figure.basis, 'cell', plan.facts.shape);
    const entered = plan.input.system.bank.cellSpreadV;
    const spread = entered ?? assumedSpreadV;
    return chargersWithCards(plan).flatMap(({ charger }) => {
      const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
      if (absorb == null) return [];
      const highest = absorb / plan.facts.cells + spread;
      if (highest < trip - 1e-9) return [];
      return [
        {
          code: 'cellSpread',
          severity: 'attention',
          charger: charger.id,
          role: 'absorbVoltage',
          text: `At ${volts(absorb)} the mean cell is ${volts(absorb / plan.facts.cells)}; with ${volts(spread)} of ${entered === undefined ? 'assumed' : 'measured'} spread the highest reaches ${volts(highest)}, and the BMS opens at ${volts(trip)} on any cell.`,
          hurts: 'One cell out of balance disconnects the bank before it is full.',
          remedies: [],
        },
      ];
    });
  },
};
