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

/**
 * Text as a page, so that it is read like one: a tab, a bar, a semicolon or two spaces part the cells of a table.
 */
export function pageOfText(text: string): PaperPage {
  const lines = text.split(/\r\n?|\n/).slice(0, mostLines);
  const words: Word[] = [];
  let widest = 1;
  lines.forEach((line, i) => {
    let at = 0;
    for (const cell of line.split(/\s*(?:\t+| {2,}|\||;)\s*/)) {
      for (const word of cell.split(/\s+/)) {
        if (word === '') continue;
        words.push({ text: word, x: at * letter.width, y: i * letter.line, w: word.length * letter.width, h: letter.height });
        at += word.length + 1;
      }
      at += parting;
    }
    widest = Math.max(widest, at);
  });
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
