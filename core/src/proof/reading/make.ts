import { good, type Result } from '../../quantity';
import { guessMapping, sniffLog, type Guess, type LogContext, type SplitRows } from './guess';
import type { Mapping } from './mapping';

/** A table that was looked at. */
export interface Looked {
  readonly name: string;
  readonly guess: Guess;
}

/** A text that may be a table, by its beginning. */
export interface Unread {
  readonly name: string;
  /** The innermost part of its name, which may say whose it is. */
  readonly own: string;
  /** The first `sniffBytes` of it. */
  readonly head: string;
  /** Whether that is all of it. */
  readonly whole: boolean;
}

/**
 * Looks at every text that a file holds. Of one that holds several, what is no log is left out by name.
 *
 * @param leftOut what was left out before, when the file was opened
 * @returns a problem where nothing in it is a log
 */
export function lookAtTables<T extends Unread>(
  texts: readonly T[],
  leftOut: readonly string[],
  split: SplitRows,
  context: LogContext,
): Result<{ readonly tables: readonly (T & Looked)[]; readonly leftOut: readonly string[] }> {
  const looked = texts.map((text) => {
    const strange = sniffLog(text.head, text.whole);
    const guess: Result<Guess> = strange ? { ok: false, problems: [strange] } : guessMapping(text.head, split, { ...context, fileName: text.own });
    return { text, guess };
  });
  const tables = looked.flatMap(({ text, guess }) => (guess.ok ? [{ ...text, guess: guess.value }] : []));
  const refused = looked.flatMap(({ text, guess }) => (guess.ok ? [] : [{ name: text.name, problems: guess.problems }]));
  const [first] = refused;
  if (tables.length === 0 && first) return { ok: false, problems: first.problems };
  return good({ tables, leftOut: [...leftOut, ...refused.map(({ name, problems }) => `“${name}” was left out: ${problems[0]?.text ?? 'it is no log.'}`)] });
}

/** A report with what was left out of its file before everything else that it says. */
export const withLeftOut = <T extends { readonly notes: readonly string[] }>(report: T, leftOut: readonly string[]): T =>
  leftOut.length === 0 ? report : { ...report, notes: [...leftOut, ...report.notes] };

/** Tables of the same make: the same columns, set apart the same way. One mapping reads them all. */
export interface Make<T extends Looked> {
  /** Of the table that leaves the fewest doubts, with the names and stages of all. */
  readonly guess: Guess;
  readonly tables: readonly T[];
}

/**
 * Puts tables together that can be read by one mapping: days as files of their own, sheets of one spreadsheet. A date that one table leaves open may be
 * plain in another.
 */
export function byMake<T extends Looked>(tables: readonly T[]): readonly Make<T>[] {
  const makes = new Map<string, T[]>();
  for (const table of tables) {
    // A table that names a charger by its own name is of that charger alone.
    const key = `${table.guess.fingerprint}\u001e${table.guess.mapping.columns.map((c) => `${c.meaning} ${c.charger ?? ''}`).join('\u001f')}`;
    makes.set(key, [...(makes.get(key) ?? []), table]);
  }
  return [...makes.values()].flatMap((same): Make<T>[] => {
    const plainest = same.reduce((best, t) => (t.guess.doubts.length < best.guess.doubts.length ? t : best));
    const mapping: Mapping = {
      ...plainest.guess.mapping,
      chargers: Object.assign({}, ...same.map((t) => t.guess.mapping.chargers)) as Mapping['chargers'],
      stages: Object.assign({}, ...same.map((t) => t.guess.mapping.stages)) as Mapping['stages'],
    };
    return [{ guess: { ...plainest.guess, mapping }, tables: same }];
  });
}

/** The mapping of a make, for one of its tables: where the head stands, and which end is the newest, is each table's own. */
export const mappingFor = (table: Looked, mapping: Mapping): Mapping => ({
  ...mapping,
  headerLine: table.guess.mapping.headerLine,
  newestFirst: table.guess.mapping.newestFirst,
});
