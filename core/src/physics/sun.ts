const rad = Math.PI / 180;

/** Declination of the sun, degrees, on a day of the year from 1 (Cooper 1969). */
export const declination = (day: number): number => 23.45 * Math.sin(((360 * (284 + day)) / 365) * rad);

/** Height of the sun above the horizon, as its sine, and the cosine of its angle to a tilted plane. */
export interface SunOnPlane {
  readonly sinHeight: number;
  readonly cosIncidence: number;
}

/**
 * The sun on a plane (Duffie and Beckman, equations 1.6.2 and 1.6.5).
 *
 * @param latitude degrees, north positive
 * @param day of the year, from 1
 * @param hour solar time, 12 at noon
 * @param tilt of the plane from level, degrees
 * @param azimuth where the plane looks, degrees from north over east
 */
export function sunOnPlane(latitude: number, day: number, hour: number, tilt: number, azimuth: number): SunOnPlane {
  const d = declination(day) * rad;
  const f = latitude * rad;
  const w = 15 * (hour - 12) * rad;
  const b = tilt * rad;
  // Duffie and Beckman count the azimuth from south, west positive.
  const g = (azimuth - 180) * rad;
  const sinHeight = Math.cos(f) * Math.cos(d) * Math.cos(w) + Math.sin(f) * Math.sin(d);
  const cosIncidence =
    Math.sin(d) * Math.sin(f) * Math.cos(b) -
    Math.sin(d) * Math.cos(f) * Math.sin(b) * Math.cos(g) +
    Math.cos(d) * Math.cos(f) * Math.cos(b) * Math.cos(w) +
    Math.cos(d) * Math.sin(f) * Math.sin(b) * Math.cos(g) * Math.cos(w) +
    Math.cos(d) * Math.sin(b) * Math.sin(g) * Math.sin(w);
  return { sinHeight, cosIncidence };
}

/**
 * Clear-sky irradiance on a plane, W/m²: direct 1353 · 0.7^(AM^0.678), and a tenth of it again from the sky (Meinel and Meinel 1976).
 * Clouds only take away: what is worked out from it is an upper end.
 */
export function clearSky(sun: SunOnPlane): number {
  if (sun.sinHeight <= 0.01) return 0;
  const height = Math.asin(Math.min(1, sun.sinHeight)) / rad;
  // Air mass near the horizon: Kasten and Young 1989.
  const airMass = 1 / (sun.sinHeight + 0.50572 * (height + 6.07995) ** -1.6364);
  const direct = 1353 * 0.7 ** (airMass ** 0.678);
  return direct * Math.max(0, sun.cosIncidence) + 0.1 * direct;
}

/** What a year of clear days brings, and what a ceiling on the power throws away of it. */
export interface ClearYear {
  readonly kWh: number;
  readonly clippedKWh: number;
}

/**
 * A year of clear days in half-hour steps.
 *
 * @param stcW power of the array by its label, W
 * @param ceilingW the most the charger can pass on, W
 */
export function clearYear(latitude: number, tilt: number, azimuth: number, stcW: number, ceilingW: number): ClearYear {
  let kWh = 0;
  let clippedKWh = 0;
  for (let day = 1; day <= 365; day++)
    for (let hour = 0.25; hour < 24; hour += 0.5) {
      const watts = (stcW * clearSky(sunOnPlane(latitude, day, hour, tilt, azimuth))) / 1000;
      kWh += watts / 2000;
      clippedKWh += Math.max(0, watts - ceilingW) / 2000;
    }
  return { kWh, clippedKWh };
}
