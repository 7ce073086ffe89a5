import { formatQuantity } from '../../quantity';
import { correctionAt } from '../../settings';
import { chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** A display error that is corrected in the setpoints: say so once, because the keyed value will look wrong to others. */
export const displayCorrected: FindingRule = {
  code: 'displayCorrected',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger, card }) => {
      const absorb = plan.setting(charger.id, 'absorbVoltage');
      if (typeof absorb?.value !== 'number' || absorb.trueValue === null) return [];
      const error = correctionAt({ input: plan.input, charger, card }, absorb.trueValue);
      if (error === 0) return [];
      return [
        {
          code: 'displayCorrected',
          severity: 'note',
          charger: charger.id,
          role: 'absorbVoltage',
          text: `${charger.name} is keyed ${formatQuantity(absorb.value, absorb.unit, absorb.digits)} to make ${volts(absorb.trueValue)}, because its display reads ${volts(Math.abs(error))} ${error > 0 ? 'high' : 'low'}.`,
          hurts: 'Whoever reads the display later will think it set wrong. Confirm it on a metered plateau.',
          remedies: [],
        },
      ];
    }),
};
