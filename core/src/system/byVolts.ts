import { systemClasses } from '../card';

/** Measured volts of a bank are mostly near this part of the volts it is called by. */
const usualPart = 1.08;

/** A bank under way lies between these parts of its class. */
const underWay = { least: 0.8, most: 1.35 } as const;

/**
 * The system class of a bank by volts that were measured on it; null where they fit none.
 *
 * @example classOfVolts(26.4) // 24
 */
export function classOfVolts(volts: number): (typeof systemClasses)[number] | null {
  const off = (of: number): number => Math.abs(volts / of - usualPart);
  const fits = systemClasses.filter((of) => volts >= underWay.least * of && volts <= underWay.most * of);
  return fits.reduce<(typeof systemClasses)[number] | null>((best, of) => (best === null || off(of) < off(best) ? of : best), null);
}

/** The highest volts of a bank that charges lie between these parts of its nominal volts. */
const charging = { least: 0.92, most: 1.3 } as const;

/**
 * How many batteries in series the highest volts of a log look like; null where they fit no number.
 *
 * @param highestV highest volts of the log, V
 * @param nominalV of one battery, V
 * @example seriesByVolts(28.1, 12.8) // 2
 */
export function seriesByVolts(highestV: number, nominalV: number): number | null {
  const inSeries = Math.max(1, Math.round(highestV / (usualPart * nominalV)));
  const ratio = highestV / (inSeries * nominalV);
  return ratio >= charging.least && ratio <= charging.most ? inSeries : null;
}
