import { strFromU8, zipSync } from 'fflate';
import readXlsxFile, { type CellValue } from 'read-excel-file/universal';
import { zipMember, type ZipEntry } from './zip';

/** A cell as the library gives it; its types name the class of dates where they mean one. */
type Cell = Exclude<CellValue, typeof Date> | Date | null;

/** One sheet of a spreadsheet, as text. */
export interface SheetText {
  readonly name: string;
  /** Separated by tabs, one row a line; no cell has a tab or a line break in it. */
  readonly text: string;
  readonly rows: number;
}

const dayMs = 86_400_000;
/** Serial days of these years are dates where a column is headed so: 1990 to 2100, counted from the last day but one of 1899. */
const serialFrom = 32_874;
const serialTo = 73_050;
/** The day that is number 0. A workbook may count from 1904 instead, and says so. */
const day0 = Date.UTC(1899, 11, 30);
const day0Of1904 = Date.UTC(1904, 0, 1);

/** Whether the directory of a zip is that of a spreadsheet. */
export const isSpreadsheet = (entries: readonly ZipEntry[]): boolean => entries.some((e) => e.name === 'xl/workbook.xml');

/**
 * Reads the sheets of a spreadsheet. A cell with a formula is what the program that wrote the file worked out; nothing is worked out here, and no macro runs.
 *
 * @throws what the library throws where the file does not hold together
 */
export async function readSpreadsheet(bytes: Uint8Array, entries: readonly ZipEntry[]): Promise<{ sheets: readonly SheetText[]; merged: boolean }> {
  const parts = unpackedOnly(bytes, entries);
  const sheets = await readXlsxFile(new Uint8Array(zipSync(parts, { level: 0 })).buffer);
  const since = countsFrom1904(parts['xl/workbook.xml']) ? day0Of1904 : day0;
  return {
    sheets: sheets.map(({ sheet, data }) => ({ name: sheet, ...tableText(data as readonly (readonly Cell[])[], since) })),
    merged: Object.entries(parts).some(([name, part]) => name.includes('/worksheets/') && mergesCells(part)),
  };
}

/**
 * The parts that are read, to be packed anew without being made small: each is checked by its sum on the way, and the library need not unpack, for which it would
 * start a program of its own that a page’s policy forbids.
 *
 * @throws Error where a part is not what was packed
 */
function unpackedOnly(bytes: Uint8Array, entries: readonly ZipEntry[]): Readonly<Record<string, Uint8Array>> {
  const parts: Record<string, Uint8Array> = {};
  for (const entry of entries) {
    if (!/^xl\/.*\.(xml|rels)$/i.test(entry.name)) continue;
    const part = zipMember(bytes, entry);
    if (!part) throw new Error(`${entry.name} is not what was packed`);
    parts[entry.name] = part;
  }
  return parts;
}

/** Whether a sheet joins cells of several rows: they are listed behind its rows, in some last part of it. */
function mergesCells(sheet: Uint8Array): boolean {
  const end = strFromU8(sheet.subarray(Math.max(0, sheet.length - 200_000)));
  return [...end.matchAll(/<(?:\w+:)?mergeCell [^>]*ref="[A-Z]+(\d+):[A-Z]+(\d+)"/g)].some(([, from, to]) => from !== to);
}

const countsFrom1904 = (workbook: Uint8Array | undefined): boolean =>
  workbook !== undefined && /<(?:\w+:)?workbookPr\b[^>]*\bdate1904="(?:1|true)"/.test(strFromU8(workbook));

const timeHead = /\b(time|date|day|datum|uhrzeit|zeit|fecha|hora|heure|jour)\b/i;

/** How the dates of a column are written: whole days, times of day, or both together. */
type Written = 'day' | 'clock' | 'both';

/**
 * Rows of cells as text.
 *
 * @param since the day that is number 0, ms since 1970
 */
function tableText(data: readonly (readonly Cell[])[], since: number): { text: string; rows: number } {
  const width = data.reduce((most, row) => Math.max(most, row.length), 0);
  const dates: Written[] = [];
  const serial: boolean[] = [];
  for (let i = 0; i < width; i++) {
    let days = 0;
    let clocks = 0;
    let count = 0;
    let numbers = 0;
    let serials = 0;
    let head = false;
    for (const row of data) {
      const cell = row[i];
      if (typeof cell === 'string') head ||= timeHead.test(cell);
      if (typeof cell === 'number') {
        numbers++;
        if (cell >= serialFrom && cell <= serialTo) serials++;
      }
      if (!(cell instanceof Date)) continue;
      count++;
      const ms = cell.getTime();
      if (ms % dayMs === 0) days++;
      // A time of day is a part of day 0, or of the day after it where day 0 is counted as the first.
      if (ms < since + 2 * dayMs) clocks++;
    }
    dates[i] = count > 0 && clocks === count ? 'clock' : count > 0 && days === count ? 'day' : 'both';
    // Numbers under a head that names a time, all of them days of our time: dates that lost their format.
    serial[i] = head && count === 0 && numbers > 0 && serials === numbers;
  }
  const lines = data.map((row) => {
    const fields: string[] = [];
    for (let i = 0; i < width; i++) {
      const cell = row[i] ?? null;
      const dated = serial[i] && typeof cell === 'number' ? new Date(since + cell * dayMs) : cell;
      fields.push(cellText(dated, dates[i] ?? 'both'));
    }
    return fields.join('\t');
  });
  return { text: `${lines.join('\n')}\n`, rows: data.length };
}

/** A cell as text. A day is a number with a fraction, so that a second comes out a few thousandths off: it is rounded to the tenth. */
function cellText(cell: Cell, written: Written): string {
  if (cell === null) return '';
  if (cell instanceof Date) {
    const iso = new Date(Math.round(cell.getTime() / 100) * 100).toISOString();
    const clock = iso.slice(11, 23).replace(/\.000$/, '');
    return written === 'day' ? iso.slice(0, 10) : written === 'clock' ? clock : `${iso.slice(0, 10)} ${clock}`;
  }
  if (typeof cell === 'number') return plainNumber(cell);
  if (typeof cell === 'boolean') return cell ? '1' : '0';
  // What a formula failed at is no reading.
  if (/^#[A-Z/0!?]+$/.test(cell)) return '';
  return cell.replace(/[\t\r\n]+/g, ' ');
}

/** A number without the noise of its last binary digits: 26.400000000000002 is 26.4. */
const plainNumber = (value: number): string => String(Number(value.toPrecision(12)));
