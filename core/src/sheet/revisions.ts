import { formatQuantity } from '../quantity';
import type { Figure } from './figure';
import { printWithBasis } from './print';
import { cellsPerBlock, figureOnBank, type BankShape } from './scale';
import { capacityText, figureInfo, figureKeys, type FigureKey, type Sheet } from './sheet';

/** One line on which two revisions differ. */
export interface SheetDifference {
  /** Null for what is no single figure: the battery itself, the cold table. */
  readonly key: FigureKey | null;
  readonly name: string;
  readonly before: string;
  readonly after: string;
  /** Size of the difference of the leading number, for one battery: "0.6 V more". Empty where there is none. */
  readonly by: string;
}

/** Whether two sheets are about the same battery. */
export const sameBattery = (a: Sheet, b: Sheet): boolean =>
  a.maker.trim().toLowerCase() === b.maker.trim().toLowerCase() && a.battery.trim().toLowerCase() === b.battery.trim().toLowerCase();

/** Whether `other` is a later document on the same battery. Dates of a month and of a day in it compare as the same month. */
export function isNewerRevision(other: Sheet, than: Sheet): boolean {
  const length = Math.min(other.date.length, than.date.length);
  // Of an undated paper nobody knows whether it is the older one.
  return length > 0 && sameBattery(other, than) && other.date.slice(0, length) > than.date.slice(0, length);
}

const one = (sheet: Sheet): BankShape => ({
  cellsPerUnit: sheet.unit.cellsInSeries,
  cellsPerBlock: cellsPerBlock(sheet.chemistry),
  unitsInSeries: 1,
  stringsInParallel: 1,
  unitCapacityAh: sheet.unit.capacityAh ?? null,
});

function leading(sheet: Sheet, figure: Figure | undefined): number | undefined {
  if (figure?.state !== 'stated') return undefined;
  const scaled = figureOnBank(figure, one(sheet));
  return scaled.target ?? scaled.band.max ?? scaled.band.min;
}

function sizeOf(before: Sheet, after: Sheet, key: FigureKey): string {
  const [a, b] = [before.figures[key], after.figures[key]];
  const [x, y] = [leading(before, a), leading(after, b)];
  if (x === undefined || y === undefined || a === undefined || b === undefined || x === y) return '';
  const way = y > x ? 'more' : 'less';
  const size = Math.abs(y - x);
  switch (b.unit) {
    case 'V':
      return `${formatQuantity(size, 'V', 2)} ${way}`;
    case 'A':
    case 'C':
      return `${formatQuantity(size, 'A', 1)} ${way}`;
    case 's':
    case 's/Ah':
      return `${formatQuantity(size / 60, 'min', 0)} ${way}`;
    case 'V/°C':
      return `${formatQuantity(size * 1000, 'mV/°C', 1)} ${way}`;
    default:
      return '';
  }
}

const table = (sheet: Sheet): string => sheet.derating.map((row) => `to ${row.toC} °C: ${row.limit} ${row.unit}`).join(', ') || 'no table';

/**
 * What changed from one sheet to another, figure by figure in the order of a sheet. The same value told on another basis counts as a difference
 * of words only when the values for one battery differ by more than a part in a million.
 */
export function sheetDifferences(before: Sheet, after: Sheet): readonly SheetDifference[] {
  const print = (figure: Figure | undefined): string => (figure ? printWithBasis(figure) : 'not on the sheet');
  const same = (key: FigureKey): boolean => {
    const [a, b] = [before.figures[key], after.figures[key]];
    if (!a || !b || a.state !== 'stated' || b.state !== 'stated') return a?.state === b?.state;
    const plain = (f: Figure) => ({ target: f.target, band: { min: f.min, max: f.max } });
    const alike = a.unit === b.unit && a.basis === b.basis;
    const [x, y] = alike ? [plain(a), plain(b)] : [figureOnBank(a, one(before)), figureOnBank(b, one(after))];
    const near = (m: number | undefined, n: number | undefined): boolean =>
      m === n || (m !== undefined && n !== undefined && Math.abs(m - n) <= 1e-6 * Math.max(1, Math.abs(m)));
    return near(x.target, y.target) && near(x.band.min, y.band.min) && near(x.band.max, y.band.max);
  };
  const figures = figureKeys
    .filter((key) => !same(key))
    .map((key) => ({ key, name: figureInfo[key].name, before: print(before.figures[key]), after: print(after.figures[key]), by: sizeOf(before, after, key) }));
  const unit = (sheet: Sheet): string => `${sheet.unit.nominalVolts} V, ${capacityText(sheet.unit.capacityAh)}, ${sheet.unit.cellsInSeries} cells`;
  const others = [
    { key: null, name: 'Battery', before: unit(before), after: unit(after), by: '' },
    { key: null, name: 'Current when cold', before: table(before), after: table(after), by: '' },
  ].filter((row) => row.before !== row.after);
  return [...figures, ...others];
}
