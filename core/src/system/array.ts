import type { Card } from '../card';
import {
  bestPoint,
  clearYear,
  coldFactor,
  coldMostVolts,
  coldOpenVolts,
  designAmps,
  hotOperatingVolts,
  powerCurve,
  type ColdFactor,
  type PowerPoint,
} from '../physics';
import type { PanelArray, Site } from './system';

/** An MPPT charger needs its input this far above the bank to charge at all, V. */
const headroomV = 2;

/** What follows from an array, its place and the charger it feeds. */
export interface ArrayFacts {
  readonly stcW: number;
  readonly cold: ColdFactor;
  /** Open-circuit voltage of a string at the record low, V. */
  readonly coldVolts: number;
  /** The same with the label's tolerance and cells colder than the air, V. */
  readonly coldMostVolts: number;
  readonly mostVolts: number | null;
  /** Operating voltage of a string on the hottest day, V, and the least it must be. */
  readonly hotVolts: number;
  readonly leastVolts: number;
  /** Short-circuit current to design for, A. */
  readonly designA: number;
  readonly mostA: number | null;
  /** The most the charger can pass on in absorb, W. */
  readonly ceilingW: number;
}

/**
 * Checks an array against its charger.
 *
 * @param absorbV bank voltage in absorb, V
 * @param limitA charge current limit as set, A
 */
export function arrayFacts(array: PanelArray, card: Card, site: Site, absorbV: number, limitA: number): ArrayFacts {
  return {
    stcW: array.panel.watts * array.inSeries * array.inParallel,
    cold: coldFactor(array.panel, site.recordLowC),
    coldVolts: coldOpenVolts(array.panel, array.inSeries, site.recordLowC),
    coldMostVolts: coldMostVolts(array.panel, array.inSeries, site.recordLowC),
    mostVolts: card.ratings.arrayVoltsMax ?? null,
    hotVolts: hotOperatingVolts(array.panel, array.inSeries, site.recordHighC),
    leastVolts: absorbV + (card.kind === 'solarPwm' ? 0 : headroomV),
    designA: designAmps(array.panel, array.inParallel),
    mostA: card.ratings.arrayAmpsMax ?? null,
    ceilingW: limitA * absorbV,
  };
}

/** A year of clear days on this array, and what the charger's ceiling throws away; null without a latitude. */
export const clearYearOf = (array: PanelArray, site: Site, facts: Pick<ArrayFacts, 'stcW' | 'ceilingW'>) =>
  site.latitude === undefined ? null : clearYear(site.latitude, array.tilt, array.azimuth, facts.stcW, facts.ceilingW);

/** One way to join the panels. */
export interface Layout {
  readonly name: string;
  readonly strings: number;
  readonly inSeries: number;
  /** Best power in full sun and with the shade as entered, W; null where the charger's input takes none of it. */
  readonly sunW: number | null;
  readonly shadeW: number | null;
  readonly coldVolts: number;
  readonly fits: boolean;
  /** Three or more strings side by side need a fuse in each. */
  readonly stringFuses: boolean;
  readonly curve: readonly PowerPoint[];
  readonly pros: string;
}

/**
 * The same panels in series, side by side, as built, and one charger for each string, compared in full sun and in shade. The shade falls on
 * the panels one string after another, as from a wheelhouse or a chimney. Piecewise model: each part behind a bypass diode by its own light,
 * no current back into a string, 25 °C.
 */
export function compareLayouts(array: PanelArray, card: Card, site: Site, leastV: number): readonly Layout[] {
  const { panel, shaded, shadeLight } = array;
  const count = array.inSeries * array.inParallel;
  const mostV = card.ratings.arrayVoltsMax ?? Infinity;
  const light = (shade: boolean): number[] => Array.from({ length: count }, (_, i) => (shade && i < shaded ? shadeLight : 1));
  const strings = (list: readonly number[], inSeries: number): number[][] =>
    Array.from({ length: count / inSeries }, (_, s) => list.slice(s * inSeries, (s + 1) * inSeries));
  const layout = (name: string, inSeries: number, split: boolean, pros: string): Layout => {
    const inputs = (shade: boolean): number[][][] => (split ? strings(light(shade), inSeries).map((s) => [s]) : [strings(light(shade), inSeries)]);
    const watts = (shade: boolean): number | null => {
      const points = inputs(shade).map((s) => bestPoint(powerCurve(panel, s), leastV, mostV));
      return points.every((p) => p === null) ? null : points.reduce((sum, p) => sum + (p?.watts ?? 0), 0);
    };
    const coldVolts = coldOpenVolts(panel, inSeries, site.recordLowC);
    return {
      name,
      strings: count / inSeries,
      inSeries,
      sunW: watts(false),
      shadeW: watts(true),
      coldVolts,
      fits: coldVolts <= mostV && (watts(false) ?? 0) > 0,
      stringFuses: !split && count / inSeries >= 3,
      curve: powerCurve(panel, strings(light(true), inSeries)),
      pros,
    };
  };
  const list = [
    layout('In series', count, false, 'thin cable, little lost to a bypassed panel, highest volts when cold'),
    layout('Side by side', 1, false, 'low volts, thick cable, a fuse in each string from three on'),
  ];
  if (array.inSeries > 1 && array.inParallel > 1)
    list.push(layout(`As built, ${array.inSeries}s${array.inParallel}p`, array.inSeries, false, 'between the two'));
  if (array.inParallel > 1) list.push(layout('A charger for each string', array.inSeries, true, 'each face at its own best point, one more charger to set'));
  return list;
}
