import {
  cellsOf,
  cellsPerBlock,
  figureInfo,
  nominalCellVolts,
  type BankShape,
  type Basis,
  type Chemistry,
  type EntryContext,
  type FigureEntry,
  type FigureKey,
} from '../sheet';
import { candidateOf, type Candidate, type LeftOut, type Making } from './candidate';
import { cellsFrom, factsOf, textOf, type PaperFact, type PaperFacts } from './facts';
import { columnsOf, type Line } from './lines';
import { boxesAround, type Box, type PaperPage } from './page';
import { saidIn } from './prose';
import { bareName, rowsOf, temperatureRange, type Row } from './rows';
import type { Doubt } from './value';

/** What is known around a paper before it is read. */
export interface PaperContext {
  readonly chemistry: Chemistry;
  readonly shape: BankShape;
  /** Nobody has said it: what the paper says of its battery holds for the reading. */
  readonly assumed: { readonly chemistry: boolean; readonly cells: boolean };
  /** What numbers without a word on it are counted for, where the paper says nothing; per battery by itself. */
  readonly basis?: Basis;
  /** Which battery of a paper with several; a name as the paper prints it, or as near as it comes. */
  readonly battery?: string;
}

/** Everything read from a paper. Nothing of it counts before somebody says yes. */
export interface PaperReading {
  readonly facts: PaperFacts;
  /** The chemistry and cells the figures were read with: the paper’s own, or those that were known before. */
  readonly readAs: { readonly chemistry: Chemistry; readonly cells: number };
  readonly candidates: readonly Candidate[];
  /** Batteries the paper tells apart; two or more when one of them has to be chosen first. */
  readonly batteries: readonly string[];
  /** Which of them was read. */
  readonly battery: string | null;
  readonly derating: Derating | null;
  readonly leftOut: readonly LeftOut[];
}

/** A table of current against temperature, as stairs. */
export interface Derating {
  readonly rows: readonly { readonly toC: number; readonly limit: number; readonly unit: 'C' | 'A' }[];
  readonly page: number;
  readonly boxes: readonly Box[];
  readonly quote: string;
}

const perCell = (key: FigureKey, entry: FigureEntry, shape: BankShape): readonly (number | string | undefined)[] => {
  const by = figureInfo[key].units.some((u) => (u as string) === 'V' || (u as string) === 'V/°C') ? cellsOf(entry.basis, shape) : 1;
  return [
    entry.state,
    entry.unit,
    ...(['min', 'target', 'max'] as const).map((end) => (entry[end] === undefined ? undefined : Math.round((entry[end] / by) * 1e6) / 1e6)),
  ];
};

/** Whether one reading says all that another says of a figure, and nothing against it. */
function covers(key: FigureKey, a: FigureEntry, b: FigureEntry, shape: BankShape): boolean {
  const [x, y] = [perCell(key, a, shape), perCell(key, b, shape)];
  return x[0] === y[0] && (a.state !== 'stated' || x[1] === y[1]) && [2, 3, 4].every((i) => y[i] === undefined || x[i] === y[i]);
}

/** Two partial tellings of one figure in neighbouring sentences: a target, and the band it shall stay in. */
function together(a: Candidate, b: Candidate): Candidate | null {
  if (a.key !== b.key || a.page !== b.page || a.entry.state !== 'stated' || b.entry.state !== 'stated' || a.entry.unit !== b.entry.unit) return null;
  const ends = ['min', 'target', 'max'] as const;
  if (ends.some((end) => a.entry[end] !== undefined && b.entry[end] !== undefined)) return null;
  const entry = { ...a.entry, ...Object.fromEntries(ends.flatMap((end) => (b.entry[end] === undefined ? [] : [[end, b.entry[end]]]))) };
  const order = ends.map((end) => entry[end]).filter((n) => n !== undefined);
  if (order.some((n, i) => i > 0 && n < (order[i - 1] ?? n))) return null;
  return { ...a, entry, printed: `${a.printed}; ${b.printed}`, boxes: [...a.boxes, ...b.boxes], doubts: [...new Set([...a.doubts, ...b.doubts])] };
}

