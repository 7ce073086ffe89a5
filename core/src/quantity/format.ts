import type { Band } from './band';
import { celsiusDifferenceToFahrenheit, celsiusToFahrenheit } from './temperature';

/** The temperature scale a person has chosen for the screen. Files and code are always in °C. */
export type TemperatureScale = 'C' | 'F';

/** A number with a true minus sign and a fixed count of decimals; never "−0". */
export function formatNumber(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

/** As formatNumber, with the sign always written: "+0.21". */
export function formatSigned(value: number, digits: number): string {
  const text = formatNumber(value, digits);
  return text.startsWith('−') || Number(text) === 0 ? text : `+${text}`;
}

/** "28.10 V": value and unit, a no-break space between. */
export const formatQuantity = (value: number, unit: string, digits: number): string => `${formatNumber(value, digits)}\u00a0${unit}`;

/**
 * Decimals with which two values are written differently unless they are the same, at least `digits`, at most 3: “20 A is larger than 20 A” tells nobody anything.
 *
 * @example digitsApart(20, 19.6, 0) // 1
 */
export function digitsApart(a: number, b: number, digits: number): number {
  let most = digits;
  while (most < 3 && Math.abs(a - b) > 1e-9 && formatNumber(a, most) === formatNumber(b, most)) most++;
  return most;
}

/** "28.0–28.4 V", "at most 26.4 V" or "at least 0 °C". An open band reads "any". */
export function formatBand(band: Band, unit: string, digits: number): string {
  if (band.min !== undefined && band.max !== undefined) return `${formatNumber(band.min, digits)}–${formatNumber(band.max, digits)}\u00a0${unit}`;
  if (band.max !== undefined) return `at most ${formatQuantity(band.max, unit, digits)}`;
  if (band.min !== undefined) return `at least ${formatQuantity(band.min, unit, digits)}`;
  return 'any';
}

/** A temperature reading on the chosen scale. */
export const formatTemperature = (celsius: number, scale: TemperatureScale, digits = 0): string =>
  scale === 'C' ? formatQuantity(celsius, '°C', digits) : formatQuantity(celsiusToFahrenheit(celsius), '°F', digits);

/** A temperature difference on the chosen scale. */
export const formatTemperatureDifference = (difference: number, scale: TemperatureScale, digits = 1): string =>
  scale === 'C' ? formatQuantity(difference, '°C', digits) : formatQuantity(celsiusDifferenceToFahrenheit(difference), '°F', digits);

/** "40 min", "3 h", "1 h 20 min" or "25 s". */
export function formatDuration(seconds: number): string {
  const whole = Math.round(seconds);
  if (Math.abs(whole) < 60) return `${formatNumber(whole, 0)}\u00a0s`;
  const minutes = Math.round(whole / 60);
  const hours = Math.trunc(minutes / 60);
  const rest = Math.abs(minutes % 60);
  if (hours === 0) return `${formatNumber(minutes, 0)}\u00a0min`;
  return rest === 0 ? `${formatNumber(hours, 0)}\u00a0h` : `${formatNumber(hours, 0)}\u00a0h ${rest}\u00a0min`;
}

/** With a capital at the beginning. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** A sentence’s words within another sentence. */
export const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
