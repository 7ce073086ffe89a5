import { factoryOf, type DeviceValues, type Role } from '../card';
import type { Plan } from './derive';
import { cardOf, devicesOf } from './input';

/** What stands on a device: as given, as found, else the factory's. */
export function valuesOn(plan: Plan, device: string, from: DeviceValues = {}): DeviceValues {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  if (!place || !card) return {};
  const systemVolts = plan.facts.systemVolts ?? plan.facts.nominalVolts;
  const values: Partial<Record<Role, number | string>> = {};
  for (const p of card.parameters) {
    const value = from[p.role] ?? place.present[p.role] ?? factoryOf(p, systemVolts);
    if (value !== undefined) values[p.role] = value;
  }
  return values;
}

/** The targets of a device, as its display shows them; inherited, left and unused settings are not among them. */
export function targetsOf(plan: Plan, device: string): DeviceValues {
  const values: Partial<Record<Role, number | string>> = {};
  for (const s of plan.settings) if (s.charger === device && s.value !== null && !s.inherited) values[s.role] = s.value;
  return values;
}
