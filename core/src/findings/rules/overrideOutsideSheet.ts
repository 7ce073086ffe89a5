import { roleInfo } from '../../card';
import { nameOf } from '../words';
import type { FindingRule } from '../finding';

/** A person's figure that lies outside the sheet. */
export const overrideOutsideSheet: FindingRule = {
  code: 'overrideOutsideSheet',
  short: 'Outside the sheet',
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
