import { hasTrait, meansOf, parameterFor, roleSchema, type DeviceValues, type Role } from '../card';
import { cardOf, devicesOf, factoryValues, targetsOf, valuesOn, type Plan } from '../settings';
import type { Rehearsal } from './scenario';

/** Which values are rehearsed. */
export type VariantKind = Exclude<Rehearsal['against'], 'none'>;

/** A variant in words. */
export const variantWords: Readonly<Record<VariantKind, string>> = {
  asSet: 'as set',
  asFound: 'as found',
  factory: 'factory values',
  lastVisit: 'as last visited',
};

/** What stands on every device, as its display shows it. */
export type AllValues = Readonly<Record<string, DeviceValues>>;

/** Whether a charger follows its leader with these values on it: its link must be switched on. */
export function followsWith(plan: Plan, charger: string, values: DeviceValues): string | null {
  const place = plan.input.system.chargers.find((c) => c.id === charger);
  const card = place && cardOf(plan.input, place);
  if (!place || !card || place.follows === undefined) return null;
  const means = meansOf(parameterFor(card, 'follows'), values.follows);
  return means === 'off' || means === 'other' ? null : place.follows;
}

/** The values of a variant on every device of a job; a follower has its leader’s figures. */
export function variantValues(plan: Plan, kind: VariantKind): AllValues {
  const values: Record<string, DeviceValues> = {};
  for (const device of devicesOf(plan.input)) {
    const found = valuesOn(plan, device.id);
    values[device.id] =
      kind === 'asSet'
        ? { ...found, ...targetsOf(plan, device.id) }
        : kind === 'factory'
          ? factoryValues(plan, device.id)
          : kind === 'lastVisit'
            ? { ...found, ...device.lastVisit?.values }
            : found;
  }
  for (const { id } of plan.input.system.chargers) {
    const own = values[id] ?? {};
    const leader = followsWith(plan, id, own);
    if (leader === null) continue;
    const kept = Object.fromEntries(Object.entries(own).filter(([role]) => hasTrait(role as Role, 'ownOfFollower')));
    values[id] = { ...values[leader], ...kept };
  }
  return values;
}

/** Values with what is tried on them. */
export function withNudges(values: AllValues, nudges: Rehearsal['nudges']): AllValues {
  const result: Record<string, DeviceValues> = { ...values };
  for (const { charger, role, value } of nudges) {
    const known = roleSchema.safeParse(role);
    if (known.success && result[charger]) result[charger] = { ...result[charger], [known.data]: value };
  }
  return result;
}
