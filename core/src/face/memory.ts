import { deviceRange, isVoltage, meansOf, parameterFor, specialAt, type Card, type Constraint, type DeviceValues, type Parameter, type Role } from '../card';
import { afterPowerCut } from '../charger';
import { tidy } from '../quantity';

/** What a device holds: the values it works with, and those that a power cut brings back. */
export interface Memory {
  readonly inUse: DeviceValues;
  readonly stored: DeviceValues;
}

/** What decides what becomes of a value on its way into a device. */
export interface MemoryRules {
  readonly card: Card;
  /** What it left the factory with on this system. */
  readonly factory: DeviceValues;
  /** Nominal, V. */
  readonly systemVolts: number;
  /** A faulty device: it holds volts this much under what is written, V; it rounds to so many of its steps. */
  readonly holdsUnder?: number;
  readonly coarser?: number;
}

/** What came of a value: taken, or why not. */
export type Written =
  | { readonly ok: true; readonly memory: Memory }
  | { readonly ok: false; readonly why: 'unknown' | 'range' }
  | { readonly ok: false; readonly why: 'rule'; readonly rule: Constraint };

/** Whether a device holds something that a power cut would take. */
export const isUnsaved = ({ inUse, stored }: Memory): boolean => unsavedRoles({ inUse, stored }).length > 0;

/** The settings whose value in use is not the one stored. */
export const unsavedRoles = ({ inUse, stored }: Memory): readonly Role[] => (Object.keys(inUse) as Role[]).filter((role) => inUse[role] !== stored[role]);

/** The rule of a card that a device’s values break, of those that name a setting. */
export const brokenRule = (card: Card, values: DeviceValues, touched: Role): Constraint | undefined =>
  card.constraints.find((c) => {
    if (c.parameter !== touched && c.other !== touched) return false;
    const [a, b] = [values[c.parameter], values[c.other]];
    if (typeof a !== 'number' || typeof b !== 'number') return false;
    return c.relation === 'atLeast' ? a - b < c.gap - 1e-9 : b - a < -c.gap - 1e-9;
  });

/** The number that a device makes of a number; null where it lies outside its range. Special values are taken as they are. */
function takenNumber({ systemVolts, holdsUnder, coarser = 1 }: MemoryRules, p: Parameter, value: number): number | null {
  if (p.unit === 'choice') return null;
  if (specialAt(p, value)) return value;
  const { min, max } = deviceRange(p, systemVolts);
  if (value < min - 1e-9 || value > max + 1e-9) return null;
  if (holdsUnder !== undefined && isVoltage(p.unit)) return tidy(Math.max(min, value - holdsUnder));
  const step = coarser * p.step;
  return tidy(Math.min(max, Math.max(min, min + Math.round((value - min) / step) * step)));
}

/** The values of a preset on this system: those printed for 12 V are multiplied. */
export const scaledPreset = ({ card, systemVolts }: Pick<MemoryRules, 'card' | 'systemVolts'>, sets: DeviceValues): DeviceValues =>
  Object.fromEntries(
    Object.entries(sets).map(([role, v]) => {
      const p = parameterFor(card, role as Role);
      return [role, typeof v === 'number' && p && p.unit !== 'choice' && p.per12V ? tidy((v * systemVolts) / 12) : v];
    }),
  );

/** The values after one was set, with those that a battery type or preset overwrites. */
function overwritten({ card, factory, systemVolts }: MemoryRules, inUse: DeviceValues, role: Role, value: number | string): DeviceValues {
  const next: Partial<Record<Role, number | string>> = { ...inUse, [role]: value };
  if (parameterFor(card, role)?.unit !== 'choice') return next;
  for (const p of card.parameters) {
    const first = factory[p.role];
    if (p.movesWith === role && first !== undefined) next[p.role] = first;
  }
  Object.assign(next, scaledPreset({ card, systemVolts }, card.presets.find((preset) => preset.name === value)?.sets ?? {}));
  return next;
}

/**
 * Sets a value on a device. It acts at once and is not stored yet. A type or preset overwrites others; a number is rounded to the device’s
 * step; a rule between two settings refuses it.
 *
 * @param value as the display shows it
 */
export function writeValue(rules: MemoryRules, memory: Memory, role: Role, value: number | string): Written {
  const p = parameterFor(rules.card, role);
  if (!p) return { ok: false, why: 'unknown' };
  if (p.unit === 'choice' && !p.options.some((o) => o.value === value)) return { ok: false, why: 'range' };
  const taken = p.unit === 'choice' || typeof value === 'string' ? value : takenNumber(rules, p, value);
  if (taken === null || (p.unit !== 'choice' && typeof taken === 'string')) return { ok: false, why: 'range' };
  const inUse = overwritten(rules, memory.inUse, role, taken);
  const rule = brokenRule(rules.card, inUse, role);
  return rule ? { ok: false, why: 'rule', rule } : { ok: true, memory: { ...memory, inUse } };
}

/** Stores everything that is in use. */
export const storeAll = ({ inUse }: Memory): Memory => ({ inUse, stored: inUse });

/** Stores a setting that was kept, with what it has overwritten; edits made before it, and not stored, stay so. */
export const storeChange = (before: DeviceValues, { inUse, stored }: Memory, kept: Role): Memory => ({
  inUse,
  stored: { ...stored, ...Object.fromEntries(Object.entries(inUse).filter(([role, value]) => role === kept || before[role as Role] !== value)) },
});

/** After its power was cut and came back: what was not stored is gone, what it forgets stands at the factory’s. */
export function afterCut({ card, factory }: MemoryRules, memory: Memory): Memory {
  // A save that stored everything keeps what is otherwise forgotten.
  const values = afterPowerCut(card, memory.inUse, memory.stored, factory, !isUnsaved(memory));
  return { inUse: values, stored: values };
}

/** Restored to what it left the factory with. */
export const asFromFactory = ({ factory }: MemoryRules): Memory => ({ inUse: factory, stored: factory });

/** The option of a choice that means something, as a device shows it. */
export function optionMeaning(card: Card, role: Role, meaning: 'on' | 'off' | 'custom'): string | undefined {
  const p = parameterFor(card, role);
  return p?.unit === 'choice' ? p.options.find((o) => meansOf(p, o.value) === meaning)?.value : undefined;
}
