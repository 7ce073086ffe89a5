import { roleInfo } from '../../card';
import { nameOf } from '../words';
import type { FindingRule } from '../finding';

/** A person's figure that nobody else has looked at. */
export const overrideNotReviewed: FindingRule = {
  code: 'overrideNotReviewed',
  check: ({ plan }) =>
    plan.settings
      .filter((s) => s.override && !s.override.reviewedBy)
      .map((s) => ({
        code: 'overrideNotReviewed',
        severity: 'note',
        charger: s.charger,
        role: s.role,
        text: `${nameOf(plan, s.charger)}: the override of ${roleInfo[s.role].name} has had no second look${s.override?.reason ? '' : ', and no reason is given'}.`,
        hurts: 'One slip of the finger would go unseen.',
        remedies: [{ label: 'A second person has looked at it', changes: [{ kind: 'reviewOverride', charger: s.charger, role: s.role, by: 'second person' }] }],
      })),
};
