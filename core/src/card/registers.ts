import { bad, good, tidy, type Result } from '../quantity';
import { parameterFor, type Card } from './card';
import type { DeviceValues, Role } from './role';

/** What an unknown or unavailable register holds. */
export const noReading = -32_768;

/** A 16-bit word as a signed number. */
export const fromWord = (word: number): number => (word > 32_767 ? word - 65_536 : word);
/** A signed number from −32,768 to 32,767 as a 16-bit word. */
export const toWord = (value: number): number => (value < 0 ? value + 65_536 : value);

/**
 * The register and the count for a value on the display.
 *
 * @returns a problem where the device offers no register for it, or the value does not fit its counts or its options
 */
export function toRegister(card: Card, role: Role, value: number | string): Result<{ register: number; raw: number }> {
  const at = card.telemetry?.values.find((v) => v.role === role);
  const parameter = parameterFor(card, role);
  if (!at || !parameter) return bad('no-register', `${card.maker} ${card.model} offers no register for ${role}. Key it in by hand.`, role);
  if (parameter.unit === 'choice') {
    const place = parameter.options.findIndex((o) => o.value === value);
    return place < 0 ? bad('no-option', `${parameter.label} has no option “${String(value)}”.`, role) : good({ register: at.register, raw: place });
  }
  const raw = typeof value === 'number' ? Math.round(value / at.scale) : NaN;
  if (!(Math.abs(raw) <= 32_767) || Math.abs(raw * at.scale - Number(value)) > 1e-6)
    return bad('no-count', `${parameter.label} ${String(value)} cannot be written in counts of ${at.scale}.`, role);
  return good({ register: at.register, raw });
}

/** A register's count as the display would show it; null where it holds nothing that the card knows. */
export function fromRegister(card: Card, role: Role, raw: number): number | string | null {
  const at = card.telemetry?.values.find((v) => v.role === role);
  const parameter = parameterFor(card, role);
  if (!at || !parameter || raw === noReading) return null;
  return parameter.unit === 'choice' ? (parameter.options[raw]?.value ?? null) : tidy(raw * at.scale);
}

/** Settings read from registers, by role; those that hold nothing known are left out. */
export function valuesFromRegisters(card: Card, rawAt: (register: number) => number | undefined): DeviceValues {
  const values: Partial<Record<Role, number | string>> = {};
  for (const { role, register } of card.telemetry?.values ?? []) {
    const raw = rawAt(register);
    const value = raw === undefined ? null : fromRegister(card, role, raw);
    if (value !== null) values[role] = value;
  }
  return values;
}
