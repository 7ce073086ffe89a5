import { expandedUncertainty, readingBudget, type BudgetLine } from '../quantity';
import type { DisplayReading, Instrument } from './system';

/**
 * Display error e = display − meter, as a function of the displayed voltage. One comparison holds everywhere;
 * two or more are joined by straight lines and held level beyond the ends: interpolated, never extrapolated.
 *
 * @param readings comparisons at the charger's own battery terminals, V
 * @param displayedV what the display shows, V
 * @returns volts to take off the display to get true volts; 0 without comparisons
 */
export function displayErrorAt(readings: readonly DisplayReading[], displayedV: number): number {
  const sorted = [...readings].sort((a, b) => a.displayV - b.displayV);
  const first = sorted[0];
  const last = sorted.at(-1);
  if (!first || !last) return 0;
  const error = (r: DisplayReading): number => r.displayV - r.meterV;
  if (displayedV <= first.displayV) return error(first);
  if (displayedV >= last.displayV) return error(last);
  const upper = sorted.findIndex((r) => r.displayV >= displayedV);
  const a = sorted[upper - 1] ?? first;
  const b = sorted[upper] ?? last;
  const span = b.displayV - a.displayV;
  return span === 0 ? error(b) : error(a) + ((error(b) - error(a)) * (displayedV - a.displayV)) / span;
}

/** The same error looked up by true volts instead of displayed volts. */
export const displayErrorAtTrue = (readings: readonly DisplayReading[], trueV: number): number =>
  -displayErrorAt(
    readings.map(({ meterV, displayV }) => ({ meterV: displayV, displayV: meterV })),
    trueV,
  );

/** Budget of a true voltage that was predicted from a display: the meter it was compared with, and the display's own step. */
export const predictionBudget = (meter: Instrument, displayStepV: number, volts: number): BudgetLine[] => [
  ...readingBudget(meter.name, volts, meter.volts),
  { name: `Display step ${displayStepV} V`, halfWidth: displayStepV / 2, divisor: Math.sqrt(3), kind: 'systematic' },
];

/**
 * Budget of a true voltage taken from a display that nobody has compared with a meter: no better than one that was, and off by what its card says of
 * its regulation besides.
 */
export const uncomparedBudget = (meter: Instrument, regulationPercent: number, displayStepV: number, volts: number): BudgetLine[] => [
  ...predictionBudget(meter, displayStepV, volts),
  ...(regulationPercent > 0
    ? [
        {
          name: `Regulation ${regulationPercent} % by its card, not compared`,
          halfWidth: (volts * regulationPercent) / 100,
          divisor: Math.sqrt(3),
          kind: 'systematic',
        } as const,
      ]
    : []),
];

/** Below this difference, V, meter and display agree as far as anyone can tell. */
export const indistinguishable = (meter: Instrument, displayStepV: number, volts: number, coverage: number): number =>
  expandedUncertainty(predictionBudget(meter, displayStepV, volts), coverage);
