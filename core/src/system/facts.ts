import { systemClasses } from '../card';
import { bankCapacityAh, cellsInSeries, cellsPerBlock, type BankShape, type Sheet } from '../sheet';
import type { Bank, System } from './system';

/** The shape of a job's bank: cells from the sheet, joining from the system. */
export const bankShape = (sheet: Sheet, bank: Bank): BankShape => ({
  cellsPerUnit: sheet.unit.cellsInSeries,
  cellsPerBlock: cellsPerBlock(sheet.chemistry),
  unitsInSeries: bank.unitsInSeries,
  stringsInParallel: bank.stringsInParallel,
  unitCapacityAh: sheet.unit.capacityAh ?? null,
});

/** Numbers that follow from sheet and system alone. */
export interface BankFacts {
  readonly shape: BankShape;
  readonly cells: number;
  /** Nominal volts by the sheet, e.g. 25.6. */
  readonly nominalVolts: number;
  /** The system voltage a charger is told: 12, 24, 36 or 48, or null when none fits. */
  readonly systemVolts: number | null;
  /** Rated Ah; null while nobody has said it. */
  readonly ratedAh: number | null;
  /** Ah in use: rated × recorded factor; null while nobody has said the rated. */
  readonly capacityAh: number | null;
}

/**
 * The system voltage that a nominal bank voltage belongs to: the nearest class that it is no more than 12 % below and 24 % above. Lead of 12, 24 or 48 V and
 * LFP of 12.8, 25.6 or 51.2 V lie close to theirs; NMC of four cells, 14.8 V, is charged on a 12 V class, and whether the charger reaches its volts is another
 * question.
 */
export function systemVoltageOf(nominalVolts: number): number | null {
  const near = systemClasses.filter((volts) => nominalVolts / volts >= 0.88 && nominalVolts / volts <= 1.24);
  return near.sort((a, b) => Math.abs(Math.log(nominalVolts / a)) - Math.abs(Math.log(nominalVolts / b)))[0] ?? null;
}

/** Derives the bank facts of a job. */
export function bankFacts(sheet: Sheet, system: System): BankFacts {
  const shape = bankShape(sheet, system.bank);
  const nominalVolts = sheet.unit.nominalVolts * system.bank.unitsInSeries;
  const ratedAh = bankCapacityAh(shape);
  return {
    shape,
    cells: cellsInSeries(shape),
    nominalVolts,
    systemVolts: systemVoltageOf(nominalVolts),
    ratedAh,
    capacityAh: ratedAh === null ? null : ratedAh * system.bank.capacityFactor,
  };
}

/** Strings may be joined when their resting volts differ by no more than this, V per 12 V. */
export const stringsMayDiffer = 0.05;

/** Nominal volts by which the ranges of a device's menu go: the system's, where the bank makes one, else the bank's own. */
export const rangeVolts = ({ systemVolts, nominalVolts }: Pick<BankFacts, 'systemVolts' | 'nominalVolts'>): number => systemVolts ?? nominalVolts;
