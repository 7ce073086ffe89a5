import { settingRule } from '../rule';

/** A person's figure that nobody else has looked at. */
export const overrideNotReviewed = settingRule((s) =>
  !s.override || s.override.reviewedBy
    ? null
    : {
        severity: 'note',
        facts: { role: s.role, reason: s.override.reason !== '' },
        remedies: [{ does: 'reviewed', changes: [{ kind: 'reviewOverride', charger: s.charger, role: s.role, by: 'second person' }] }],
      },
);
