import { overVoltageTrip, scaleVolts, statedFigure, type Sheet } from '../sheet';
import { bankFacts } from './facts';
import type { System } from './system';

/** The highest cell above the mean at the end of absorb where nobody has measured it, V: figures taken in mid-charge flatter. */
export const assumedSpreadV = 0.1;

/** What is held, and an alarm, stays at least this far below the lowest trip, V per 12 V of system voltage. */
export const belowTripPer12V = 0.2;

/** The lowest voltage at which the BMS opens on over-voltage. */
export interface LowestTrip {
  /** At the bank, V. */
  readonly volts: number;
  /** By the pack’s own trip, or by the first cell that reaches the trip of a cell. */
  readonly by: 'pack' | 'cell';
  /** Trip of a cell and how far the highest is ahead of the mean, V, where the cell decides. */
  readonly cell: { readonly tripV: number; readonly spreadV: number; readonly assumed: boolean } | null;
}

/**
 * Where the BMS opens first: the pack’s trip, or (trip of a cell − spread) × cells in series, whichever is lower. Null when the sheet gives neither.
 *
 * @example lowestTrip(sheet, system) // 8 cells, 3.55 V a cell, nothing measured: { volts: 27.6, by: 'cell', … }
 */
export function lowestTrip(sheet: Sheet, system: System): LowestTrip | null {
  const { shape, cells } = bankFacts(sheet, system);
  const pack = overVoltageTrip(sheet, shape);
  const figure = statedFigure(sheet, 'bmsCellOverVoltage');
  const printed = figure?.max ?? figure?.target;
  const byPack = pack === undefined ? null : ({ volts: pack, by: 'pack', cell: null } as const);
  if (!figure || printed === undefined) return byPack;
  const tripV = scaleVolts(printed, figure.basis, 'cell', shape);
  const entered = system.bank.cellSpreadV;
  const spreadV = entered ?? assumedSpreadV;
  const volts = (tripV - spreadV) * cells;
  return byPack && byPack.volts <= volts ? byPack : { volts, by: 'cell', cell: { tripV, spreadV, assumed: entered === undefined } };
}