/** Volts and capacity that a table gives for one of its batteries. */
function factsOfBattery(
  rows: readonly { readonly row: Row; readonly page: PaperPage }[],
  battery: string | null,
): Pick<PaperFacts, 'nominalVolts' | 'capacityAh'> {
  const told = (name: RegExp, unit: RegExp): PaperFact<number> | undefined => {
    const hit = rows.find(({ row }) => row.battery !== undefined && row.battery === battery && name.test(row.name.toLowerCase()) && /\d/.test(row.value));
    const value = hit && unit.exec(hit.row.value.toLowerCase())?.[1];
    return hit && value
      ? { value: Number(value.replace(',', '.')), quote: hit.row.quote.slice(0, 200), page: hit.row.page, boxes: boxesAround(hit.row.words, hit.page) }
      : undefined;
  };
  const nominalVolts = told(/nominal volt|rated volt|nennspannung|tension nominale|tensi[oó]n nominal/, /(\d+(?:[.,]\d+)?)\s*v/);
  const capacityAh = told(/capacit|kapazit|capacid/, /(\d+(?:[.,]\d+)?)\s*(?:a\.?h|$)/);
  return { ...(nominalVolts ? { nominalVolts } : {}), ...(capacityAh ? { capacityAh } : {}) };
}

/** "All voltages in volts per cell": what the numbers below are counted for. */
function basisSaid(line: Line): Basis | null {
  const text = textOf(line)
    .toLowerCase()
    .replace(/m?v\s*(?:\/|per|je|pro|par|por)\s*°?\s*[ckf].*/, '');
  if (!/(volt|value|figure|spannung|tension|tensi[oó]n|v\s*\/)/.test(text)) return null;
  if (
    /(?:volts?|v)\s*(?:\/|per)\s*cell|per cell|pro zelle|je zelle|par élément|por celda/.test(text) &&
    (/\ball\b|voltages|spannungen|tensions|tensiones/.test(text) || line.cells.length > 1 || text.length < 12)
  )
    return 'cell';
  if (/all (voltages|values).*(per|for|of) (one |a |each )?(12.v(olt)?.)?(battery|block)/.test(text)) return 'unit';
  return null;
}

/** Rows whose name is a range of temperature and whose value a current. */
function deratingOf(rows: readonly Row[], pages: readonly PaperPage[]): Derating | null {
  const stairs = rows.flatMap((row) => {
    const match = temperatureRange.exec(row.name.replace(/−/g, '-').trim());
    const to = match?.[1] ?? match?.[3];
    const value = /^(?:at most |max\.? )?(\d+(?:[.,]\d+)?)\s*(c|a|x\s*c|ca)\b/i.exec(row.value.trim());
    const none = /^(?:0|none|no charg\w*|not permitted|do not charge)/i.test(row.value.trim());
    if (to === undefined || (!value && !none)) return [];
    const unit = value && /^a/i.test(value[2] ?? '') ? ('A' as const) : ('C' as const);
    return [{ toC: Number(to), limit: value ? Number((value[1] ?? '0').replace(',', '.')) : 0, unit, row }];
  });
  const [first] = stairs;
  if (stairs.length < 2 || !first || stairs.some((s, i) => i > 0 && s.toC <= (stairs[i - 1]?.toC ?? s.toC))) return null;
  const page = pages.find((p) => p.number === first.row.page);
  return {
    rows: stairs.map(({ toC, limit, unit }) => ({ toC, limit, unit })),
    page: first.row.page,
    boxes: stairs.flatMap((s) => (s.row.page === first.row.page && page ? boxesAround(s.row.words, page) : [])),
    quote: stairs
      .map((s) => s.row.quote)
      .join('; ')
      .slice(0, 400),
  };
}

/**
 * Reads a paper: tables with and without lines, lists, sentences; several languages at once. What the numbers mean, what they are counted for and how sure that is
 * stands with each; two that disagree are both there and marked.
 *
 * @param pages words with their places, as a PDF or a reader of pictures gives them
 */
export function readPaper(pages: readonly PaperPage[], known: PaperContext): PaperReading {
  const { candidates, shape, ...rest } = gather(pages, known);
  return { ...rest, candidates: settled(candidates, shape) };
}

interface Gathered extends PaperReading {
  readonly shape: BankShape;
}

