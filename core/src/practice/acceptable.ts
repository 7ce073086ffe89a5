import { displayText, meansOf, parameterFor, type Role } from '../card';
import { cardOf, devicesOf, trueOf, type Plan } from '../settings';
import type { Prepared } from './prepared';

/** So many of a device’s steps may a value lie from the one worked out, inside its band. */
const mayDiffer = 2;

const parameterOn = (plan: Plan, device: string, role: Role) => {
  const place = devicesOf(plan.input).find((d) => d.id === device);
  const card = place && cardOf(plan.input, place);
  return card && parameterFor(card, role);
};

/**
 * Whether a value on a device is as it should be: the one worked out, or within two steps of it and inside its band. What is not worked out
 * must be as it was; what comes from a leader is the leader’s affair.
 */
export function acceptable(plan: Plan, at: Prepared, device: string, role: Role, value: number | string | undefined): boolean {
  const setting = plan.setting(device, role);
  if (setting?.inherited !== undefined) return true;
  if (setting?.value == null) return value === at.right[device]?.[role];
  if (value === setting.value) return true;
  const p = parameterOn(plan, device, role);
  if (p?.unit === 'choice') return meansOf(p, value) !== null && meansOf(p, value) !== 'other' && meansOf(p, value) === meansOf(p, setting.value);
  // Without a band there is nothing but the value itself to judge by.
  if (!p || !setting.band || typeof value !== 'number' || typeof setting.value !== 'number') return false;
  const real = trueOf(plan, device, role, value);
  if (Math.abs(value - setting.value) > mayDiffer * p.step + 1e-9 || real === null) return false;
  return real >= (setting.band.min ?? -Infinity) - 1e-6 && real <= (setting.band.max ?? Infinity) + 1e-6;
}

/** A value as its device would show it. */
export function asShown(plan: Plan, device: string, role: Role, value: number | string): string {
  const p = parameterOn(plan, device, role);
  return p ? displayText(p, value) : String(value);
}
