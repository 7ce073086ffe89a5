import { roleInfo, shownIn, type Role } from '../card';
import type { DeviceReading } from '../findings';
import {
  digitsApart,
  formatBand,
  formatDuration,
  formatNumber,
  formatQuantity,
  formatSigned,
  formatTemperature,
  formatTemperatureDifference,
  celsiusDifferenceToFahrenheit,
  celsiusToFahrenheit,
  type TemperatureScale,
} from '../quantity';
import { deviceName, type SettingsInput } from '../settings';

/** Ends of a band, null where it is open. */
type Ends = Readonly<{ min: number | null; max: number | null }>;

/** How numbers, devices and readings are written in sentences, for one job and the scale its reader has chosen. Nothing of it is a sentence. */
export interface Say {
  readonly scale: TemperatureScale;
  /** A device’s name, or its id when the job has none of that id. */
  readonly name: (id: string) => string;
  readonly volts: (value: number, digits?: number) => string;
  /** Amps with one decimal, or none when it is nought. */
  readonly amps: (value: number, digits?: number) => string;
  readonly watts: (value: number) => string;
  readonly wattHours: (value: number) => string;
  readonly ampHours: (value: number) => string;
  readonly percent: (value: number, digits?: number) => string;
  /** A temperature from °C, with one decimal, or none when it is nought. */
  readonly celsius: (value: number) => string;
  /** A difference of temperatures from °C. */
  readonly degrees: (difference: number) => string;
  /** A slope from V/°C, with its sign: as sheets and menus print it. */
  readonly slope: (voltsPerDegree: number) => string;
  /** Decimals with which two numbers are both short and written differently unless they are the same. */
  readonly digits: (a: number, b: number) => number;
  readonly duration: (seconds: number) => string;
  /** A value of a setting from the core’s unit; with more decimals than usual where two values would read alike. */
  readonly ofRole: (role: Role, value: number, more?: number) => string;
  /** A band of a setting from the core’s unit. */
  readonly bandOf: (role: Role, ends: Ends) => string;
  readonly voltsBand: (ends: Ends, digits?: number) => string;
  /** A value as its device shows it, in the device’s own unit: a choice in quotation marks. */
  readonly reading: (reading: DeviceReading) => string;
}

/** What a reader of °F is shown in °F. */
const inFahrenheit: Readonly<Record<string, ((value: number) => number) | undefined>> = {
  '°C': celsiusToFahrenheit,
  '°C difference': celsiusDifferenceToFahrenheit,
};

/** One decimal, or none when it is nought: “45 A”, “32.5 A”. */
const short = (value: number): number => (Math.abs(value - Math.round(value)) < 0.05 ? 0 : 1);

/** A band as its numbers: "28.00–28.40 V", or the one end it has. Which end that is, is for the words to say. */
const writtenBand = ({ min, max }: Ends, unit: string, digits: number): string =>
  min !== null && max !== null ? formatBand({ min, max }, unit, digits) : formatQuantity(max ?? min ?? NaN, unit, digits);

/**
 * Numbers and names for the sentences about one job.
 *
 * @example sayFor(job, 'F').celsius(5) // "41 °F"
 */
export function sayFor(input: SettingsInput, scale: TemperatureScale): Say {
  const celsius = (value: number): string => formatTemperature(value, scale, short(scale === 'F' ? celsiusToFahrenheit(value) : value));
  const degrees = (difference: number): string =>
    formatTemperatureDifference(difference, scale, short(scale === 'F' ? celsiusDifferenceToFahrenheit(difference) : difference));
  const ofRole = (role: Role, value: number, more = 0): string => {
    const core = roleInfo[role].unit;
    if (core === 'choice') return formatNumber(value, 0);
    if (core === '°C') return celsius(value);
    if (core === '°C difference') return degrees(value);
    const { unit, scale: size, digits } = shownIn[core];
    return unit === '' ? formatNumber(value / size, digits + more) : formatQuantity(value / size, unit, digits + more);
  };
  return {
    scale,
    name: (id) => deviceName(input, id),
    volts: (value, digits = 2) => formatQuantity(value, 'V', digits),
    amps: (value, digits = short(value)) => formatQuantity(value, 'A', digits),
    watts: (value) => formatQuantity(value, 'W', 0),
    wattHours: (value) => formatQuantity(value, 'Wh', 0),
    ampHours: (value) => formatQuantity(value, 'Ah', short(value)),
    percent: (value, digits = 0) => formatQuantity(value, '%', digits),
    celsius,
    degrees,
    slope: (value) => `${formatSigned(value * 1000, 1)}\u00a0mV/°C`,
    digits: (a, b) => digitsApart(a, b, Math.max(short(a), short(b))),
    duration: formatDuration,
    ofRole,
    bandOf: (role, { min, max }) => {
      const core = roleInfo[role].unit;
      const { unit, scale: size, digits } = core === 'choice' ? { unit: '', scale: 1, digits: 0 } : shownIn[core];
      const fahrenheit = scale === 'F' ? inFahrenheit[core] : undefined;
      const shown = (end: number | null): number | null => (end === null ? null : fahrenheit ? fahrenheit(end) : end / size);
      return writtenBand({ min: shown(min), max: shown(max) }, fahrenheit ? '°F' : unit, digits);
    },
    voltsBand: (ends, digits = 2) => writtenBand(ends, 'V', digits),
    reading: ({ value, unit, digits }) => (typeof value === 'number' ? formatQuantity(value, unit, digits) : `“${value}”`),
  };
}
