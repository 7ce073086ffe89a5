import { parameterFor, plainGrid, type Role } from '../card';
import type { Charger } from '../system';
import { deviceSetting, presentOrFactory, type Plan } from './derive';
import { trueFromDisplay } from './fit';
import { cardOf, devicesOf } from './input';

/** A value a device can hold, as its display shows it, and what it makes in the core's unit. */
export interface HeldValue {
  readonly device: number;
  readonly real: number;
}

/** A number on a device, and what its display's value makes there; null for choices and roles it has not. */
function numberOn(plan: Plan, id: string, role: Role): { grid: () => readonly number[]; real: (value: number) => number } | null {
  const charger = devicesOf(plan.input).find((d) => d.id === id);
  const card = charger && cardOf(plan.input, charger);
  const parameter = card && parameterFor(card, role);
  if (!charger || !card || !parameter || parameter.unit === 'choice') return null;
  const device = deviceSetting(plan.facts, card, plan.setting(id, 'floatVoltage')?.trueValue ?? undefined);
  return {
    grid: () => plainGrid(parameter, device.systemVolts),
    real: (value) => trueFromDisplay({ input: plan.input, charger, card, device }, parameter, value),
  };
}

/** What a device value would make at the battery, in the core's unit; null when the charger has no such number. */
export const trueOf = (plan: Plan, id: string, role: Role, value: number): number | null => numberOn(plan, id, role)?.real(value) ?? null;

/** What stands on a device for a role, as found, else as it left the factory, in the core's unit; null for choices and where nobody knows. */
export function standsAt(plan: Plan, charger: Charger, role: Role): number | null {
  const value = presentOrFactory(plan.input, charger, role);
  return typeof value === 'number' ? trueOf(plan, charger.id, role, value) : null;
}

/** Every value a device can hold for a role that means itself, with what each makes. */
function heldValues(plan: Plan, id: string, role: Role): readonly HeldValue[] {
  const number = numberOn(plan, id, role);
  return number ? number.grid().map((device) => ({ device, real: number.real(device) })) : [];
}

/** The value a device can hold that comes nearest to what is wanted, core unit; null where it holds no number. */
export const nearestHeld = (plan: Plan, id: string, role: Role, wanted: number): HeldValue | null =>
  heldValues(plan, id, role).reduce<HeldValue | null>(
    (best, v) => (best === null || Math.abs(v.real - wanted) < Math.abs(best.real - wanted) ? v : best),
    null,
  );

/** The next value up or down on the device's display from the one that is set; null at the end. */
export function nextHeld(plan: Plan, id: string, role: Role, by: 1 | -1): HeldValue | null {
  const list = heldValues(plan, id, role);
  const now = plan.setting(id, role)?.value;
  if (typeof now !== 'number') return null;
  const at = list.findIndex((v) => Math.abs(v.device - now) < 1e-6);
  return at < 0 ? (list.find((v) => (by > 0 ? v.device > now : v.device < now)) ?? null) : (list[at + by] ?? null);
}
