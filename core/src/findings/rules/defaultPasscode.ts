import { chargersWithCards } from '../words';
import type { FindingRule } from '../finding';

/** A charger that still answers to its default passcode. */
export const defaultPasscode: FindingRule = {
  code: 'defaultPasscode',
  belongsTo: 'system',
  check: ({ plan }) =>
    chargersWithCards(plan)
      .filter(({ charger, card }) => card.defaultPasscode && !charger.passcodeChanged)
      .map(({ charger }) => ({
        code: 'defaultPasscode',
        severity: 'note',
        charger: charger.id,
        text: `${charger.name} still has its default passcode.`,
        hurts: 'Anyone in radio range can change the figures.',
        remedies: [{ label: 'It is changed now', changes: [{ kind: 'passcodeChanged', charger: charger.id }] }],
      })),
};
