import { isLithium, statedFigure } from '../../sheet';
import type { FindingRule } from '../finding';

/** A lithium pack without a BMS, or whose trip nobody knows. */
export const bmsUnknown: FindingRule = {
  code: 'bmsUnknown',
  belongsTo: 'sheet',
  check: ({ plan }) => {
    if (!isLithium(plan.input.sheet.chemistry)) return [];
    if (!plan.input.system.bank.hasBms)
      return [
        {
          code: 'bmsUnknown',
          severity: 'stop',
          text: 'This lithium bank has no BMS.',
          hurts: 'Nothing stops one cell from being overcharged or run flat. Do not program chargers for it.',
          remedies: [],
        },
      ];
    if (statedFigure(plan.input.sheet, 'bmsOverVoltage') || statedFigure(plan.input.sheet, 'bmsCellOverVoltage')) return [];
    return [
      {
        code: 'bmsUnknown',
        severity: 'attention',
        figure: 'bmsOverVoltage',
        text: 'The voltage at which the BMS opens is not known.',
        hurts: 'How far absorb stays below it cannot be told. It is a missing figure: ask the maker.',
        remedies: [],
      },
    ];
  },
};
