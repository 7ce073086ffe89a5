import { chargersWithCards as all, referenceC, type Plan } from '../settings';
import { figureOnBank, statedFigure } from '../sheet';
import type { Charger } from '../system';
import type { Card } from '../card';
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
