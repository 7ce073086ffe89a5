import { bad, good, tidy, type Result } from '../quantity';
import { parameterFor, type Card } from './card';
import { countEnds, countFrom, wordsIn } from './count';
import type { DeviceValues, Role } from './role';

/** The count of a value on the display: for a choice the place of its option. A problem where it does not fit its counts or its options. */
export function countOf(card: Card, role: Role, value: number | string): Result<number> {
  const at = card.telemetry?.values.find((v) => v.role === role);
  const parameter = parameterFor(card, role);
  if (!at || !parameter) return bad('no-register', `${card.maker} ${card.model} offers no register for ${role}. Key it in by hand.`, role);
  if (parameter.unit === 'choice') {
    const place = parameter.options.findIndex((o) => o.value === value);
    return place < 0 ? bad('no-option', `${parameter.label} has no option “${String(value)}”.`, role) : good(place);
  }
  if (at.form === 'float32') return typeof value === 'number' ? good(value / at.scale) : bad('no-count', `${parameter.label} takes a number.`, role);
  const raw = typeof value === 'number' ? Math.round(value / at.scale) : NaN;
  const { least, most } = countEnds[at.form ?? 'int16'];
  if (!(raw >= least && raw <= most) || Math.abs(raw * at.scale - Number(value)) > 1e-6)
    return bad('no-count', `${parameter.label} ${String(value)} cannot be written in counts of ${at.scale}.`, role);
  return good(raw);
}

/**
 * The register and the count for a value on the display.
 *
 * @returns a problem where the device offers no register for it, where it takes two of them, or the value does not fit its counts or its options
 */
export function toRegister(card: Card, role: Role, value: number | string): Result<{ register: number; raw: number }> {
  const raw = countOf(card, role, value);
  const at = card.telemetry?.values.find((v) => v.role === role);
  if (!raw.ok || !at) return raw.ok ? bad('no-register', `No register for ${role}.`, role) : raw;
  // Written one after the other, for a moment half of the old value would stand beside half of the new.
  if (wordsIn(at) === 2)
    return bad('two-words', `${parameterFor(card, role)?.label ?? role} is in two registers, which are read and not written. Key it in by hand.`, role);
  return good({ register: at.register, raw: raw.value });
}

/** A setting as the display would show it, by the words of its registers; null where they hold nothing that the card knows. */
export function fromRegisters(card: Card, role: Role, wordAt: (register: number) => number | undefined): number | string | null {
  const at = card.telemetry?.values.find((v) => v.role === role);
  const parameter = parameterFor(card, role);
  const raw = at ? countFrom(at, wordAt) : null;
  if (!at || !parameter || raw === null) return null;
  return parameter.unit === 'choice' ? (parameter.options[raw]?.value ?? null) : tidy(raw * at.scale);
}

/** Settings read from the words of registers, by role; those that hold nothing known are left out. */
export function valuesFromRegisters(card: Card, wordAt: (register: number) => number | undefined): DeviceValues {
  const values: Partial<Record<Role, number | string>> = {};
  for (const { role } of card.telemetry?.values ?? []) {
    const value = fromRegisters(card, role, wordAt);
    if (value !== null) values[role] = value;
  }
  return values;
}
