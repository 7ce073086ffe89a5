import type { Band } from '../quantity';
import { chargersWithCards as all, referenceC, type Plan, type Setting } from '../settings';
import { figureOnBank, statedFigure } from '../sheet';
import type { Charger } from '../system';
import type { Card, Role } from '../card';
import type { Requirement } from './requirement';

/** Makes the requirements of one kind. A new kind is one file and one line in the list. */
export type Rule = (plan: Plan) => readonly Requirement[];

/** Below this part of its rating a charger's current counts as none. */
const zeroFraction = 0.01;

/** Current that counts as none on a charger, A. */
export const zeroAmps = (card: Card): number => Math.max(0.3, card.ratings.outputA * zeroFraction);

/** What most requirements of a charger share. */
export const ofCharger = (charger: Charger, card: Card) => ({ charger: charger.id, digits: 2, unit: 'V', dwellSeconds: 60, zeroA: zeroAmps(card) }) as const;

/** Chargers with a card. */
export const chargersWithCards = (plan: Plan): ReturnType<typeof all> => all(plan.input);

/** A stated figure of the sheet on the bank. */
export const onBank = (plan: Plan, key: Parameters<typeof statedFigure>[1]) => {
  const figure = statedFigure(plan.input.sheet, key);
  return figure && figureOnBank(figure, plan.facts.shape);
};

/** The most that a full bank may still take by the sheet, A; undefined where it says none. */
export function taperOnBank(plan: Plan): number | undefined {
  const taper = onBank(plan, 'taperCurrent');
  return taper?.band.max ?? taper?.target;
}

/** How the sheet's bands of voltage move with temperature. */
export function movesWithTemperature(plan: Plan): Pick<Requirement, 'compensation'> {
  const slope = onBank(plan, 'compensationSlope')?.target;
  return slope ? { compensation: { slope, referenceC: referenceC(plan) } } : {};
}

/** A setting that a device goes by of its own: what another says over a data line is none, and nothing is as programmed then. */
export function ownSetting(plan: Plan, device: string, role: Role): Setting | undefined {
  const setting = plan.setting(device, role);
  return setting?.dictated === undefined ? setting : undefined;
}

/** A value that was read on a device is another than the target by more than this part of the band’s width. */
const otherPart = 0.25;

/**
 * What a device was told: what it showed when it was read. While nobody has read it, that is not known, and the target stands in its place.
 *
 * @param band the band around a value, core unit
 */
export function toldOn(setting: Setting, band: (value: number) => Band): Pick<Requirement, 'band' | 'notRead' | 'targetBand'> | null {
  const { trueValue, presentTrue } = setting;
  if (trueValue === null) return presentTrue === undefined ? null : { band: band(presentTrue) };
  if (presentTrue === undefined) return { band: band(trueValue), notRead: true };
  const target = band(trueValue);
  const width = (target.max ?? Infinity) - (target.min ?? -Infinity);
  return Math.abs(presentTrue - trueValue) <= otherPart * width ? { band: band(presentTrue) } : { band: band(presentTrue), targetBand: target };
}
