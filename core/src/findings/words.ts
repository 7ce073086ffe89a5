import { cardOf, deviceName, type Plan } from '../settings';

export { mostAmps } from '../settings';
import type { Card } from '../card';
import type { Charger, Companion } from '../system';
import { formatQuantity } from '../quantity';

/** Volts as derived or measured figures are shown. */
export const volts = (value: number, digits = 2): string => formatQuantity(value, 'V', digits);
/** Amps, whole unless told otherwise. */
export const amps = (value: number, digits = 0): string => formatQuantity(value, 'A', digits);
/** A temperature in °C: findings are kept with the job, so they keep one scale. */
export const celsius = (value: number, digits = 0): string => formatQuantity(value, '°C', digits);

/** "Solar fore and Solar aft", "A, B and C". */
export const listed = (names: readonly string[]): string =>
  names.length <= 1 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;

type InPlace = readonly { readonly charger: Charger; readonly card: Card }[];
const ofPlan = new WeakMap<Plan, InPlace>();

/** Every charger of the job with its card; chargers without a card are left to their own finding. Kept with the plan: every rule asks. */
export function chargersWithCards(plan: Plan): InPlace {
  const kept = ofPlan.get(plan);
  if (kept) return kept;
  const list = plan.input.system.chargers.flatMap((charger) => {
    const card = cardOf(plan.input, charger);
    return card ? [{ charger, card }] : [];
  });
  ofPlan.set(plan, list);
  return list;
}

/** Companions of one kind with their cards, as places for settings. */
export const companionsOf = (plan: Plan, kind: 'monitor' | 'thermostat'): readonly { companion: Companion; card: Card }[] =>
  plan.input.system.companions.flatMap((companion) => {
    const card = cardOf(plan.input, companion);
    return card?.kind === kind ? [{ companion, card }] : [];
  });

/** A device's name, or its id when the job has none of that id. */
export const nameOf = (plan: Plan, id: string): string => deviceName(plan.input, id);
