import { type Charger, type PanelArray, arrayFacts, type ArrayFacts } from '../system';
import type { Card } from '../card';
import type { Plan } from '../settings';
import { chargersWithCards, mostAmps } from './words';
import type { Finding, FindingRule } from './finding';

/** Every array of the plan with what follows from it. */
export const arrays = (plan: Plan): readonly { charger: Charger; card: Card; array: PanelArray; facts: ArrayFacts }[] =>
  chargersWithCards(plan).flatMap(({ charger, card }) => {
    if (!charger.array) return [];
    const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue ?? plan.facts.nominalVolts;
    const limit = mostAmps(plan, charger, card);
    return [{ charger, card, array: charger.array, facts: arrayFacts(charger.array, card, plan.input.system.site, absorb, limit) }];
  });

/** A rule that looks at one array at a time; all of them are dealt with on the system. */
export const arrayRule = (
  code: string,
  find: (entry: ReturnType<typeof arrays>[number], plan: Plan) => Pick<Finding, 'severity' | 'text' | 'hurts'> | null,
): FindingRule => ({
  belongsTo: 'system',
  code,
  check: ({ plan }) =>
    arrays(plan).flatMap((entry) => {
      const found = find(entry, plan);
      return found ? [{ code, charger: entry.charger.id, remedies: [], ...found }] : [];
    }),
});
