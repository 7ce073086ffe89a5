import { dateWords, headOf, nameWords, says, timeWords } from './heads';
import type { Mapping } from './mapping';
import { readNumber } from './number';
import { looksLikeTime } from './time';

/** The first rows of a table, with what each column holds and where time and names stand; −1 where there is none. */
export interface Table {
  readonly headers: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly decimal: Mapping['decimal'];
  /** Fields by column, and the same as numbers. */
  readonly all: readonly (readonly string[])[];
  readonly numbers: readonly (readonly number[])[];
  readonly heads: readonly ReturnType<typeof headOf>[];
  readonly timeAt: number;
  readonly dateAt: number;
  readonly clockAt: number;
  readonly nameAt: number;
}

/** Finds the decimal mark, the time and the column that names a charger. */
export function lookOver(headers: readonly string[], rows: readonly (readonly string[])[], separator: string): Table {
  const column = (i: number): string[] => rows.map((r) => (r[i] ?? '').trim());
  const all = headers.map((_, i) => column(i));
  // A decimal comma shows where a field holds one comma and no point.
  const marks = all.flat().reduce((n, f) => n + (/^[+\-−]?\d+,\d+$/.test(f) ? 1 : /^[+\-−]?\d+\.\d+$/.test(f) ? -1 : 0), 0);
  const decimal = separator !== ',' && marks > 0 ? ',' : '.';
  const numbers = all.map((c) => c.map((f) => readNumber(f, decimal === ',') ?? NaN));
  const heads = headers.map(headOf);
  const timeLike = all.map((c) => {
    const filled = c.filter((f) => f !== '').slice(0, 30);
    return filled.length > 0 && filled.filter(looksLikeTime).length / filled.length > 0.6;
  });
  const dateLike = all.map((c) => c.slice(0, 30).filter((f) => /^\d{1,4}[-./]\d{1,2}[-./]\d{1,4}$/.test(f)).length > Math.min(30, c.length) * 0.6);
  const clockLike = all.map((c) => c.slice(0, 30).filter((f) => /^\d{1,2}:\d{2}(:\d{2})?(\s*[ap]m)?$/i.test(f)).length > Math.min(30, c.length) * 0.6);

  const silent = (i: number): boolean => (all[i] ?? []).every((f) => f === '');
  let timeAt = heads.findIndex((h, i) => (timeLike[i] === true || silent(i)) && says(h.name, ...timeWords, ...dateWords));
  if (timeAt < 0) timeAt = timeLike.findIndex(Boolean);
  if (timeAt < 0 && !dateLike.some(Boolean)) timeAt = heads.findIndex((h) => says(h.name, ...timeWords));
  const dateAt = timeAt >= 0 ? -1 : heads.findIndex((_, i) => dateLike[i]);
  const clockAt = dateAt < 0 ? -1 : heads.findIndex((_, i) => i !== dateAt && clockLike[i]);

  const nameAt = heads.findIndex((h, i) => {
    const values = all[i] ?? [];
    const distinct = new Set(values.filter((v) => v !== ''));
    return (
      i !== timeAt &&
      says(h.name, ...nameWords) &&
      distinct.size > 0 &&
      distinct.size <= 12 &&
      values.some((v) => Number.isNaN(readNumber(v, decimal === ',') ?? NaN))
    );
  });
  return { headers, rows, decimal, all, numbers, heads, timeAt, dateAt, clockAt, nameAt };
}
