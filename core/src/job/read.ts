import type * as z from 'zod';
import { bad, good, type Problem, type Result } from '../quantity';
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

/** Schema issues as sentences with their place. */
export function problemsOf(error: z.ZodError, what: string): readonly Problem[] {
  const shown = error.issues.slice(0, 8).map((issue) => {
    const place = issue.path.map((p) => (typeof p === 'number' ? String(p + 1) : String(p))).join(' › ') || what;
    return { code: 'schema', text: `${place}: ${issue.message}.`, place };
  });
  const rest = error.issues.length - shown.length;
  return rest > 0 ? [...shown, { code: 'schema', text: `and ${rest} more.` }] : shown;
}

/** Validates a parsed document as a job, migrating older versions. */
export function toJob(document: unknown): Result<Job> {
  const migrated = migrateJob(document);
  if (!migrated.ok) return migrated;
  const parsed = jobSchema.safeParse(migrated.value);
  if (parsed.success) return good(parsed.data);
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
