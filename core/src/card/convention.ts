import { decimalsOf, fahrenheitToCelsius, celsiusDifferenceToFahrenheit, celsiusToFahrenheit, formatQuantity, tidy } from '../quantity';
import type { NumberParameter, Parameter } from './card';

/** What is needed to turn a value on a charger's display into a quantity at the bank, and back. */
export interface DeviceSetting {
  /** Nominal system voltage: 12, 24, 48. */
  readonly systemVolts: number;
  readonly cellsInSeries: number;
  /** Rated output in amps. */
  readonly ratingA: number;
  /** Float at the bank in volts, for chargers that want an offset from it. */
  readonly floatVolts?: number;
}

const slopeSign = (parameter: NumberParameter): number => (parameter.slopeSign === 'positive' ? -1 : 1);

/**
 * From the value on the device to the quantity at the bank in the core's unit
 * (V, A, s, d, °C, or V/°C per cell). Display error is not part of it.
 *
 * @throws RangeError when an offset below float is asked for and no float is known
 */
export function fromDevice(parameter: NumberParameter, value: number, at: DeviceSetting): number {
  switch (parameter.unit) {
    case 'V':
    case 's':
    case 'd':
    case 'A':
    case 'Ah':
    case '%':
    case 'ratio':
    case '°C':
    case '°C difference':
      return value;
    case 'V/12V':
      return (value * at.systemVolts) / 12;
    case 'V below float':
      if (at.floatVolts === undefined) throw new RangeError('an offset below float needs a float voltage');
      return at.floatVolts - value;
    case 'mV/°C/12V':
      return (slopeSign(parameter) * value * at.systemVolts) / 12 / 1000 / at.cellsInSeries;
    case 'mV/°C':
      return (slopeSign(parameter) * value) / 1000 / at.cellsInSeries;
    case 'mV/°C/cell':
      return (slopeSign(parameter) * value) / 1000;
    case 'min':
      return value * 60;
    case 'h':
      return value * 3600;
    case '% of rating':
      return (value / 100) * at.ratingA;
    case '°F':
      return fahrenheitToCelsius(value);
    case '°F difference':
      return (value * 5) / 9;
  }
}

/** From the quantity at the bank to the value on the device, not yet on its step. Inverse of fromDevice. */
export function toDevice(parameter: NumberParameter, value: number, at: DeviceSetting): number {
  switch (parameter.unit) {
    case 'V':
    case 's':
    case 'd':
    case 'A':
    case 'Ah':
    case '%':
    case 'ratio':
    case '°C':
    case '°C difference':
      return value;
    case 'V/12V':
      return (value * 12) / at.systemVolts;
    case 'V below float':
      if (at.floatVolts === undefined) throw new RangeError('an offset below float needs a float voltage');
      return at.floatVolts - value;
    case 'mV/°C/12V':
      return (slopeSign(parameter) * value * 1000 * at.cellsInSeries * 12) / at.systemVolts;
    case 'mV/°C':
      return slopeSign(parameter) * value * 1000 * at.cellsInSeries;
    case 'mV/°C/cell':
      return slopeSign(parameter) * value * 1000;
    case 'min':
      return value / 60;
    case 'h':
      return value / 3600;
    case '% of rating':
      return (value / at.ratingA) * 100;
    case '°F':
      return celsiusToFahrenheit(value);
    case '°F difference':
      return celsiusDifferenceToFahrenheit(value);
  }
}

/** Lowest and highest value the device accepts on this system. */
export function deviceRange(parameter: NumberParameter, systemVolts: number): { min: number; max: number } {
  const factor = parameter.per12V ? systemVolts / 12 : 1;
  return { min: tidy(parameter.min * factor), max: tidy(parameter.max * factor) };
}

/** The factory value on this system, if the card knows it. */
const factoryValue = (parameter: NumberParameter, systemVolts: number): number | undefined =>
  parameter.factory === undefined ? undefined : tidy(parameter.factory * (parameter.per12V ? systemVolts / 12 : 1));

/** The factory value of any parameter on this system, a number or a word. */
export const factoryOf = (parameter: Parameter, systemVolts: number): number | string | undefined =>
  parameter.unit === 'choice' ? parameter.factory : factoryValue(parameter, systemVolts);

/** Every value the device can hold, rising; at most 20,000 of them. Special values are not among them unless they lie on the range. */
export function deviceGrid(parameter: NumberParameter, systemVolts: number): readonly number[] {
  const { min, max } = deviceRange(parameter, systemVolts);
  const count = Math.min(20_000, Math.floor((max - min) / parameter.step + 1e-9) + 1);
  return Array.from({ length: count }, (_, i) => tidy(min + i * parameter.step));
}

/** Decimals the device shows for this parameter. */
export const deviceDecimals = (parameter: NumberParameter): number => Math.max(decimalsOf(parameter.step), parameter.step < 1 ? 1 : 0);

/** The device's unit as it is written behind the number. */
export const deviceUnitLabel = (parameter: NumberParameter): string =>
  parameter.unit === 'V/12V'
    ? 'V per 12 V'
    : parameter.unit === 'mV/°C/12V'
      ? 'mV/°C per 6 cells'
      : parameter.unit.endsWith(' difference')
        ? parameter.unit.slice(0, 2)
        : parameter.unit === 'ratio'
          ? ''
          : parameter.unit;

/** A value as the display shows it, with its unit; a choice in quotes. */
export const displayText = (parameter: Parameter, value: number | string): string =>
  parameter.unit === 'choice' || typeof value === 'string'
    ? `“${String(value)}”`
    : formatQuantity(value, deviceUnitLabel(parameter), deviceDecimals(parameter)).trim();
