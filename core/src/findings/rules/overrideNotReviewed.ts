import { settingRule } from '../rule';

/** A person's figure that nobody else has looked at, or a value that somebody chose to leave. */
export const overrideNotReviewed = settingRule((s) => {
  const override = s.override ?? s.left;
  return !override || override.reviewedBy
    ? null
    : {
        severity: 'note',
        facts: { role: s.role, reason: override.reason !== '' },
        remedies: [{ does: 'reviewed', changes: [{ kind: 'reviewOverride', charger: s.charger, role: s.role, by: 'second person' }] }],
      };
});
