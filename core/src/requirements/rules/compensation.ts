import { makeBand } from '../../quantity';
import { statedFigure } from '../../sheet';
import { chargersWithCards, ofCharger, ownSetting, toldOn, type Rule } from '../context';
import type { Requirement } from '../requirement';

/** A slope is proved to this part of itself where the sheet gives no band: the proving tolerance, not the maker's. */
const slopePart = 0.15;
/** Slopes nearer to zero than this count as none, mV/°C per cell. */
const flatSlope = 0.35;

const around = (slope: number) => (slope === 0 ? { min: -flatSlope, max: flatSlope } : slopeBand(slope, slope * slopePart));
const slopeBand = (middle: number, by: number) => ({ min: middle - Math.abs(by), max: middle + Math.abs(by) });

/** How the voltage moves with battery temperature: as the sheet asks, and as each charger was told. mV/°C per cell. */
export const compensation: Rule = (plan) => {
  const printed = plan.input.sheet.figures.compensationSlope;
  const figure = statedFigure(plan.input.sheet, 'compensationSlope');
  // Figures are per cell or per a basis that scales like volts; the bank's slope over its cells is per cell.
  const perCell = figure ? scaled(plan, figure) : printed?.state === 'notPermitted' || printed?.state === 'notNeeded' ? makeBand(0, 0) : null;
  return chargersWithCards(plan).flatMap(({ charger, card }) => {
    const common = { ...ofCharger(charger, card), unit: 'mV/°C/cell', digits: 1, seenBy: ['log', 'test'] } as const;
    const list: Requirement[] = [];
    const target = perCell && ((perCell.min ?? 0) + (perCell.max ?? 0)) / 2;
    if (perCell && target !== null)
      list.push({
        ...common,
        question: 'specified',
        code: 'compensation',
        name: target === 0 ? 'No compensation' : 'Compensation slope',
        why:
          target === 0
            ? 'Compensation pushes a cold bank past its limits and leaves a warm one low.'
            : 'Lead needs more volts when cold and fewer when warm; a wrong slope or sign gasses it or leaves it flat.',
        band: perCell.min === perCell.max ? around(target) : perCell,
      });
    const slope = ownSetting(plan, charger.id, 'compensationSlope');
    const told = slope && toldOn(slope, (perVolt) => around(perVolt * 1000));
    if (told)
      list.push({
        ...common,
        question: 'programmed',
        code: 'slopeAsProgrammed',
        name: 'Slope as programmed',
        why: 'A slope that is not what was entered has another basis, a sensor in the wrong place, or was never saved.',
        ...told,
      });
    return list;
  });
};

function scaled(plan: Parameters<Rule>[0], figure: NonNullable<ReturnType<typeof statedFigure>>) {
  const { min, target, max } = figure;
  const factor = 1000 * perCellFactor(plan, figure.basis);
  const low = (min ?? target ?? max ?? 0) * factor;
  const high = (max ?? target ?? min ?? 0) * factor;
  return { min: Math.min(low, high), max: Math.max(low, high) };
}

/** What turns a figure of this basis into one per cell. */
function perCellFactor(plan: Parameters<Rule>[0], basis: 'cell' | 'unit' | 'bank' | 'block'): number {
  const { shape, cells } = plan.facts;
  return 1 / (basis === 'cell' ? 1 : basis === 'unit' ? shape.cellsPerUnit : basis === 'block' ? shape.cellsPerBlock : cells);
}
