import { roleInfo } from '../../card';
import { nameOf } from '../words';
import type { FindingRule } from '../finding';

/** A person's figure that lies outside the sheet. */
export const overrideOutsideSheet: FindingRule = {
  code: 'overrideOutsideSheet',
  check: ({ plan }) =>
    plan.settings
      .filter((s) => s.override && s.within === 'outside')
      .map((s) => ({
        code: 'overrideOutsideSheet',
        severity: 'attention',
        charger: s.charger,
        role: s.role,
        text: `${nameOf(plan, s.charger)}: ${roleInfo[s.role].name} is a figure of the ${s.override?.by ?? 'person'}, outside the sheet.`,
        hurts: 'It stays marked on every view and in the report.',
        remedies: [{ label: 'Go back to the derived value', changes: [{ kind: 'clearOverride', charger: s.charger, role: s.role }] }],
      })),
};

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