/** Everything a paper says, in its order, before what is told twice is put together. */
export function gather(pages: readonly PaperPage[], known: PaperContext): Gathered {
  const columns = pages.flatMap((page) => columnsOf(page).map((lines) => ({ page, lines })));
  const inLines = factsOf(
    pages,
    columns.flatMap((c) => c.lines),
  );
  const chemistry = known.assumed.chemistry ? (inLines.chemistry?.value ?? known.chemistry) : known.chemistry;
  const wanted = bareName(known.battery ?? '');
  const parts = columns.map(({ page, lines }) => ({ page, lines, ...rowsOf(lines, chemistry) }));
  const batteries = [...new Set(parts.flatMap((p) => p.batteries))];
  const battery = batteries.length === 1 ? (batteries[0] ?? null) : (batteries.find((name) => wanted !== '' && bareName(name) === wanted) ?? null);
  const ofBattery = factsOfBattery(
    parts.flatMap((p) => p.rows.map((row) => ({ row, page: p.page }))),
    battery,
  );
  const facts = { ...inLines, ...ofBattery };
  const cells = cellsRead(known, facts, chemistry);
  const shape: BankShape = { ...known.shape, cellsPerUnit: cells, cellsPerBlock: cellsPerBlock(chemistry) };

  const candidates: Candidate[] = [];
  const leftOut: LeftOut[] = [];
  let basis: Basis | null = null;
  for (const { page, lines, rows, prose } of parts) {
    basis = lines.map(basisSaid).find((b) => b !== null) ?? basis;
    const context: EntryContext = { chemistry, shape, basis: basis ?? known.basis ?? 'unit' };
    for (const row of rows) {
      if (row.battery !== undefined && batteries.length > 1 && row.battery !== battery) continue;
      const read = ofRow(row, lines, { context, page });
      if ('why' in read) leftOut.push(read);
      else candidates.push(read);
    }
    for (const one of saidIn(prose, chemistry)) {
      if (one.key === null) {
        const y = Math.min(...one.words.map((w) => w.y));
        leftOut.push({ page: one.page, y, quote: one.quote.slice(0, 200), name: one.quote.slice(0, 80), value: one.value, why: 'foreign' });
        continue;
      }
      const candidate = candidateOf(
        one.key,
        one.value,
        one.words,
        one.quote,
        { context, page },
        one.weak && !one.value.startsWith('at most') ? ['weakName'] : [],
      );
      const last = candidates.at(-1);
      const joined = candidate && last ? together(last, candidate) : null;
      if (joined) candidates.splice(-1, 1, joined);
      else if (candidate) candidates.push(candidate);
    }
  }
  return {
    facts,
    readAs: { chemistry, cells },
    candidates,
    batteries,
    battery,
    derating: deratingOf(
      parts.flatMap((p) => p.rows),
      pages,
    ),
    leftOut,
    shape,
  };
}

/** Cells in series the figures are read with: what somebody said, what the paper says, or as many as the battery had that was assumed. */
function cellsRead(known: PaperContext, facts: PaperFacts, chemistry: Chemistry): number {
  if (!known.assumed.cells) return known.shape.cellsPerUnit;
  const ofPaper = facts.cells?.value ?? (facts.nominalVolts ? cellsFrom(chemistry, facts.nominalVolts.value) : null);
  return ofPaper ?? Math.max(1, Math.round((known.shape.cellsPerUnit * nominalCellVolts[known.chemistry]) / nominalCellVolts[chemistry]));
}

