import { factoryOf, type DeviceValues, type Parameter, type Role } from '../card';
import type { Plan } from './derive';
import { cardOf, devicesOf } from './input';
import { rangeVolts } from '../system';

type Value = number | string | undefined;

/** One value for every parameter of a device, where there is one. */
function valuesBy(plan: Plan, device: string, value: (parameter: Parameter, present: DeviceValues, systemVolts: number) => Value): DeviceValues {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  if (!place || !card) return {};
  const systemVolts = rangeVolts(plan.facts);
  const values: Partial<Record<Role, number | string>> = {};
  for (const p of card.parameters) {
    const own = value(p, place.present, systemVolts);
    if (own !== undefined) values[p.role] = own;
  }
  return values;
}

/** What stands on a device: as given, as found, else the factory's. */
export const valuesOn = (plan: Plan, device: string, from: DeviceValues = {}): DeviceValues =>
  valuesBy(plan, device, (p, present, systemVolts) => from[p.role] ?? present[p.role] ?? factoryOf(p, systemVolts));

/** What a device left the factory with. */
export const factoryValues = (plan: Plan, device: string): DeviceValues => valuesBy(plan, device, (p, _, systemVolts) => factoryOf(p, systemVolts));

/** The targets of a device, as its display shows them; inherited, left and unused settings are not among them. */
export function targetsOf(plan: Plan, device: string): DeviceValues {
  const values: Partial<Record<Role, number | string>> = {};
  for (const s of plan.settings) if (s.charger === device && s.value !== null && !s.inherited) values[s.role] = s.value;
  return values;
}
