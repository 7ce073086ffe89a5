import { chargersWithCards } from '../words';
import type { FindingRule } from '../finding';

/** An alternator that a BMS can cut off while it turns. */
export const loadDump: FindingRule = {
  code: 'loadDump',
  belongsTo: 'system',
  check: ({ plan }) =>
    !plan.input.system.bank.hasBms
      ? []
      : chargersWithCards(plan)
          .filter(({ charger, card }) => card.kind === 'alternator' && charger.machine?.loadDumpProtected !== true)
          .map(({ charger }) => ({
            code: 'loadDump',
            severity: 'attention' as const,
            charger: charger.id,
            text: `A BMS that opens while ${charger.name} charges leaves the alternator without a load, and no protection is entered.`,
            hurts: 'The voltage spike kills diodes and electronics. The output of a turning alternator is never opened: it is stopped at its field.',
            remedies: [],
          })),
};
