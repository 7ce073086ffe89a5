import type { EntryContext, FigureEntry, FigureKey } from '../sheet';
import { gather } from './read';
import type { PaperPage, Word } from './page';

/** Why a pasted line fills nothing: what it names is on another line already, is a setting of a charger, is not known; its value cannot be read; it has none. */
export type PasteProblem =
  | { readonly code: 'twice'; readonly line: number }
  | { readonly code: 'foreign' | 'unknown' | 'silent' }
  | { readonly code: 'unreadable'; readonly value: string };

/** One reading of a pasted text, or a line that fills nothing. */
export interface PastedRow {
  /** Counting from 1. */
  readonly line: number;
  readonly name: string;
  readonly text: string;
  readonly key: FigureKey | null;
  readonly entry: FigureEntry | null;
  readonly problem: PasteProblem | null;
}

/** More lines than this are no sheet. */
const mostLines = 400;
/** A page of text: letters of one width, lines of one height, in units of a letter. */
const letter = { width: 6, height: 10, line: 14 };
/** Empty letters between two cells. */
const parting = 4;

const cellsIn = (line: string): readonly string[] => line.split(/[^\S\t]*(?:\t|\||;)[^\S\t]*/).map((cell) => cell.trim());

/**
 * Text as a page, so that it is read like one. Cells that tabs, bars or semicolons part stand under each other in the lines that follow each other; elsewhere
 * every letter stands where it is, as in text of one width.
 */
export function pageOfText(text: string): PaperPage {
  const lines = text.split(/\r\n?|\n/).slice(0, mostLines);
  const words: Word[] = [];
  let widest = 1;
  const put = (cell: string, from: number, row: number): void => {
    for (const match of cell.matchAll(/\S+/g)) {
      const at = from + match.index;
      words.push({ text: match[0], x: at * letter.width, y: row * letter.line, w: match[0].length * letter.width, h: letter.height });
      widest = Math.max(widest, at + match[0].length);
    }
  };
  for (let i = 0; i < lines.length;) {
    let end = i;
    while (end < lines.length && cellsIn(lines[end] ?? '').length > 1) end++;
    if (end === i) {
      put(lines[i] ?? '', 0, i);
      i++;
      continue;
    }
    const table = lines.slice(i, end).map(cellsIn);
    const starts = [0];
    for (let column = 0; column < Math.max(...table.map((row) => row.length)); column++)
      starts.push((starts[column] ?? 0) + Math.max(...table.map((row) => (row[column] ?? '').length)) + parting);
    table.forEach((row, r) => {
      row.forEach((cell, column) => {
        put(cell, starts[column] ?? 0, i + r);
      });
    });
    i = end;
  }
  return { number: 1, width: widest * letter.width, height: Math.max(1, lines.length) * letter.line, words };
}

/**
 * Reads a text as copied from a document, a spreadsheet or a letter: tables, lists and sentences. Nothing is applied: the rows are for a person to look over.
 * A figure named twice holds its first reading, and the second says so.
 */
export function readTable(text: string, context: EntryContext): readonly PastedRow[] {
  const page = pageOfText(text);
  const lines = text.split(/\r\n?|\n/).slice(0, mostLines);
  const { candidates, leftOut } = gather([page], {
    chemistry: context.chemistry,
    shape: context.shape,
    basis: context.basis,
    assumed: { chemistry: false, cells: false },
  });
  const seen = new Map<FigureKey, number>();
  const rows = [
    ...candidates.map((c) => ({ line: Math.round(((c.boxes[0]?.y ?? 0) * page.height) / letter.line) + 1, candidate: c })),
    ...leftOut.map((l) => ({ line: Math.round(l.y / letter.line) + 1, left: l })),
  ].sort((a, b) => a.line - b.line);
  const read = rows.map((row): PastedRow => {
    if ('left' in row) {
      const { name, value, why, key } = row.left;
      return { line: row.line, name, text: value, key: key ?? null, entry: null, problem: why === 'unreadable' ? { code: why, value } : { code: why } };
    }
    const { key, entry, quote, printed } = row.candidate;
    const base = { line: row.line, name: nameIn(quote, printed), text: printed.slice(0, 120), key };
    const before = seen.get(key);
    if (before !== undefined) return { ...base, entry: null, problem: { code: 'twice', line: before } };
    seen.set(key, row.line);
    return { ...base, entry, problem: null };
  });
  const told = new Set(read.map((r) => r.line));
  const silent = lines.flatMap((line, i): PastedRow[] =>
    line.trim() === '' || told.has(i + 1)
      ? []
      : [{ line: i + 1, name: line.trim().slice(0, 80), text: '', key: null, entry: null, problem: { code: 'silent' } }],
  );
  return [...read, ...silent].sort((a, b) => a.line - b.line);
}

/** What stands before a value in its row. */
const nameIn = (quote: string, printed: string): string => {
  const at = quote.indexOf(printed.split(/[\s,]/)[0] ?? printed);
  return (at > 2 ? quote.slice(0, at) : quote).replace(/[\s:=]+$/, '').slice(0, 80);
};
