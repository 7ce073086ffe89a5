import { said, warmthBy, type Sentence } from './sentence';

/** One line of an uncertainty budget. */
export interface BudgetLine {
  /** What it comes from, in words. */
  readonly name: Sentence;
  /** Half-width of the interval it may lie in, in the unit of the measured value. */
  readonly halfWidth: number;
  /** How the half-width becomes a standard uncertainty: √3 for a rectangle, 2 for a stated k = 2, 1 for a standard error. */
  readonly divisor: number;
  /** Systematic lines do not shrink when more samples are taken. */
  readonly kind: 'systematic' | 'random';
}

/** A value with the interval it is believed to lie in. */
export interface Measured {
  readonly value: number;
  /** Expanded uncertainty, same unit as the value. */
  readonly uncertainty: number;
  readonly budget: readonly BudgetLine[];
}

/** What an instrument promises for one quantity. */
export interface Accuracy {
  /** Percent of reading. */
  readonly percent: number;
  /** Counts of the last digit added to it. */
  readonly digits: number;
  /** One count of the last digit, in the unit of the quantity. */
  readonly resolution: number;
}

/** Divisor of a rectangular distribution (JCGM 100:2008, 4.3.7). */
export const rectangular = Math.sqrt(3);

/**
 * The budget lines of one reading.
 *
 * @param reading the value on the instrument, unit of the accuracy's resolution
 * @param accuracy percent of reading plus digits, and resolution
 */
export function readingBudget(name: string, reading: number, accuracy: Accuracy): BudgetLine[] {
  return [
    {
      name: `${name}: ${accuracy.percent} % of reading${accuracy.digits ? ` + ${accuracy.digits} digits` : ''}`,
      halfWidth: (Math.abs(reading) * accuracy.percent) / 100 + accuracy.digits * accuracy.resolution,
      divisor: rectangular,
      kind: 'systematic',
    },
    { name: `${name}: resolution`, halfWidth: accuracy.resolution / 2, divisor: rectangular, kind: 'systematic' },
  ];
}

/** The budget line of one temperature read with a thermometer of this error, °C. */
export const thermometerLine = (name: string, errorC: number): BudgetLine => ({
  name: said`${name}: temperature ± ${warmthBy(errorC)}`,
  halfWidth: errorC,
  divisor: rectangular,
  kind: 'systematic',
});

/**
 * Expanded uncertainty of a budget: k times the root sum of squares (JCGM 100:2008, 5.1.2 and 6.2.1; lines taken as independent).
 *
 * @param coverage coverage factor k, usually 2
 */
export function expandedUncertainty(budget: readonly BudgetLine[], coverage: number): number {
  return coverage * Math.sqrt(budget.reduce((sum, line) => sum + (line.halfWidth / line.divisor) ** 2, 0));
}

/** Joins a value and its budget. */
export const measure = (value: number, budget: readonly BudgetLine[], coverage: number): Measured => ({
  value,
  uncertainty: expandedUncertainty(budget, coverage),
  budget,
});
