import { formatQuantity } from '../../quantity';
import { isLithium, statedFigure } from '../../sheet';
import { missing, provingUncertainty, voltsFromSheet, type RoleRule } from '../context';

/** Resting volts of a lead cell at about three quarters of charge (general electrochemistry; derived, never the maker's figure). */
const leadRestingVoltsPerCell = 2.075;

/** Recharge: the sheet's "at most" less the proving uncertainty; for lead without a figure, from the resting table, marked derived. */
export const rechargeVoltage: RoleRule = {
  role: 'rechargeVoltage',
  want: (context) => {
    const { input, facts } = context;
    const figure = statedFigure(input.sheet, 'rechargeVoltage');
    const sheet = voltsFromSheet(context, 'rechargeVoltage', figure?.max === undefined ? 'target' : 'most');
    if (sheet) {
      const by = provingUncertainty(input, sheet.volts);
      return {
        kind: 'number',
        exact: sheet.volts - by,
        band: figure?.max === undefined ? sheet.band : { max: sheet.volts },
        inset: by,
        prefer: 'down',
        steps: [
          ...sheet.steps,
          {
            kind: 'change',
            words: 'Less the proving uncertainty: it is an “at most” figure',
            value: -by,
            unit: 'V',
            digits: 2,
            source: 'Guard band of the proving meter',
          },
          { kind: 'subtotal', words: 'Wanted at the battery', value: sheet.volts - by, unit: 'V', digits: 2 },
        ],
      };
    }
    if (isLithium(input.sheet.chemistry)) return missing(context, 'recharge voltage, and a lithium resting voltage says too little to derive one');
    const volts = leadRestingVoltsPerCell * facts.cells;
    return {
      kind: 'number',
      exact: volts,
      band: null,
      inset: 0,
      prefer: 'down',
      steps: [
        {
          kind: 'start',
          words: 'Resting volts of a lead cell at 75 % charge, derived',
          value: leadRestingVoltsPerCell,
          unit: 'V',
          digits: 3,
          source: 'General electrochemistry, not the maker’s figure',
        },
        { kind: 'result', words: `× ${facts.cells} cells in series`, value: volts, unit: 'V', digits: 2 },
        { kind: 'note', words: `The sheet gives no recharge voltage. ${formatQuantity(volts, 'V', 2)} is derived: check it with the maker.` },
      ],
    };
  },
};
