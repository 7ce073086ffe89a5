import { strFromU8, strToU8 } from 'fflate';
import type * as z from 'zod';
import { cardSchema, type Card } from '../card';
import { mappingSchema, type Mapping } from '../proof';
import { bad, good, strangeIn, withAside, type Aside, type Problem, type Result } from '../quantity';
import { sheetSchema, type Sheet } from '../sheet';
import { jobSchema, type Job } from './job';
import { migrateJob } from './migrate';

/** Larger job documents are refused before they are parsed, bytes. */
export const mostJobBytes = 20_000_000;

const forbidden = new Set(['__proto__', 'constructor', 'prototype']);

/** Path of the first key that would reach into an object's prototype, or null. */
function hostileKey(value: unknown, path: readonly string[] = []): string | null {
  if (typeof value !== 'object' || value === null || path.length > 40) return null;
  for (const key of Object.keys(value)) {
    if (forbidden.has(key)) return [...path, key].join(' › ');
    const below = hostileKey((value as Record<string, unknown>)[key], [...path, key]);
    if (below) return below;
  }
  return null;
}

/** Parses JSON and refuses what no file of this program holds. */
export function parseJson(text: string, what: string): Result<unknown> {
  if (text.length > mostJobBytes)
    return bad('json-too-large', `This ${what} is larger than ${mostJobBytes / 1e6} MB, so it is not one that this program wrote.`);
  if (text.trim() === '') return bad('json-empty', `This ${what} is empty. Save it again and look at its size.`);
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    const place = /position (\d+)/.exec(String(error))?.[1];
    const line = place === undefined ? undefined : text.slice(0, Number(place)).split('\n').length;
    return bad(
      'json-broken',
      `This ${what} is not readable JSON${line === undefined ? '' : `: it breaks off at line ${line}`}. It may have been cut short; take an unbroken copy.`,
      line === undefined ? undefined : `line ${line}`,
    );
  }
  const hostile = hostileKey(value);
  if (hostile) return bad('json-hostile', `This ${what} carries the name “${hostile}”, which has no business in one. It was not opened.`, hostile);
  return good(value);
}

/** Bytes as the text they are; a file with bytes that are none was damaged, or is of another kind. */
export function textOf(bytes: Uint8Array, what: string): Result<string> {
  const text = strFromU8(bytes);
  const at = text.indexOf('\ufffd');
  if (at === -1) return good(text);
  const again = strToU8(text);
  const same = again.length === bytes.length && again.every((byte, i) => byte === bytes[i]);
  if (same) return good(text);
  const line = text.slice(0, at).split('\n').length;
  return bad(
    'text-broken',
    `This ${what} has bytes at line ${line} that are no text (UTF-8). It was damaged or is of another kind; take an unbroken copy.`,
    `line ${line}`,
  );
}

/** Schema issues as sentences with their place. */
export function problemsOf(error: z.ZodError, what: string): readonly Problem[] {
  const shown = error.issues.slice(0, 8).map((issue) => {
    const place = issue.path.map((p) => (typeof p === 'number' ? String(p + 1) : String(p))).join(' › ') || what;
    return { code: 'schema', text: `${place}: ${issue.message}.`, place };
  });
  const rest = error.issues.length - shown.length;
  return rest > 0 ? [...shown, { code: 'schema', text: `and ${rest} more.` }] : shown;
}

const tooStrange = (what: string): string =>
  `This ${what} has more names that this program does not know than it can hold aside. It is of another kind, or of a later version.`;

/** Reads a document by a schema that can hold aside what it does not know. */
function documentBy<T extends { readonly aside?: readonly Aside[] | undefined }>(schema: z.ZodType<T>, document: unknown, what: 'card' | 'sheet'): Result<T> {
  const parsed = schema.safeParse(document);
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error, what) };
  const held = withAside(document, parsed.data);
  return held ? good(held) : bad(`${what}-strange`, tooStrange(what));
}
/** A parsed document as a charger card; names it does not know are held in its `aside`. */
export const toCard = (document: unknown): Result<Card> => documentBy(cardSchema, document, 'card');
/** A parsed document as a maker’s sheet; names it does not know are held in its `aside`. */
export const toSheet = (document: unknown): Result<Sheet> => documentBy(sheetSchema, document, 'sheet');
/** A parsed document as a way of reading logs; a name it does not know is refused, because nothing of a log may be read otherwise than somebody meant. */
export function toMapping(document: unknown): Result<Mapping> {
  const parsed = mappingSchema.safeParse(document);
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error, 'mapping') };
  const [first] = strangeIn(document, parsed.data);
  return first
    ? bad('mapping-strange', `“${first.place}” is not a name this program knows in a mapping. Correct it, or take it out.`, first.place)
    : good(parsed.data);
}

/** Validates a parsed document as a job, migrating older versions. */
export function toJob(document: unknown): Result<Job> {
  const migrated = migrateJob(document);
  if (!migrated.ok) return migrated;
  const parsed = jobSchema.safeParse(migrated.value);
  if (parsed.success) {
    const job = withAside(migrated.value, parsed.data);
    return job ? good(job) : bad('job-strange', tooStrange('job file'));
  }
  return {
    ok: false,
    problems: [{ code: 'job-invalid', text: 'This job file does not hold together. Nothing was changed. What is wrong:' }, ...problemsOf(parsed.error, 'job')],
  };
}

/** Reads the text of a job file. */
export function readJob(text: string): Result<Job> {
  const parsed = parseJson(text, 'job file');
  return parsed.ok ? toJob(parsed.value) : parsed;
}

/** Writes a job file, readable by people and stable for comparing. */
export const writeJob = (job: Job): string => `${JSON.stringify(job, null, 2)}\n`;
