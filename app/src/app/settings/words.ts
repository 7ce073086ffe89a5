import { formatBand, formatDuration, formatNumber, formatQuantity, roleInfo, type Setting } from '@calm-keel/core';
import type { Units } from '../data/units';

/** What is to be keyed, as the device shows it; a dash for what is left. */
export const keyed = (s: Setting): string =>
  s.value === null ? '—' : typeof s.value === 'number' ? formatQuantity(s.value, s.unit, s.digits).trim() : s.value;

/** A device value of the same setting: as found, factory, last visit. */
export const onDisplay = (s: Setting, value: number | string | undefined): string =>
  value === undefined ? '' : typeof value === 'number' ? formatQuantity(value, s.unit, s.digits).trim() : value;

/** A core-unit value in words on the person's scale. */
export function inCore(s: Setting, value: number, units: Units, digits?: number): string {
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
    case 'ratio':
      return formatNumber(value, digits ?? 2);
    default:
      return formatQuantity(value, unit, digits ?? (unit === 'V' ? 2 : unit === 'd' || unit === 'Ah' || unit === '%' ? 0 : 1));
  }
}

/** What is wanted at the bank before the device's step. */
export const exactly = (s: Setting, units: Units): string =>
  typeof s.exact === 'number' ? inCore(s, s.exact, units, roleInfo[s.role].unit === 'V' && !onHundredths(s.exact) ? 3 : undefined) : (s.exact ?? '');

const onHundredths = (value: number): boolean => Math.abs(value * 100 - Math.round(value * 100)) < 1e-6;

/** What the keyed value makes at the battery, with its ±. */
export const atBattery = (s: Setting, units: Units): string =>
  s.trueValue === null
    ? ''
    : s.uncertainty === null
      ? inCore(s, s.trueValue, units)
      : `${formatNumber(s.trueValue, 2)} ± ${formatQuantity(s.uncertainty, 'V', 2)}`;

/** What the sheet allows. */
export function allowed(s: Setting, units: Units): string {
  if (s.band === null || roleInfo[s.role].unit === 'choice') return '';
  const { unit } = roleInfo[s.role];
  const { min, max } = s.band;
  if (unit === 'V' || unit === 'A' || unit === 'Ah') return formatBand(s.band, unit, unit === 'V' ? 2 : 1);
  return min !== undefined && max !== undefined
    ? `${inCore(s, min, units)} to ${inCore(s, max, units)}`
    : max !== undefined
      ? `at most ${inCore(s, max, units)}`
      : min !== undefined
        ? `at least ${inCore(s, min, units)}`
        : '';
}

/** By how much rounding moved it, and what goes unremarked. */
export function deviation(s: Setting, units: Units): string {
  if (s.deviation === null || s.off || typeof s.exact !== 'number') return '';
  const { unit } = roleInfo[s.role];
  if (Math.abs(s.deviation) < 1e-9) return '0';
  const sign = s.deviation > 0 ? '+' : '−';
  const size = Math.abs(s.deviation);
  return `${sign}${unit === '°C' ? units.difference(size) : inCore(s, size, units, unit === 'V' ? 3 : undefined)}`;
}

/** What became of a setting: every one ends as set, left because, inherited or not used. */
export function fate(s: Setting, leaderName: (id: string) => string): string {
  if (s.inherited) return `from ${leaderName(s.inherited)}, not keyed`;
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
      return 'left';
  }
}
