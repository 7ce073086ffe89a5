import { chargerRule } from '../rule';

/** A charger that still answers to its default passcode. */
export const defaultPasscode = chargerRule(
  ({ charger, card }) =>
    card.defaultPasscode && !charger.passcodeChanged
      ? {
          severity: 'note',
          facts: {},
          remedies: [{ does: 'recordPasscode', changes: [{ kind: 'passcodeChanged', charger: charger.id }] }],
        }
      : null,
  { belongsTo: 'system' },
);
