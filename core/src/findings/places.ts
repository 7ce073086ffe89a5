import type { Card } from '../card';
import { cardOf, chargersWithCards as all, mostAmps, type Plan, type Setting } from '../settings';
import { hasFigures } from '../sheet';
import type { Charger, Companion } from '../system';

/** Whether anything rests on the battery yet: a figure of its sheet, counting or not, or a charger. */
export const hasBegun = ({ input, withheld }: Plan): boolean => hasFigures(input.sheet) || withheld.length > 0 || input.system.chargers.length > 0;

type InPlace = ReturnType<typeof all>;
const ofPlan = new WeakMap<Plan, InPlace>();

/** Every charger of the job with its card; chargers without a card are left to their own finding. Held with the plan: every rule asks. */
export function chargersWithCards(plan: Plan): InPlace {
  const known = ofPlan.get(plan);
  if (known) return known;
  const list = all(plan.input);
  ofPlan.set(plan, list);
  return list;
}

/** Companions of one kind with their cards. */
export const companionsOf = (plan: Plan, kind: 'monitor' | 'thermostat'): readonly { companion: Companion; card: Card }[] =>
  plan.input.system.companions.flatMap((companion) => {
    const card = cardOf(plan.input, companion);
    return card?.kind === kind ? [{ companion, card }] : [];
  });

/**
 * What a number comes to, core unit, as every rule has to judge it: a person’s figure; else what was found on the device, which stands there until it is
 * changed; else what is worked out. Null for choices and where nobody knows.
 */
export function judged(setting: Setting | undefined): { readonly value: number; readonly found: boolean } | null {
  if (!setting) return null;
  const found = !setting.override && setting.presentTrue !== undefined;
  const value = found ? (setting.presentTrue ?? null) : setting.trueValue;
  return value === null ? null : { value, found };
}

/** What a charger may give as it stands, A: the limit found on it, else what counts for it anyway. */
export function standingAmps(plan: Plan, charger: Charger, card: Card): number {
  const limit = judged(plan.setting(charger.id, 'chargeCurrentLimit'));
  return limit?.found ? Math.min(limit.value, card.ratings.outputA) : mostAmps(plan, charger, card);
}

/** What all chargers together may give, A: as they will be set, or as they stand. */
export const allAmps = (plan: Plan, amps: typeof mostAmps = mostAmps): number =>
  chargersWithCards(plan).reduce((sum, { charger, card }) => sum + amps(plan, charger, card), 0);
