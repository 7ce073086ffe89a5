import { isSource, type Role } from '../card';
import { readsBattery } from '../system';
import type { Plan } from './derive';
import { cardOf, referenceC } from './input';
import type { Setting } from './setting';

/** How a charger moves its setpoints with the temperature it is told. */
export interface Compensation {
  /** V/°C for the bank. */
  readonly slope: number;
  readonly referenceC: number;
  /** Outside these it moves no further, °C; open ends when the card has no such setting. */
  readonly coldestC: number;
  readonly hottestC: number;
  readonly roles: readonly Role[];
}

/** A charger’s compensation as set; null when it has none, or when no sensor tells it the battery’s temperature. */
export function compensationOf(plan: Plan, device: string): Compensation | null {
  const charger = plan.input.system.chargers.find((c) => c.id === device);
  const card = charger && cardOf(plan.input, charger);
  const slope = plan.setting(device, 'compensationSlope');
  if (!charger || !card || !isSource(card.kind) || slope?.trueValue == null || slope.trueValue === 0) return null;
  if (!readsBattery(charger, card) || !card.sensor.usedFor.includes('compensation')) return null;
  return {
    slope: slope.trueValue * plan.facts.cells,
    referenceC: referenceC(plan),
    coldestC: plan.setting(device, 'compensationMinTemp')?.trueValue ?? -Infinity,
    hottestC: plan.setting(device, 'compensationMaxTemp')?.trueValue ?? Infinity,
    roles: card.compensated,
  };
}

/** The shift of a setpoint at a battery temperature, V: slope × (clamped temperature − reference). */
export const shiftAt = ({ slope, referenceC: zero, coldestC, hottestC }: Compensation, celsius: number): number =>
  slope * (Math.min(hottestC, Math.max(coldestC, celsius)) - zero);

/**
 * Where a setpoint stands at a battery temperature, in true volts at the bank. Settings that are no volts, or that do not move, stay as they are.
 *
 * @param celsius temperature of the battery
 */
export function setpointAt(plan: Plan, setting: Setting, celsius: number): number | null {
  if (setting.trueValue === null) return null;
  const moves = compensationOf(plan, setting.charger);
  return moves?.roles.includes(setting.role) ? setting.trueValue + shiftAt(moves, celsius) : setting.trueValue;
}
