import { roleInfo, shownIn } from '../card';
import {
  celsiusDifferenceToFahrenheit,
  celsiusToFahrenheit,
  formatBand,
  formatDuration,
  formatNumber,
  formatQuantity,
  formatSigned,
  formatTemperature,
  formatTemperatureDifference,
  type TemperatureScale,
} from '../quantity';
import type { Setting, Step } from './setting';

/** How temperatures are written: on the scale a person has chosen. */
export interface TemperatureWords {
  readonly temperature: (celsius: number, digits?: number) => string;
  readonly difference: (difference: number) => string;
}

/** Temperatures on a scale. */
export const temperatureWords = (scale: TemperatureScale): TemperatureWords => ({
  temperature: (celsius, digits) => formatTemperature(celsius, scale, digits),
  difference: (difference) => formatTemperatureDifference(difference, scale),
});

/** °C: what files are written in. */
export const inCelsius = temperatureWords('C');

/** What is to be keyed, as the device shows it; a dash for what is left. */
export const keyedText = (s: Setting): string =>
  s.value === null ? '—' : typeof s.value === 'number' ? formatQuantity(s.value, s.unit, s.digits).trim() : s.value;

/** A device value of the same setting: as found, factory, last visit. */
export const onDisplayText = (s: Setting, value: number | string | undefined): string =>
  value === undefined ? '' : typeof value === 'number' ? formatQuantity(value, s.unit, s.digits).trim() : value;

/** A core-unit value in words on the person's scale. */
export function coreText(s: Setting, value: number, units: TemperatureWords, digits?: number): string {
  const { unit } = roleInfo[s.role];
  switch (unit) {
    case '°C':
      return units.temperature(value, digits ?? 1);
    case '°C difference':
      return units.difference(value);
    case 's':
      return value % 60 === 0 || value >= 600 ? formatDuration(value) : formatQuantity(value, 's', 0);
    case 'V/°C per cell':
      return formatQuantity(value * 1000, 'mV/°C/cell', digits ?? 1);
    case 'choice':
      return '';
    default:
      return formatQuantity(value, shownIn[unit].unit, digits ?? shownIn[unit].digits).trim();
  }
}

/** What is wanted at the bank before the device's step. */
export const wantedText = (s: Setting, units: TemperatureWords): string =>
  typeof s.exact === 'number' ? coreText(s, s.exact, units, roleInfo[s.role].unit === 'V' && !onHundredths(s.exact) ? 3 : undefined) : (s.exact ?? '');

const onHundredths = (value: number): boolean => Math.abs(value * 100 - Math.round(value * 100)) < 1e-6;

/** What the keyed value makes at the battery, with its ±. */
export const atBatteryText = (s: Setting, units: TemperatureWords): string =>
  s.trueValue === null
    ? ''
    : s.uncertainty === null
      ? coreText(s, s.trueValue, units)
      : `${formatNumber(s.trueValue, 2)} ± ${formatQuantity(s.uncertainty, 'V', 2)}`;

/** What the sheet allows. */
export function allowedText(s: Setting, units: TemperatureWords): string {
  if (s.band === null || roleInfo[s.role].unit === 'choice') return '';
  const { unit } = roleInfo[s.role];
  const { min, max } = s.band;
  if (unit === 'V' || unit === 'A' || unit === 'Ah') return formatBand(s.band, unit, unit === 'V' ? 2 : 1);
  return min !== undefined && max !== undefined
    ? `${coreText(s, min, units)} to ${coreText(s, max, units)}`
    : max !== undefined
      ? `at most ${coreText(s, max, units)}`
      : min !== undefined
        ? `at least ${coreText(s, min, units)}`
        : '';
}

/** By how much rounding moved it, and what goes unremarked. */
export function deviationText(s: Setting, units: TemperatureWords): string {
  if (s.deviation === null || s.off || typeof s.exact !== 'number') return '';
  const { unit } = roleInfo[s.role];
  if (Math.abs(s.deviation) < 1e-9) return '0';
  const sign = s.deviation > 0 ? '+' : '−';
  const size = Math.abs(s.deviation);
  return `${sign}${unit === '°C' ? units.difference(size) : coreText(s, size, units, unit === 'V' ? 3 : undefined)}`;
}

/** What became of a setting: every one ends as set, left because, inherited or not used. */
export function fateWords(s: Setting, leaderName: (id: string) => string): string {
  if (s.inherited) return `from ${leaderName(s.inherited)}, not entered`;
  switch (s.noValue) {
    case undefined:
      return s.override ? 'override' : s.within === 'outside' ? 'outside' : '';
    case 'missingFigure':
      return 'no figure';
    case 'outOfReach':
      return 'out of reach';
    case 'notUsed':
      return 'not used';
    default:
      return s.left ? 'left by choice' : 'left';
  }
}

/** The figure of a line of a sum, as it is shown: a temperature on the chosen scale, unless it is as the device counts it. */
export function stepFigure(
  { kind, value, unit = '', digits = 2, uncertainty, onDevice }: Step,
  scale: TemperatureScale,
): { readonly figure: string; readonly unit: string } {
  if (value === undefined) return { figure: '', unit };
  const difference = unit === '°C difference' || (unit === '°C' && kind === 'change');
  const warm = difference || unit === '°C';
  const inFahrenheit = warm && scale === 'F' && !onDevice;
  const shown = !inFahrenheit ? value : difference ? celsiusDifferenceToFahrenheit(value) : celsiusToFahrenheit(value);
  const plus = uncertainty === undefined ? '' : ` ± ${formatNumber(uncertainty, 2)}`;
  return {
    figure: (kind === 'change' ? formatSigned(shown, digits) : formatNumber(shown, digits)) + plus,
    unit: !warm ? unit : inFahrenheit ? '°F' : '°C',
  };
}
