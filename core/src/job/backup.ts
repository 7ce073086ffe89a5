import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import * as z from 'zod';
import { cardSchema } from '../card';
import { mappingSchema } from '../proof';
import { bad, good, type Result } from '../quantity';
import { identifier, sheetSchema, shortText } from '../sheet';
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
});
export type BackupHead = z.infer<typeof backupSchema>;

/** A whole book: its head, and a bundle for each job. */
export interface Backup {
  readonly head: BackupHead;
  readonly bundles: Readonly<Record<string, Bundle>>;
}

/** A backup may unpack to this many bytes. */
const mostBackupBytes = 1_000_000_000;
/** One job in it. */
const mostBundleBytes = 600_000_000;

/**
 * Packs a backup: `backup.json` and `jobs/ID.keel.zip`.
 *
 * @param packed each job as `writeBundle` gives it; packed already, so it is only stored
 */
export function writeBackup(head: BackupHead, packed: Readonly<Record<string, Uint8Array>>): Uint8Array {
  return zipSync(
    {
      'backup.json': [strToU8(`${JSON.stringify(head, null, 2)}\n`), { level: 6 }],
      ...Object.fromEntries(Object.entries(packed).map(([id, bytes]) => [`jobs/${id}.keel.zip`, [bytes, { level: 0 }] as [Uint8Array, { level: 0 }]])),
    },
    { mtime: '2020-01-01T00:00:00Z' },
  );
}

/** Whether bytes are a zip that calls itself a backup; nothing is unpacked for it. */
export function isBackup(bytes: Uint8Array): boolean {
  if (!isZip(bytes)) return false;
  let found = false;
  try {
    unzipSync(bytes, {
      filter: ({ name }) => {
        found ||= name === 'backup.json';
        return false;
      },
    });
  } catch {
    return false;
  }
  return found;
}

/**
 * Reads a backup. A job in it that cannot be read is named; the others are taken.
 *
 * @param only one job of it; the others are not unpacked
 */
export function readBackup(bytes: Uint8Array, only?: string): Result<Backup & { readonly unread: readonly string[] }> {
  let entries: Record<string, Uint8Array>;
  let total = 0;
  try {
    entries = unzipSync(bytes, {
      filter: (file) => {
        if (file.name !== 'backup.json' && !/^jobs\/[a-z0-9-]+\.keel\.zip$/.test(file.name)) return false;
        if (only !== undefined && file.name !== 'backup.json' && file.name !== `jobs/${only}.keel.zip`) return false;
        total += file.originalSize;
        if (total > mostBackupBytes || file.originalSize > mostBundleBytes) throw new RangeError('large');
        return true;
      },
    });
  } catch (error) {
    return error instanceof RangeError
      ? bad('backup-too-large', `This backup would unpack to more than ${mostBackupBytes / 1e9} GB. It was not opened.`)
      : bad('backup-broken', 'This backup cannot be unpacked. It may have been cut short; take an unbroken copy.');
  }
  const text = entries['backup.json'];
  if (!text)
    return bad('backup-none', 'This zip holds no “backup.json”, so it is not a backup of Calm Keel. Choose a file that was saved with “Back up all jobs”.');
  const parsed = parseJson(strFromU8(text), 'backup');
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
  const unread: string[] = [];
  for (const { id, name } of head.data.jobs) {
    if (only !== undefined && id !== only) continue;
    const packed = entries[`jobs/${id}.keel.zip`];
    const bundle = packed ? readBundle(packed) : null;
    if (bundle?.ok) bundles[id] = { job: bundle.value.job, logs: bundle.value.logs, files: bundle.value.files };
    else unread.push(`“${name}”: ${bundle ? (bundle.problems[0]?.text ?? '') : 'it is named but not in the file.'}`);
  }
  return good({ head: head.data, bundles, unread });
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
