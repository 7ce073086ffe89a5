import { formatQuantity } from '../../quantity';
import { correctionAt } from '../../settings';
import { chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** A display more than one percent off the meter: look for a fault before correcting it away. */
export const displayErrorLarge: FindingRule = {
  code: 'displayErrorLarge',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger }) => {
      const off = charger.displayReadings.map((r) => ({ ...r, percent: (100 * (r.displayV - r.meterV)) / r.meterV })).find((r) => Math.abs(r.percent) > 1);
      if (!off) return [];
      return [
        {
          code: 'displayErrorLarge',
          severity: 'stop',
          charger: charger.id,
          text: `${charger.name}’s display shows ${volts(off.displayV)} where the meter reads ${volts(off.meterV)}: ${Math.abs(off.percent).toFixed(1)} % ${off.percent > 0 ? 'high' : 'low'}.`,
          hurts: 'More than 1 % points to a fault or a drop in a lead. Find it before correcting setpoints by it.',
          remedies: [],
        },
      ];
    }),
};

/** A display that was never compared with a meter. */
export const displayNotCompared: FindingRule = {
  code: 'displayNotCompared',
  check: ({ plan }) =>
    chargersWithCards(plan)
      .filter(({ charger }) => charger.displayReadings.length === 0)
      .map(({ charger }) => ({
        code: 'displayNotCompared',
        severity: 'attention',
        charger: charger.id,
        text: `${charger.name}’s display has not been compared with a meter.`,
        hurts: 'A display off by one percent puts every setpoint off by as much. Enter a comparison on System.',
        remedies: [],
      })),
};

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
