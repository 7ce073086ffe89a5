import { type Charger, type PanelArray, arrayFacts, type ArrayFacts } from '../system';
import type { Card } from '../card';
import { mostAmps, type Plan } from '../settings';
import { chargersWithCards } from './places';
import type { Draft, Facts, FindingRule } from './finding';

/** Every array of the plan with what follows from it. */
const arrays = (plan: Plan): readonly { charger: Charger; card: Card; array: PanelArray; facts: ArrayFacts }[] =>
  chargersWithCards(plan).flatMap(({ charger, card }) => {
    if (!charger.array) return [];
    const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue ?? plan.facts.nominalVolts;
    const limit = mostAmps(plan, charger, card);
    return [{ charger, card, array: charger.array, facts: arrayFacts(charger.array, card, plan.input.system.site, absorb, limit) }];
  });

/** A rule that looks at one array at a time; all of them are dealt with on the system. */
export const arrayRule = <F extends Facts>(
  find: (entry: ReturnType<typeof arrays>[number], plan: Plan) => Draft<F> | readonly Draft<F>[] | null,
): FindingRule<F> => ({
  belongsTo: 'system',
  check: ({ plan }) => arrays(plan).flatMap((entry) => [find(entry, plan) ?? []].flat().map((found) => ({ charger: entry.charger.id, ...found }))),
});
