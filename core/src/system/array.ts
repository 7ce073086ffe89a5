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
  type PanelLight,
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

/** What the other strings can drive back into a faulty one, A. */
export const backAmps = (panel: Pick<PanelArray['panel'], 'iscA'>, strings: number): number => (strings - 1) * panel.iscA;

/** Whether strings side by side need a fuse in each: where the others drive more into a faulty one than its label allows; three or more where it is silent. */
export const needsStringFuses = (panel: PanelArray['panel'], strings: number): boolean =>
  panel.maxFuseA === undefined ? strings >= 3 : backAmps(panel, strings) > panel.maxFuseA + 1e-9;

/** One way to join the panels. */
export interface Layout {
  readonly name: string;
  readonly strings: number;
  readonly inSeries: number;
  /** Best power in full sun and with the shade as entered, W; null where the charger's input takes none of it. */
  readonly sunW: number | null;
  readonly shadeW: number | null;
  readonly coldVolts: number;
  /** Operating voltage of a string on the hottest day, V, and whether it still reaches the bank then. */
  readonly hotVolts: number;
  readonly reaches: boolean;
  readonly fits: boolean;
  /** Strings side by side need a fuse in each. */
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
  const { panel, shaded, shadeLight, shadedParts = 0 } = array;
  const parts = Math.max(1, panel.bypassDiodes);
  const count = array.inSeries * array.inParallel;
  const mostV = card.ratings.arrayVoltsMax ?? Infinity;
  const partly = Array.from({ length: parts }, (_, p) => (p < shadedParts ? shadeLight : 1));
  const light = (shade: boolean): PanelLight[] =>
    Array.from({ length: count }, (_, i) => (!shade || i > shaded ? 1 : i < shaded ? shadeLight : shadedParts > 0 ? partly : 1));
  const strings = (list: readonly PanelLight[], inSeries: number): PanelLight[][] =>
    Array.from({ length: count / inSeries }, (_, s) => list.slice(s * inSeries, (s + 1) * inSeries));
  const layout = (name: string, inSeries: number, split: boolean, pros: string): Layout => {
    const inputs = (shade: boolean): PanelLight[][][] => (split ? strings(light(shade), inSeries).map((s) => [s]) : [strings(light(shade), inSeries)]);
    const watts = (shade: boolean): number | null => {
      const points = inputs(shade).map((s) => bestPoint(powerCurve(panel, s), leastV, mostV));
      return points.every((p) => p === null) ? null : points.reduce((sum, p) => sum + (p?.watts ?? 0), 0);
    };
    const coldVolts = coldOpenVolts(panel, inSeries, site.recordLowC);
    const hotVolts = hotOperatingVolts(panel, inSeries, site.recordHighC);
    return {
      name,
      strings: count / inSeries,
      inSeries,
      sunW: watts(false),
      shadeW: watts(true),
      coldVolts,
      hotVolts,
      reaches: hotVolts >= leastV,
      fits: coldVolts <= mostV && (watts(false) ?? 0) > 0,
      stringFuses: !split && needsStringFuses(panel, count / inSeries),
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
