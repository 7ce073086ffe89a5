import { decimalsOf, formatQuantity, tidy } from '../quantity';
import { isKnown, type NumberParameter, type Parameter } from './card';
import { unitInfo, type DeviceSetting } from './unit';

const slopeSign = (parameter: NumberParameter): 1 | -1 => (parameter.slopeSign === 'positive' ? -1 : 1);

/**
 * From the value on the device to the quantity at the bank in the core's unit
 * (V, A, s, d, °C, or V/°C per cell). Display error is not part of it.
 *
 * @throws RangeError when an offset below float is asked for and no float is known
 */
export const fromDevice = (parameter: NumberParameter, value: number, at: DeviceSetting): number =>
  unitInfo[parameter.unit].toCore(value, at, slopeSign(parameter));

/** From the quantity at the bank to the value on the device, not yet on its step. Inverse of fromDevice. */
export const toDevice = (parameter: NumberParameter, value: number, at: DeviceSetting): number =>
  unitInfo[parameter.unit].toDevice(value, at, slopeSign(parameter));

/** Lowest and highest value the device accepts on this system. */
export function deviceRange(parameter: NumberParameter, systemVolts: number): { min: number; max: number } {
  const factor = parameter.per12V ? systemVolts / 12 : 1;
  return { min: tidy(parameter.min * factor), max: tidy(parameter.max * factor) };
}

/** The ends of its range on this system, null where nobody knows one. */
export function knownRange(parameter: NumberParameter, systemVolts: number): { min: number | null; max: number | null } {
  const { min, max } = deviceRange(parameter, systemVolts);
  return { min: isKnown(parameter, 'least') ? min : null, max: isKnown(parameter, 'most') ? max : null };
}

/** The factory value on this system, if the card knows it. */
const factoryValue = (parameter: NumberParameter, systemVolts: number): number | undefined =>
  parameter.factory === undefined ? undefined : tidy(parameter.factory * (parameter.per12V ? systemVolts / 12 : 1));

/** The factory value of any parameter on this system, a number or a word. */
export const factoryOf = (parameter: Parameter, systemVolts: number): number | string | undefined =>
  parameter.unit === 'choice' ? parameter.factory : factoryValue(parameter, systemVolts);

type Special = NumberParameter['special'][number];

/** What a special value means, in words. */
export const specialWords: Readonly<Record<Special['means'], string>> = { off: 'off', allDay: 'all day', automatic: 'automatic' };

/** The special value that a number on the display is, if it is one: it means something else than itself and is nearest to nothing. */
export const specialAt = (parameter: NumberParameter, value: number): Special | undefined => parameter.special.find((s) => Math.abs(s.value - value) < 1e-9);

/** The number that switches a setting off, if it has one; choices have a word for it, or none. */
export const offNumber = (parameter: Parameter): number | undefined =>
  parameter.unit === 'choice' ? undefined : parameter.special.find((s) => s.means === 'off')?.value;

/** Every value the device can hold that means itself, rising. */
export const plainGrid = (parameter: NumberParameter, systemVolts: number): readonly number[] =>
  deviceGrid(parameter, systemVolts).filter((value) => !specialAt(parameter, value));

/** The least or the most of them; undefined where the range has none. */
export function plainEnd(parameter: NumberParameter, systemVolts: number, end: 'least' | 'most'): number | undefined {
  const { min, max } = deviceRange(parameter, systemVolts);
  const last = Math.floor((max - min) / parameter.step + 1e-9);
  for (let i = 0; i <= Math.min(last, parameter.special.length); i++) {
    const value = tidy(min + (end === 'least' ? i : last - i) * parameter.step);
    if (!specialAt(parameter, value)) return value;
  }
  return undefined;
}

/** Every value the device can hold, rising; at most 20,000 of them. Special values are not among them unless they lie on the range. */
export function deviceGrid(parameter: NumberParameter, systemVolts: number): readonly number[] {
  const { min, max } = deviceRange(parameter, systemVolts);
  const count = Math.min(20_000, Math.floor((max - min) / parameter.step + 1e-9) + 1);
  return Array.from({ length: count }, (_, i) => tidy(min + i * parameter.step));
}

/** Decimals the device shows for this parameter. */
export const deviceDecimals = (parameter: NumberParameter): number => Math.max(decimalsOf(parameter.step), parameter.step < 1 ? 1 : 0);

/** The device's unit as it is written behind the number. */
export const deviceUnitLabel = (parameter: NumberParameter): string => unitInfo[parameter.unit].label;

/** What it takes, as far as it is known: `13.0 V to 15.0 V`, `at most 15.0 V`; empty where neither end is known. */
export function rangeText(parameter: NumberParameter, systemVolts: number): string {
  const { min, max } = knownRange(parameter, systemVolts);
  if (min !== null && max !== null) return `${displayText(parameter, min)} to ${displayText(parameter, max)}`;
  return max !== null ? `at most ${displayText(parameter, max)}` : min !== null ? `at least ${displayText(parameter, min)}` : '';
}

/** A value as the display shows it, with its unit; a choice in quotes. */
export const displayText = (parameter: Parameter, value: number | string): string =>
  parameter.unit === 'choice' || typeof value === 'string'
    ? `“${String(value)}”`
    : formatQuantity(value, deviceUnitLabel(parameter), deviceDecimals(parameter)).trim();
