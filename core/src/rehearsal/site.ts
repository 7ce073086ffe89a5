import { bestWatts, clearSky, cloudTrack, makeTrack, panelC, panelCurve, sunOnPlane, type PanelCurve } from '../physics';
import type { PanelArray } from '../system';
import { dayOfMonth, type Scenario } from './scenario';

/** Steps in which the clear sky is worked out; between them it is joined by straight lines, s. */
const skyStep = 300;

const perDay = 86_400 / skyStep;
const days = new WeakMap<PanelArray, { latitude: number; day: number; row: Float64Array }>();

/** A clear day on an array, W/m² at even steps; the last one asked for is kept, for a study asks for the same day hundreds of times. */
function clearDay(array: PanelArray, latitude: number, day: number): Float64Array {
  const kept = days.get(array);
  if (kept?.latitude === latitude && kept.day === day) return kept.row;
  const row = Float64Array.from({ length: perDay + 1 }, (_, k) => clearSky(sunOnPlane(latitude, day, (k * skyStep) / 3600, array.tilt, array.azimuth)));
  days.set(array, { latitude, day, row });
  return row;
}

/** Light on a plane and what the clouds let through, asked for by time from the start of a run. */
export interface Sky {
  /** Irradiance on the plane of an array, W/m². */
  light(array: number, t: number): number;
  /** Time at which the light next changes its course, s. */
  nextEdge(t: number): number;
}

/**
 * The sky of a scenario over some arrays: clear-sky irradiance by solar time (clock time is taken for solar time) times a seeded cloud track.
 *
 * @param latitude degrees, north positive
 */
export function makeSky(scenario: Scenario, arrays: readonly PanelArray[], latitude: number, seconds: number): Sky {
  const { time, light } = cloudTrack(scenario.seed, scenario.clearness, seconds + 3600);
  const clouds = makeTrack(time, light);
  const first = dayOfMonth(scenario.month);
  // One day at a time, so that a year takes no more memory than a day.
  let day = NaN;
  let rows: readonly Float64Array[] = [];
  const fill = (which: number): void => {
    day = which;
    rows = arrays.map((array) => clearDay(array, latitude, ((first + which - 1) % 365) + 1));
  };
  const start = scenario.fromHour * 3600;
  return {
    light(array, t) {
      const at = start + t;
      const which = Math.floor(at / 86_400);
      if (which !== day) fill(which);
      const x = (at - which * 86_400) / skyStep;
      const k = Math.floor(x);
      const row = rows[array];
      const low = row?.[k] ?? 0;
      const clear = low + ((row?.[k + 1] ?? low) - low) * (x - k);
      return clear <= 0 ? 0 : clear * clouds.at(t);
    },
    nextEdge: (t) => clouds.next(t),
  };
}

/** An array as the loop needs it. */
export interface ArrayModel {
  readonly watts: number;
  readonly parallel: number;
  readonly series: number;
  readonly curve: PanelCurve;
  readonly vmpV: number;
  /** What shade and snow leave of the light. */
  readonly part: number;
}

/** Takes an array as entered: shaded panels give what light is left to them, in proportion. */
export function arrayModel(array: PanelArray, snow: number): ArrayModel {
  const count = array.inSeries * array.inParallel;
  const shaded = Math.min(count, array.shaded);
  return {
    watts: array.panel.watts * count,
    parallel: array.inParallel,
    series: array.inSeries,
    curve: panelCurve(array.panel),
    vmpV: array.panel.vmpV * array.inSeries,
    part: ((count - shaded * (1 - array.shadeLight)) / count) * (1 - snow),
  };
}

/** Power at the best point of an array at a light on its plane and an air temperature, W. */
export const arrayWatts = (model: ArrayModel, light: number, airC: number): number =>
  bestWatts(model.watts, light * model.part, panelC(airC, light * model.part));
