import type { Card } from '../card';
import { cardOf, type Plan } from '../settings';
import type { Charger, Companion } from '../system';

export { mostAmps } from '../settings';

type InPlace = readonly { readonly charger: Charger; readonly card: Card }[];
const ofPlan = new WeakMap<Plan, InPlace>();

/** Every charger of the job with its card; chargers without a card are left to their own finding. Held with the plan: every rule asks. */
export function chargersWithCards(plan: Plan): InPlace {
  const known = ofPlan.get(plan);
  if (known) return known;
  const list = plan.input.system.chargers.flatMap((charger) => {
    const card = cardOf(plan.input, charger);
    return card ? [{ charger, card }] : [];
  });
  ofPlan.set(plan, list);
  return list;
}

/** Companions of one kind with their cards. */
export const companionsOf = (plan: Plan, kind: 'monitor' | 'thermostat'): readonly { companion: Companion; card: Card }[] =>
  plan.input.system.companions.flatMap((companion) => {
    const card = cardOf(plan.input, companion);
    return card?.kind === kind ? [{ companion, card }] : [];
  });
