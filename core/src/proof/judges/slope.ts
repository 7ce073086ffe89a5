import { formatDuration, formatQuantity, measure, rectangular, said, warmthBy, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { leastSpanC, otherAmps } from '../inference';
import { clock, judged, nameOf, notTested, openRow, type Evidence, type Judge, type ProofRow, whose } from './context';

/** Part of a slope that the lag and the steps of a temperature sensor can flatten, ±. */
const lagPart = 0.05;

/** Nothing fails by a slope seen over fewer degrees, °C. */
const leastToFailC = 7;

/** Ratios that have a name: what was keyed on another basis comes out larger or smaller by these. */
export function slopeRatio(measured: number, asked: number, cellsPerBlock: number, blocks: number): string | null {
  if (Math.abs(asked) < 0.2) return Math.abs(measured) < 0.5 ? null : `a slope where none is asked: compensation was left on`;
  const ratio = measured / asked;
  const near = (to: number): boolean => Math.abs(ratio / to - 1) < 0.22;
  const times = (x: number): string => `about ${x >= 1 ? `${x} times too large` : `${Math.round(1 / x)} times too small`}`;
  if (ratio < 0 && Math.abs(ratio + 1) < 0.3) return 'the right size with the wrong sign: it was entered with its sign reversed';
  if (Math.abs(ratio) < 0.06) return 'no compensation at all: it is off, or the charger reads no battery temperature';
  const signed = ratio < 0 ? ', with the wrong sign' : '';
  if (near(cellsPerBlock)) return `${times(cellsPerBlock)}${signed}: looks like a per-12 V figure entered as per cell`;
  if (near(1 / cellsPerBlock)) return `${times(1 / cellsPerBlock)}${signed}: looks like a per-cell slope entered as per 12 V`;
  if (blocks > 1 && near(blocks)) return `${times(blocks)}${signed}: looks like a figure for the bank entered as per 12 V`;
  if (blocks > 1 && near(1 / blocks)) return `${times(1 / blocks)}${signed}: looks like a per-12 V figure entered as for the bank`;
  const cells = cellsPerBlock * blocks;
  if (blocks > 1 && near(cells)) return `${times(cells)}${signed}: looks like a figure for the bank entered as per cell`;
  if (blocks > 1 && near(1 / cells)) return `${times(1 / cells)}${signed}: looks like a per-cell slope entered as for the bank`;
  return null;
}

/** The slope of held voltage against battery temperature. */
function slope(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  if (!e.levels.has(charger) || !e.spans.has(charger)) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  if (!e.log.batteryC) return notTested(requirement, 'The log has no battery temperature.', 'Log the battery temperature too.');
  const found = e.slopes.get(charger);
  if (!found)
    return notTested(
      requirement,
      said`${name} was not seen to hold its voltage over ${warmthBy(leastSpanC, 0)} of battery temperature.`,
      said`Days that differ by ${warmthBy(leastSpanC, 0)} or more, or the test that chills its sensor, would test it.`,
    );
  const stood = e.witnesses.regulation({ charger, from: 0, to: e.log.time.length - 1, levelV: found.level, slope: found.slope, alone: true });
  const { cells, shape } = e.plan.facts;
  const perCell = (v: number): number => (v / cells) * 1000;
  const value = perCell(found.slope);
  const budget: BudgetLine[] = [
    { name: `Scatter of ${found.blocks} half-hours about the line`, halfWidth: perCell(found.standardError), divisor: 1, kind: 'random' },
    {
      name: `Lag and steps of the temperature reading: ${lagPart * 100} % of the slope`,
      halfWidth: Math.abs(value) * lagPart,
      divisor: rectangular,
      kind: 'systematic',
    },
  ];
  const asked = ((requirement.band.min ?? 0) + (requirement.band.max ?? 0)) / 2;
  budget.push(
    {
      name: said`Battery temperature ± ${warmthBy(e.temperature.errorC)} at each end of ${warmthBy(found.spanC, 0)}`,
      halfWidth: (Math.max(Math.abs(value), Math.abs(asked)) * e.temperature.errorC * Math.SQRT2) / found.spanC,
      divisor: rectangular,
      kind: 'systematic',
    },
    {
      name: 'Resolution of the log’s volts at each end',
      halfWidth: (perCell(e.instrument.volts.resolution / 2) * Math.SQRT2) / found.spanC,
      divisor: rectangular,
      kind: 'systematic',
    },
  );
  const measured = measure(value, budget, e.plan.input.coverage);
  const named = slopeRatio(value, asked, shape.cellsPerBlock, Math.max(1, Math.round(cells / shape.cellsPerBlock)));
  const row = judged(
    requirement,
    measured,
    { from: found.from, to: found.to },
    said`The voltage ${name} holds moves by ${formatQuantity(value, 'mV/°C per cell', 1)} ± ${formatQuantity(measured.uncertainty, 'mV', 1)}, seen over ${warmthBy(found.spanC, 0)} in ${formatDuration(found.blocks * 1800)} of charging from ${clock(e, found.from)}; ${formatQuantity(asked, 'mV/°C per cell', 1)} is ${whose(requirement)}.`,
    stood !== null
      ? { words: stood }
      : { missing: `Nothing shows that ${name} held that voltage.`, next: 'Days on which its current falls while the voltage stays level would show it.' },
  );
  // A bus that another held moves as that one does.
  if (row.verdict === 'fail' && stood === null && otherAmps(e.log, charger).length > 0)
    return openRow(row, `Nothing shows that ${name} held that voltage, and not another charger.`, 'Days on which it works alone would show it.');
  // A charger that moves a little by itself, or a sun that comes with the warmth, looks like a small slope over few degrees.
  if (row.verdict === 'fail' && found.spanC < leastToFailC)
    return openRow(
      row,
      `Over so few degrees the day’s own course may look like it.`,
      said`Days that differ by ${warmthBy(leastToFailC, 0)} or more would settle it.`,
    );
  return row.verdict === 'fail' && named ? { ...row, why: said`${row.why} That is ${named}.` } : row;
}

/** Slope as the sheet asks, or as programmed. */
export const compensation: Judge = slope;
