import type { Guess } from './guess';
import type { Mapping } from './mapping';

/** A table that was looked at. */
export interface Looked {
  readonly name: string;
  readonly guess: Guess;
}

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
