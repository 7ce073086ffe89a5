import { chargersWithCards } from '../words';
import type { FindingRule } from '../finding';

/** A display that was never compared with a meter. */
export const displayNotCompared: FindingRule = {
  code: 'displayNotCompared',
  belongsTo: 'system',
  short: 'Display not compared',
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
