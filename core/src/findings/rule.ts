import type { Card } from '../card';
import { formatQuantity } from '../quantity';
import type { Plan, Setting } from '../settings';
import type { Charger } from '../system';
import { chargersWithCards } from './words';
import type { Finding, FindingPlace, FindingRule } from './finding';

/** What a rule says when it fires: the finding without what the helper adds. */
export type Draft = Pick<Finding, 'severity' | 'text' | 'hurts'> & Partial<Pick<Finding, 'role' | 'figure' | 'remedies'>>;

/** A rule that looks at one charger at a time. */
export const chargerRule = (code: string, look: (at: { charger: Charger; card: Card }, plan: Plan) => Draft | null, place: FindingPlace = {}): FindingRule => ({
  ...place,
  code,
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap((at) => {
      const draft = look(at, plan);
      return draft ? [{ code, charger: at.charger.id, remedies: [], ...draft }] : [];
    }),
});

/** A rule that looks at the whole job. */
export const jobRule = (code: string, look: (plan: Plan) => Draft | null, place: FindingPlace = {}): FindingRule => ({
  ...place,
  code,
  check: ({ plan }) => {
    const draft = look(plan);
    return draft ? [{ code, remedies: [], ...draft }] : [];
  },
});

/**
 * What puts a setting right: a person’s figure goes back to the derived one; what was found on the device is recorded as changed to what is
 * worked out. Nothing when no value is worked out.
 */
export function puttingRight(setting: Setting | undefined): Finding['remedies'] {
  if (!setting) return [];
  const { charger, role, value } = setting;
  if (setting.override) return [{ label: 'Go back to the derived value', changes: [{ kind: 'clearOverride', charger, role }] }];
  if (value === null) return [];
  const reads = typeof value === 'number' ? formatQuantity(value, setting.unit, setting.digits) : `“${value}”`;
  return [{ label: `Record that it now reads ${reads}`, changes: [{ kind: 'recordPresent', charger, role, value }] }];
}
