import type { CardKind, DeviceUnit, Role } from '../card';
import { tidy } from '../quantity';
import { meaningsOf, type RoleTerms } from './guess';
import { readShown } from './reading';
import { mostItems, type SurveyItem } from './survey';

/** The device that a manual is of, and how manuals name its settings. */
export interface ManualFor {
  readonly kind: CardKind;
  readonly systemVolts: readonly number[];
  readonly terms: RoleTerms;
}

/** A setting as a manual’s table prints it, waiting for a yes. */
export type ManualItem = Omit<SurveyItem, 'id'>;

/** What was read from a manual, and the lines that say nothing of a setting. */
export interface ReadManual {
  readonly items: readonly ManualItem[];
  /** Counting from 1. */
  readonly leftOut: readonly { readonly line: number; readonly text: string }[];
}

/** Columns of such tables, by what their heads are called. */
const heads: Readonly<Record<'name' | 'number' | 'range' | 'least' | 'most' | 'step' | 'factory' | 'unit', RegExp>> = {
  number: /^(no\.?|nr\.?|#|code|item|number)$/i,
  name: /^(name|parameter|setting|function|description|menu|display|label|item name)s?$/i,
  range: /^(range|setting range|adjust\w* range|values?|options?|choices?)$/i,
  least: /^(min\.?|minimum|least|low(est)?|from)$/i,
  most: /^(max\.?|maximum|most|high(est)?|to)$/i,
  step: /^(step|step size|increment|resolution|interval)s?$/i,
  factory: /^(default|factory|factory setting|default value|preset|initial)s?$/i,
  unit: /^(units?)$/i,
};
type Column = keyof typeof heads;

const number = String.raw`[+\-−–]?\d+(?:[.,]\d+)?`;
const rangePattern = new RegExp(String.raw`(${number})\s*([^\d\s–\-−~]*)\s*(?:–|-|−|~|\.{2,3}|…|\bto\b|\bbis\b)\s*(${number})\s*(\S.*)?$`, 'i');
const stepPattern = new RegExp(String.raw`(?:step|steps of|increment|in steps of|resolution)s?\s*:?\s*(${number})`, 'i');
const valuePattern = new RegExp(String.raw`^(${number})\s*(\S.*)?$`);

const toNumber = (text: string): number => Number(text.replace(/[−–]/, '-').replace(',', '.'));
const cellsOf = (line: string): readonly string[] =>
  line
    .split(/\t+|\s{2,}|\s*\|\s*|;\s*/)
    .map((cell) => cell.trim())
    .filter((cell) => cell !== '' && !/^[-—]+$/.test(cell));

/** Cells that tabs, bars or semicolons part: empty ones too, so that each stays in its column. */
const partedCells = (line: string): readonly string[] => line.split(/[\t|;]/).map((cell) => cell.trim().replace(/^[-–—]+$/, ''));

/** The cells of a line under so many heads; parted by wide gaps where no signs part it into as many. */
function cellsUnder(line: string, columns: number): readonly string[] {
  const parted = partedCells(line);
  return parted.length === columns ? parted : cellsOf(line);
}

/** A unit behind a number, as a display would count; undefined for other words. */
function unitIn(text: string | undefined): DeviceUnit | undefined {
  const read = readShown(`1 ${(text ?? '').replace(/[().,]+$/, '').trim()}`);
  return read.kind === 'number' ? read.unit : undefined;
}

/** The columns that a line heads; null where it heads none. */
function headsIn(line: string): readonly (Column | null)[] | null {
  for (const cells of [partedCells(line), cellsOf(line)]) {
    const named = cells.map((cell) => (Object.keys(heads) as Column[]).find((column) => heads[column].test(cell)) ?? null);
    if (named.filter((column) => column !== null).length >= 2 && named.includes('name')) return named;
  }
  return null;
}

/** Words between strokes or commas: what a choice can be. */
function choicesIn(text: string): readonly string[] {
  const words = text
    .split(/\s*[/,]\s*/)
    .map((word) => word.trim())
    .filter((word) => word !== '');
  return words.length >= 2 && words.length <= 20 && words.every((word) => word.length <= 20) && words.some((word) => !/^\d/.test(word)) ? words : [];
}

/** Everything that one text says of a setting. */
function facts(text: string): Partial<Pick<ManualItem, 'least' | 'most' | 'step'>> & { readonly unit?: DeviceUnit; readonly rest: string } {
  const step = stepPattern.exec(text);
  const without = step ? text.replace(step[0], ' ').trim() : text;
  const range = rangePattern.exec(without.replace(/[()[\]]/g, ' ').trim());
  const [, low, between, high, behind] = range ?? [];
  const unit = unitIn(behind?.split(/[\s,;]/)[0]) ?? unitIn(between);
  return {
    ...(low !== undefined && high !== undefined && toNumber(low) < toNumber(high) ? { least: tidy(toNumber(low)), most: tidy(toNumber(high)) } : {}),
    ...(step?.[1] !== undefined && toNumber(step[1]) > 0 ? { step: toNumber(step[1]) } : {}),
    ...(unit === undefined ? {} : { unit }),
    rest: range
      ? without
          .replace(/[()[\]]/g, ' ')
          .trim()
          .slice(0, range.index)
          .trim()
      : without,
  };
}

/** A line of cells by its heads; null where it says nothing of a setting. */
function byHeads(cells: readonly string[], columns: readonly (Column | null)[]): Line | null {
  const cell = (column: Column): string | undefined => {
    const at = columns.indexOf(column);
    return at === -1 || cells[at] === '' ? undefined : cells[at];
  };
  const name = [cell('number'), cell('name')].filter((text) => text !== undefined).join(' ');
  if (!/\p{L}/u.test(name)) return null;
  const range = cell('range') ?? '';
  const { rest: _rest, ...said } = facts(range);
  const end = (column: 'least' | 'most' | 'step'): number | undefined => {
    const match = valuePattern.exec(cell(column) ?? '');
    return match?.[1] === undefined ? undefined : toNumber(match[1]);
  };
  const units = [cell('unit'), valuePattern.exec(cell('factory') ?? '')?.[2], valuePattern.exec(cell('least') ?? '')?.[2]].map(unitIn);
  const options = said.least === undefined ? choicesIn(range) : [];
  return {
    label: name,
    ...said,
    ...pick('least', end('least')),
    ...pick('most', end('most')),
    ...pick('step', end('step')),
    ...pick('unit', said.unit ?? units.find((u) => u !== undefined)),
    ...pick('factory', cell('factory')),
    options,
  };
}

interface Line {
  readonly label: string;
  readonly least?: number | undefined;
  readonly most?: number | undefined;
  readonly step?: number | undefined;
  readonly unit?: DeviceUnit;
  readonly factory?: string;
  readonly options: readonly string[];
}
const pick = <K extends string, V>(key: K, value: V | undefined): Partial<Record<K, V>> => (value === undefined ? {} : ({ [key]: value } as Record<K, V>));

/** A line without heads: a name, and behind it a value, a range, a step, in any order. */
function byItself(line: string): Line | null {
  const cells = cellsOf(line.replace(/^(.{2,60}?\p{L}[^:\d]*):\s+/u, '$1\t'));
  if (cells.length < 2) return null;
  // "P02" or "3" in a cell of its own belongs to the name behind it.
  const coded = cells.length > 2 && /^[a-z]?\d{1,3}\.?$/i.test(cells[0] ?? '') && /\p{L}{2}/u.test(cells[1] ?? '');
  const label = coded ? `${cells[0] ?? ''} ${cells[1] ?? ''}` : (cells[0] ?? '');
  if (!/\p{L}/u.test(label)) return null;
  const behind = cells.slice(coded ? 2 : 1);
  const all = behind.map(facts);
  const ranged = all.find((f) => f.least !== undefined);
  const stepped = all.find((f) => f.step !== undefined);
  const value = all.map((f) => f.rest.replace(/[,;]\s*$/, '')).find((text) => valuePattern.test(text));
  const options = ranged ? [] : (behind.map(choicesIn).find((list) => list.length > 0) ?? []);
  const unit = ranged?.unit ?? unitIn(valuePattern.exec(value ?? '')?.[2]) ?? behind.map(unitIn).find((u) => u !== undefined);
  const word = options.length > 0 ? behind.find((cell) => options.includes(cell)) : undefined;
  if (!ranged && !stepped && value === undefined && options.length === 0) return null;
  return {
    label,
    ...pick('least', ranged?.least),
    ...pick('most', ranged?.most),
    ...pick('step', stepped?.step),
    ...pick('unit', unit),
    ...pick('factory', word ?? value),
    options,
  };
}

/**
 * Reads the table of settings of a manual, as it is copied: with heads (name, range, min, max, step, default, unit) or without, one setting a line. What each
 * means is guessed from its name and factory value, and waits for a yes like everything else. Nothing of it was read on the device.
 *
 * @example readManual('Float voltage\t13.6 V\t13.0–15.0 V, step 0.1', at).items[0] // least 13, most 15, step 0.1, factory "13.6 V"
 */
export function readManual(text: string, at: ManualFor): ReadManual {
  const items: ManualItem[] = [];
  const leftOut: { line: number; text: string }[] = [];
  let columns: readonly (Column | null)[] | null = null;
  const taken: Role[] = [];
  for (const [i, raw] of text.split(/\r\n?|\n/).entries()) {
    if (raw.trim() === '' || items.length >= mostItems) continue;
    const named = headsIn(raw);
    if (named) {
      columns = named;
      continue;
    }
    const cells: readonly string[] = columns ? cellsUnder(raw, columns.length) : [];
    const line = columns && cells.length > 1 ? (byHeads(cells, columns) ?? byItself(raw)) : byItself(raw);
    if (!line) {
      leftOut.push({ line: i + 1, text: raw.trim().slice(0, 80) });
      continue;
    }
    const { unit, factory, options, ...ends } = line;
    const shown = factory ?? (ends.least === undefined || ends.most === undefined ? '' : String(tidy((ends.least + ends.most) / 2)));
    const typed = unit !== undefined && readShown(shown).kind === 'number' && !/[^\d.,+\-−\s]/.test(shown) ? `${shown} ${unit}` : shown;
    const [guess] = meaningsOf({ label: line.label, shown: options.length > 0 ? '' : typed }, { ...at, taken, before: taken.at(-1) });
    const sure = guess?.reasons.includes('name') === true ? guess : undefined;
    if (sure) taken.push(sure.role);
    items.push({
      ...ends,
      label: line.label.slice(0, 60),
      menu: [],
      shown: '',
      ...(factory === undefined ? {} : { factory: factory.slice(0, 40) }),
      ...(sure ? { role: sure.role } : {}),
      ...(options.length > 0 ? { unit: 'choice' as const } : sure ? { unit: sure.unit } : unit === undefined ? {} : { unit }),
      options: [...options],
      looked: false,
    });
  }
  return { items, leftOut };
}

/** Settings of which a page says more than a name and a value: fewer are no table. */
const leastOfTable = 3;

/** The pages of a manual on which a table of settings stands, and their text. */
export interface ManualPages {
  readonly text: string;
  /** Counting from 1. */
  readonly pages: readonly number[];
}

/**
 * Finds the tables of settings in a manual: the pages on which several settings stand with a range, a step or choices. A single page is taken as it is.
 *
 * @param pages the text of each page, cells of a table parted by tabs
 */
export function manualPages(pages: readonly string[], at: ManualFor): ManualPages {
  const told = (text: string): number => readManual(text, at).items.filter((i) => i.least !== undefined || i.step !== undefined || i.options.length > 0).length;
  const found = pages.flatMap((text, i) => (pages.length === 1 || told(text) >= leastOfTable ? [{ text, page: i + 1 }] : []));
  return { text: found.map((f) => f.text.trim()).join('\n'), pages: found.map((f) => f.page) };
}
