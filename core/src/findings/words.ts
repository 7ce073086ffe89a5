import { cardOf, type Plan } from '../settings';

export { mostAmps } from '../settings';
import type { Card } from '../card';
import type { Charger } from '../system';
import { formatQuantity } from '../quantity';

/** Volts as derived or measured figures are shown. */
export const volts = (value: number, digits = 2): string => formatQuantity(value, 'V', digits);
export const amps = (value: number, digits = 0): string => formatQuantity(value, 'A', digits);
export const celsius = (value: number, digits = 0): string => formatQuantity(value, '°C', digits);

/** "Solar fore and Solar aft", "A, B and C". */
export const listed = (names: readonly string[]): string =>
  names.length <= 1 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`;

/** Every charger of the job with its card; chargers without a card are left to their own finding. */
export const chargersWithCards = (plan: Plan): readonly { charger: Charger; card: Card }[] =>
  plan.input.system.chargers.flatMap((charger) => {
    const card = cardOf(plan.input, charger);
    return card ? [{ charger, card }] : [];
  });

/** A charger's name, or its id when the job has none of that id. */
export const nameOf = (plan: Plan, id: string): string => plan.input.system.chargers.find((c) => c.id === id)?.name ?? id;
