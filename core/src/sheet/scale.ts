import { mapBand, makeBand, tidy, type Band } from '../quantity';
import type { Basis, Figure } from './figure';
import type { Chemistry } from './sheet';

/** How cells make a battery and batteries make a bank. */
export interface BankShape {
  /** Cells in series inside one battery as sold. */
  readonly cellsPerUnit: number;
  /** Cells in series inside a 12 V block of this chemistry. */
  readonly cellsPerBlock: number;
  readonly unitsInSeries: number;
  readonly stringsInParallel: number;
  /** Rated capacity of one battery in Ah; null while nobody has said it. */
  readonly unitCapacityAh: number | null;
}

/** Cells in series from bank minus to bank plus. */
export const cellsInSeries = (shape: BankShape): number => shape.cellsPerUnit * shape.unitsInSeries;

/** Rated capacity of the whole bank in Ah; null while nobody has said it. */
export const bankCapacityAh = ({ unitCapacityAh, stringsInParallel }: BankShape): number | null =>
  unitCapacityAh === null ? null : unitCapacityAh * stringsInParallel;

/** How many cells in series a basis spans. */
export function cellsOf(basis: Basis, shape: BankShape): number {
  switch (basis) {
    case 'cell':
      return 1;
    case 'block':
      return shape.cellsPerBlock;
    case 'unit':
      return shape.cellsPerUnit;
    case 'bank':
      return cellsInSeries(shape);
  }
}

/** Nominal volts of one cell (general electrochemistry). */
export const nominalCellVolts: Readonly<Record<Chemistry, number>> = { lfp: 3.2, nmc: 3.65, flooded: 2, agm: 2, gel: 2 };

/** Cells in series of a 12 V block: six of lead, four of LFP. NMC makes no true 12 V block; three cells come nearest. */
export const cellsPerBlock = (chemistry: Chemistry): number => Math.round(12 / nominalCellVolts[chemistry]);

/**
 * Scales a voltage (or a slope in V/°C) from one basis to another. Nothing is rounded.
 *
 * @example scaleVolts(3.5, 'cell', 'bank', eightCells) // 28
 */
export const scaleVolts = (value: number, from: Basis, to: Basis, shape: BankShape): number => (value * cellsOf(to, shape)) / cellsOf(from, shape);

/**
 * Scales a current to the whole bank in amps. Currents add over strings, never over units in series.
 * A figure in C is a multiple of capacity; per unit or per bank it gives the same bank current, and none while the capacity is not known.
 */
export function bankAmps(value: number, unit: 'A' | 'C', basis: Basis, shape: BankShape): number | null {
  if (unit === 'C') {
    const capacity = bankCapacityAh(shape);
    return capacity === null ? null : value * capacity;
  }
  return basis === 'bank' ? value : value * shape.stringsInParallel;
}

/** Whether a figure in this unit is a multiple of capacity. */
export const needsCapacity = (unit: Figure['unit']): boolean => unit === 'C' || unit === 's/Ah';

/** Min, target and max of a figure on the bank: volts, amps, V/°C, seconds for times that grow with capacity, else unchanged. */
export interface BankFigure {
  readonly band: Band;
  readonly target?: number;
}

/** Scales a whole figure to the bank. One that counts by capacity gives no number while that is not known. */
export function figureOnBank(figure: Figure, shape: BankShape): BankFigure {
  const capacity = figure.basis === 'bank' ? bankCapacityAh(shape) : shape.unitCapacityAh;
  if (capacity === null && needsCapacity(figure.unit)) return { band: {} };
  const scale = (value: number): number => {
    switch (figure.unit) {
      case 'V':
      case 'V/°C':
        return scaleVolts(value, figure.basis, 'bank', shape);
      case 'A':
      case 'C':
        return bankAmps(value, figure.unit, figure.basis, shape) ?? NaN;
      case 's/Ah':
        return value * (capacity ?? NaN);
      default:
        return value;
    }
  };
  return {
    band: mapBand(makeBand(figure.min, figure.max), scale),
    ...(figure.target === undefined ? {} : { target: scale(figure.target) }),
  };
}

/** Cells in series that come nearest to so many nominal volts; at least one. */
export const cellsOfVolts = (chemistry: Chemistry, volts: number): number => Math.max(1, Math.round(volts / nominalCellVolts[chemistry]));

/** Whether so many cells are what a battery of so many nominal volts has. */
const cellsFit = (chemistry: Chemistry, volts: number, cells: number): boolean => cells === cellsOfVolts(chemistry, volts);

/**
 * A battery of another chemistry in the place of one: as many 12 V blocks, with that chemistry's cells and nominal volts. One whose cells never
 * fitted its volts stays as it is.
 *
 * @example unitOfChemistry({ nominalVolts: 12.8, capacityAh: 100, cellsInSeries: 4 }, 'lfp', 'agm') // 12 V, 6 cells
 */
export function unitOfChemistry<T extends { readonly nominalVolts: number; readonly cellsInSeries: number }>(unit: T, from: Chemistry, to: Chemistry): T {
  const blocks = unit.cellsInSeries / cellsPerBlock(from);
  if (!cellsFit(from, unit.nominalVolts, unit.cellsInSeries) || !Number.isInteger(blocks)) return unit;
  const cells = blocks * cellsPerBlock(to);
  return { ...unit, cellsInSeries: cells, nominalVolts: tidy(cells * nominalCellVolts[to]) };
}

/** A battery with other nominal volts: its cells follow when they fitted before, otherwise they stay. */
export function unitOfVolts<T extends { readonly nominalVolts: number; readonly cellsInSeries: number }>(unit: T, chemistry: Chemistry, volts: number): T {
  const cells = cellsFit(chemistry, unit.nominalVolts, unit.cellsInSeries) ? cellsOfVolts(chemistry, volts) : unit.cellsInSeries;
  return { ...unit, nominalVolts: volts, cellsInSeries: cells };
}
