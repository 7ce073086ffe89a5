import { chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** A display more than one percent off the meter: look for a fault before correcting it away. */
export const displayErrorLarge: FindingRule = {
  code: 'displayErrorLarge',
  belongsTo: 'system',
  short: 'Display far off',
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
