import type { Card } from '../card';
import type { Plan } from '../settings';
import type { Charger } from '../system';
import { chargersWithCards } from './words';
import type { Finding, FindingRule } from './finding';

/** What a rule says when it fires: the finding without what the helper adds. */
export type Draft = Pick<Finding, 'severity' | 'text' | 'hurts'> & Partial<Pick<Finding, 'role' | 'figure' | 'remedies'>>;

/** A rule that looks at one charger at a time. */
export const chargerRule = (code: string, look: (at: { charger: Charger; card: Card }, plan: Plan) => Draft | null): FindingRule => ({
  code,
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap((at) => {
      const draft = look(at, plan);
      return draft ? [{ code, charger: at.charger.id, remedies: [], ...draft }] : [];
    }),
});

/** A rule that looks at the whole job. */
export const jobRule = (code: string, look: (plan: Plan) => Draft | null): FindingRule => ({
  code,
  check: ({ plan }) => {
    const draft = look(plan);
    return draft ? [{ code, remedies: [], ...draft }] : [];
  },
});
