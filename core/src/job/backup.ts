import { strFromU8, strToU8 } from 'fflate';
import * as z from 'zod';
import { cardSchema } from '../card';
import { mappingSchema } from '../proof';
import { bad, good, strangeIn, type Result } from '../quantity';
import { identifier, sheetSchema, shortText } from '../sheet';
import { surveySchema } from '../survey';
import { openArchive, writeArchive } from './archive';
import { isZip, readBundle, type Bundle } from './bundle';
import type { Job } from './job';
import { parseJson, problemsOf } from './read';

/** What a backup says of itself. Jobs lie beside it, one bundle each. */
export const backupSchema = z.object({
  format: z.literal('calm-keel/backup'),
  version: z.literal(1),
  at: z.iso.datetime(),
  jobs: z.array(z.object({ id: identifier, name: shortText(80), updatedAt: z.number(), archivedAt: z.number().optional() })).max(2000),
  /** This device's own sheets and cards, and how files of one make are read. */
  sheets: z.array(sheetSchema).max(500),
  cards: z.array(cardSchema).max(500),
  mappings: z.array(z.object({ fingerprint: z.string().min(1).max(4000), mapping: mappingSchema })).max(500),
  /** Surveys of chargers that are not finished. */
  surveys: z.array(surveySchema).max(200).optional(),
  /** What stood on the device and could not be read there: carried as it is, one member `raw/N.json` each, in this order. */
  raw: z
    .array(z.object({ table: z.enum(['jobs', 'sheets', 'cards', 'mappings', 'surveys']), key: z.string().max(200), name: z.string().max(200) }))
    .max(2000)
    .optional(),
});
export type BackupHead = z.infer<typeof backupSchema>;

/** A whole book: its head, and a bundle for each job. */
export interface Backup {
  readonly head: BackupHead;
  readonly bundles: Readonly<Record<string, Bundle>>;
}

/** A backup as it was read: what could not be taken, and what its jobs name without having it, in sentences. */
export interface ReadBackup extends Backup {
  readonly unread: readonly string[];
  /** By job: contents that its bundle names and does not hold. */
  readonly missing: Readonly<Record<string, readonly string[]>>;
}

/** A backup may unpack to this many bytes. */
const mostBackupBytes = 1_000_000_000;

const rawName = (n: number): string => `raw/${n}.json`;
const jobName = (id: string): string => `jobs/${id}.keel.zip`;
const headName = 'backup.json';

/**
 * Packs a backup: `backup.json` and `jobs/ID.keel.zip`, with their sums.
 *
 * @param packed each job as `writeBundle` gives it; packed already, so it is only stored
 * @param raw what cannot be read, as JSON, in the order in which the head names it
 */
export function writeBackup(head: BackupHead, packed: Readonly<Record<string, Uint8Array>>, raw: readonly string[] = []): Uint8Array {
  const jobs = Object.fromEntries(Object.entries(packed).map(([id, bytes]) => [jobName(id), bytes]));
  const raws = Object.fromEntries(raw.map((text, n) => [rawName(n), strToU8(text)]));
  return writeArchive({ [headName]: strToU8(`${JSON.stringify(head, null, 2)}\n`), ...jobs, ...raws }, (name) => name.startsWith('jobs/'));
}

/** Whether bytes are a zip that calls itself a backup; nothing is unpacked for it. */
export function isBackup(bytes: Uint8Array): boolean {
  if (!isZip(bytes)) return false;
  const archive = openArchive(bytes, 'backup', Infinity, () => false);
  return archive.ok && archive.value.members.some((member) => member.name === headName);
}

/**
 * Reads a backup. A job in it that cannot be read is named; the others are taken.
 *
 * @param only one job of it; the others are not unpacked
 */
export function readBackup(bytes: Uint8Array, only?: string): Result<ReadBackup> {
  const wanted = (name: string): boolean => name === headName || (only === undefined ? /^jobs\/[a-z0-9-]+\.keel\.zip$/.test(name) : name === jobName(only));
  const archive = openArchive(bytes, 'backup', mostBackupBytes, wanted);
  if (!archive.ok) return archive;
  const { take } = archive.value;
  const text = take(headName);
  if (!text)
    return bad('backup-none', 'This zip holds no “backup.json”, so it is not a backup of Calm Keel. Choose a file that was saved with “Back up all jobs”.');
  if (!text.ok) return text;
  const parsed = parseJson(strFromU8(text.value), 'backup');
  if (!parsed.ok) return parsed;
  const head = backupSchema.safeParse(parsed.value);
  if (!head.success) {
    const version = (parsed.value as { version?: unknown } | null)?.version;
    return typeof version === 'number' && version > 1
      ? bad('backup-newer', `This backup is of version ${version}, and this program reads version 1. Update the program, then bring it in again.`)
      : {
          ok: false,
          problems: [
            { code: 'backup-invalid', text: 'This backup does not hold together. Nothing was changed. What is wrong:' },
            ...problemsOf(head.error, 'backup'),
          ],
        };
  }
  const bundles: Record<string, Bundle> = {};
  const unread: string[] = strangeIn(parsed.value, head.data).map(({ place }) => `“${place}” of this backup is not a name this program knows.`);
  const missing: Record<string, readonly string[]> = {};
  for (const { id, name } of head.data.jobs) {
    if (only !== undefined && id !== only) continue;
    const packed = take(jobName(id));
    const bundle = packed?.ok ? readBundle(packed.value) : packed;
    if (bundle?.ok) {
      bundles[id] = { job: bundle.value.job, logs: bundle.value.logs, files: bundle.value.files };
      if (bundle.value.missing.length > 0) missing[id] = bundle.value.missing;
    } else unread.push(`“${name}”: ${bundle?.problems[0]?.text ?? 'it is named but not in the file.'}`);
  }
  return good({ head: head.data, bundles, unread, missing });
}

/** What a backup carries that could not be read where it was made: the JSON of each, or null where that was lost or altered. */
export function rawOf(bytes: Uint8Array, head: BackupHead): readonly (string | null)[] {
  const archive = openArchive(bytes, 'backup', mostBackupBytes, (name) => name.startsWith('raw/'));
  return (head.raw ?? []).map((_, n) => {
    const text = archive.ok ? archive.value.take(rawName(n)) : null;
    return text?.ok ? strFromU8(text.value) : null;
  });
}

/** What restoring would do with one job. */
export interface RestoreLine {
  readonly id: string;
  readonly name: string;
  /** `new`: not on this device; `same`: nothing would change; `differs`: it is here otherwise. */
  readonly state: 'new' | 'same' | 'differs';
  /** Milliseconds since 1970: when each copy was last touched. */
  readonly there: number;
  readonly here: number | null;
}

/** What to do with a job that is here already. */
export type RestoreChoice = 'keepBoth' | 'replace' | 'skip';

/** Compares a backup with what is on this device. */
export function planRestore(
  backup: Pick<Backup, 'head' | 'bundles'>,
  here: readonly { readonly doc: Job; readonly updatedAt: number }[],
): readonly RestoreLine[] {
  return backup.head.jobs.flatMap(({ id, name, updatedAt }): RestoreLine[] => {
    const bundle = backup.bundles[id];
    if (!bundle) return [];
    const row = here.find((r) => r.doc.id === id);
    if (!row) return [{ id, name, state: 'new', there: updatedAt, here: null }];
    const state = JSON.stringify(row.doc) === JSON.stringify(bundle.job) ? 'same' : 'differs';
    return [{ id, name, state, there: updatedAt, here: row.updatedAt }];
  });
}