/** What a row gives: a candidate, or why it gives none. */
function ofRow(row: Row, lines: readonly Line[], making: Making): Candidate | LeftOut {
  const left = (why: LeftOut['why'], key?: FigureKey): LeftOut => ({
    page: row.page,
    y: Math.min(...row.words.map((w) => w.y)),
    quote: row.quote.slice(0, 200),
    name: row.name.slice(0, 80),
    value: row.value.slice(0, 120),
    why,
    ...(key === undefined ? {} : { key }),
  });
  if (row.meaning === null) return left('unknown');
  if (row.meaning.kind === 'foreign') return left(row.meaning.term === 'other' || row.meaning.term === 'discharge' ? 'unknown' : 'foreign');
  const { key, weak } = row.meaning;
  // "Maximum charge voltage" is where the band ends, not what to aim at.
  const end =
    figureInfo[key].lone !== 'target' || !loneNumber.test(row.value.trim())
      ? null
      : /\b(max|maximal|maximum|höchst|greatest|highest)/i.test(row.name)
        ? 'most'
        : /\b(min|minimal|minimum|least|lowest)/i.test(row.name)
          ? 'least'
          : null;
  const degrees = /(?:\bat|@|\bbei|à)\s*([-−+]?\d+)\s*°\s*c/i.exec(row.name)?.[1]?.replace('−', '-');
  const elsewhere = degrees !== undefined && (Number(degrees) < 19 || Number(degrees) > 28) && key !== 'chargeTemperature';
  const doubts: Doubt[] = [
    ...(elsewhere ? (['condition'] as const) : []),
    ...(end !== null || (weak && !row.value.includes('at most')) ? (['weakName'] as const) : []),
    ...(row.notes.some((n) => noteCounts(n, lines)) ? (['note'] as const) : []),
  ];
  return candidateOf(key, end === null ? row.value : `at ${end} ${row.value}`, row.words, row.quote, making, doubts) ?? left('unreadable', key);
}

/** One number and its unit, and nothing that says which end it is. */
const loneNumber = /^[-−+]?\d+(?:[.,]\d+)?\s*\p{L}*(?:\s*(?:\/|per)\s*\p{L}+)?$/u;

/** Whether a footnote says something of a number: it has one itself. */
function noteCounts(mark: string, lines: readonly Line[]): boolean {
  const note = lines.find(
    (l) => textOf(l).startsWith(`${mark} `) || textOf(l).startsWith(`${mark})`) || (l.cells[0]?.notes[0] === mark && l.cells.length === 1),
  );
  return note !== undefined && /\d/.test(textOf(note).slice(mark.length + 1));
}

/**
 * What is told twice alike is there once, with both places; a target and the band around it are one figure. What is told twice differently is marked on both; a
 * value for another temperature makes no other doubtful.
 */
function settled(all: readonly Candidate[], shape: BankShape): readonly Candidate[] {
  const done: Candidate[] = [];
  for (const candidate of all) {
    const at = done.findIndex(
      (d) => d.key === candidate.key && d.doubts.includes('condition') === candidate.doubts.includes('condition') && joinedWith(d, candidate, shape) !== null,
    );
    const before = done[at];
    const joined = before ? joinedWith(before, candidate, shape) : null;
    if (joined) done.splice(at, 1, joined);
    else done.push(candidate);
  }
  const rivals = (a: Candidate): boolean => done.some((d) => d !== a && d.key === a.key && !d.doubts.includes('condition'));
  return done.map((candidate) => ({
    ...candidate,
    id: placeOf(candidate),
    doubts: rivals(candidate) ? [...new Set([...candidate.doubts, 'rival' as const])] : candidate.doubts,
  }));
}

/** A name for a reading that stays when the paper is read again with another chemistry or other cells: what it is of, and where it stands. */
const placeOf = ({ key, page, boxes: [box] }: Candidate): string => [key, page, ...(box ? [Math.round(box.x * 1e3), Math.round(box.y * 1e3)] : [])].join('-');

/** Two readings of a figure as one; null where they say different things. */
function joinedWith(a: Candidate, b: Candidate, shape: BankShape): Candidate | null {
  const boxes = a.page === b.page ? [...a.boxes, ...b.boxes] : a.boxes;
  if (covers(a.key, a.entry, b.entry, shape)) return { ...a, boxes, doubts: a.doubts.filter((d) => b.doubts.includes(d) || sparse(b)) };
  if (covers(a.key, b.entry, a.entry, shape))
    return { ...b, boxes: a.page === b.page ? boxes : b.boxes, doubts: b.doubts.filter((d) => a.doubts.includes(d) || sparse(a)) };
  const doubtless = a.doubts.length === 0 && b.doubts.length === 0;
  return doubtless && a.entry.basis === b.entry.basis ? together(a, b) : null;
}

/** A reading of one end alone does not clear the doubts of a whole one. */
const sparse = ({ entry }: Candidate): boolean =>
  entry.state === 'stated' && entry.target === undefined && (entry.min === undefined || entry.max === undefined);
