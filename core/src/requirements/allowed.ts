import { formatBand, mapBand, type Band } from '../quantity';
import type { Requirement } from './requirement';

/** A requirement with the band it is held against: its own, or as a verdict narrowed it. */
export interface Allowed {
  readonly requirement: Pick<Requirement, 'code'>;
  readonly band: Band;
  readonly unit: string;
  readonly digits: number;
}

/**
 * What is allowed, in words: "28.00–28.40 V", "none below 0 °C", "at least 40 min". Empty where nothing bounds it.
 *
 * @param temperature writes °C on the reader's scale
 */
export function allowedWords({ requirement, band, unit, digits }: Allowed, temperature: (celsius: number) => string): string {
  const { min, max } = band;
  if (min === undefined && max === undefined) return '';
  if (unit === '°C') {
    if (requirement.code === 'noChargeBelowMinimum') return `none below ${temperature(min ?? 0)}`;
    if (requirement.code === 'noChargeAboveMaximum') return `none above ${temperature(max ?? 0)}`;
    if (min === undefined) return `at most ${temperature(max ?? 0)}`;
    return max === undefined ? `at least ${temperature(min)}` : `${temperature(min)} to ${temperature(max)}`;
  }
  // Seconds are for what is over in a minute; everything else that takes time is measured in minutes.
  if (unit === 's' && requirement.code !== 'softStart')
    return formatBand(
      mapBand(band, (seconds) => seconds / 60),
      'min',
      0,
    );
  return formatBand(band, unit === 'mV/°C/cell' ? 'mV/°C' : unit, digits);
}
