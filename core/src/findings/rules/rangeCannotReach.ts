import { deviceRange, parameterFor, roleInfo } from '../../card';
import { contains, formatQuantity } from '../../quantity';
import { volts } from '../words';
import { cardOf, devicesOf } from '../../settings';
import type { FindingRule } from '../finding';

/** A charger whose range ends before the sheet's figure: it cannot meet the sheet, and that must be written down. */
export const rangeCannotReach: FindingRule = {
  code: 'rangeCannotReach',
  short: 'Cannot meet the sheet',
  check: ({ plan }) =>
    plan.settings.flatMap((s) => {
      const charger = devicesOf(plan.input).find((c) => c.id === s.charger);
      const card = charger && cardOf(plan.input, charger);
      const parameter = card && parameterFor(card, s.role);
      if (!charger || !parameter || parameter.unit === 'choice' || s.override || s.band === null || s.within !== 'outside' || roleInfo[s.role].unit !== 'V')
        return [];
      const range = deviceRange(parameter, plan.facts.systemVolts ?? plan.facts.nominalVolts);
      if (typeof s.exact !== 'number' || s.trueValue === null || contains(range, s.exact)) return [];
      return [
        {
          code: 'rangeCannotReach',
          severity: 'attention',
          charger: s.charger,
          role: s.role,
          text: `${charger.name} takes ${formatQuantity(range.min, s.unit, s.digits)} to ${formatQuantity(range.max, s.unit, s.digits)} for ${roleInfo[s.role].name}; the sheet asks for ${volts(s.exact)}.`,
          hurts: `The nearest it can hold is ${volts(s.trueValue)}: this charger cannot meet the sheet here.${
            s.role === 'loadDisconnect'
              ? ' Loads go on draining the bank below the sheet’s figure; fit a disconnect of its own, or take loads off in winter.'
              : ''
          }`,
          remedies: [],
        },
      ];
    }),
};
