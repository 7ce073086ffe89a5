import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import * as z from 'zod';
import { bad, good, type Result } from '../quantity';
import { identifier } from '../sheet';
import type { Job } from './job';
import { mostAttachmentBytes, sniffAttachment } from './attachment';
import { mostJobBytes, parseJson, readJob, writeJob } from './read';

/** A job with the CSV text of each of its logs and the bytes of each of its documents, by id. */
export interface Bundle {
  readonly job: Job;
  readonly logs: Readonly<Record<string, string>>;
  readonly files: Readonly<Record<string, Uint8Array>>;
  /** Which copy this is, and which ones it comes from: what two copies are merged by. */
  readonly copy?: CopyMark;
}

/** A copy that was handed out. */
export const copyMarkSchema = z.object({ id: identifier, parents: z.array(identifier).max(40), at: z.iso.datetime() });
export type CopyMark = z.infer<typeof copyMarkSchema>;

/** Logs in one bundle may unpack to this many bytes. */
const mostLogBytes = 500_000_000;

/** Packs a job into one zip: `job.json`, `copy.json`, `logs/ID.csv` and `files/ID`. The time stamp is fixed, so equal content gives equal bytes. */
export function writeBundle({ job, logs, files, copy }: Bundle): Uint8Array {
  const entries = {
    'job.json': strToU8(writeJob(job)),
    ...(copy ? { 'copy.json': strToU8(JSON.stringify(copy)) } : {}),
    ...Object.fromEntries(Object.entries(logs).map(([id, csv]) => [`logs/${id}.csv`, strToU8(csv)])),
    ...Object.fromEntries(Object.entries(files).map(([id, bytes]) => [`files/${id}`, bytes])),
  };
  return zipSync(entries, { level: 6, mtime: '2020-01-01T00:00:00Z' });
}

/** Whether bytes begin like a zip. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/**
 * Reads a job file: a bundle, or a plain `job.json`. Entries of logs and documents whose contents are missing are dropped from the job and named.
 */
export function readBundle(bytes: Uint8Array): Result<Bundle & { missing: readonly string[] }> {
  if (!isZip(bytes)) {
    if (bytes.length > mostJobBytes)
      return bad('job-too-large', `This file is larger than ${mostJobBytes / 1e6} MB and is not a Calm Keel bundle. A log is brought in on Prove, not here.`);
    const job = readJob(strFromU8(bytes));
    return job.ok ? good(withContents(job.value, {}, {})) : job;
  }
  let entries: Record<string, Uint8Array>;
  let total = 0;
  try {
    entries = unzipSync(bytes, {
      filter: (file) => {
        if (file.name !== 'job.json' && file.name !== 'copy.json' && !/^(logs\/[a-z0-9-]+\.csv|files\/[a-z0-9-]+)$/.test(file.name)) return false;
        total += file.originalSize;
        if (file.name === 'copy.json' && file.originalSize > 10_000) return false;
        if (file.name === 'job.json' && file.originalSize > mostJobBytes) throw new RangeError('job');
        if (file.name.startsWith('files/') && file.originalSize > mostAttachmentBytes) throw new RangeError('file');
        if (total > mostLogBytes) throw new RangeError('logs');
        return true;
      },
    });
  } catch (error) {
    return error instanceof RangeError
      ? bad('bundle-too-large', `This bundle would unpack to more than ${mostLogBytes / 1e6} MB. It was not opened.`)
      : bad('bundle-broken', 'This bundle cannot be unpacked. It may have been cut short; take an unbroken copy.');
  }
  const text = entries['job.json'];
  if (!text) return bad('bundle-no-job', 'This zip holds no “job.json”, so it is not a Calm Keel bundle. Choose a file that was saved with Job file.');
  const job = readJob(strFromU8(text));
  if (!job.ok) return job;
  const logs = Object.fromEntries(Object.entries(entries).flatMap(([name, data]) => (name.startsWith('logs/') ? [[name.slice(5, -4), strFromU8(data)]] : [])));
  const files = Object.fromEntries(Object.entries(entries).flatMap(([name, data]) => (name.startsWith('files/') ? [[name.slice(6), data]] : [])));
  const copy = copyMarkOf(entries['copy.json']);
  return good({ ...withContents(job.value, logs, files), ...(copy ? { copy } : {}) });
}

/** One that cannot be read is as if it were not there: then nobody knows what the copies have in common. */
function copyMarkOf(bytes: Uint8Array | undefined): CopyMark | null {
  if (!bytes) return null;
  const parsed = parseJson(strFromU8(bytes), 'bundle');
  const copy = parsed.ok ? copyMarkSchema.safeParse(parsed.value) : null;
  return copy?.success ? copy.data : null;
}

function withContents(job: Job, logs: Bundle['logs'], files: Bundle['files']): Bundle & { missing: readonly string[] } {
  // A document is what its bytes say; one that is none of the kinds kept is left out like a missing one.
  const sound = job.attachments.filter((a) => files[a.id] && sniffAttachment(files[a.id] ?? new Uint8Array()) === a.type);
  const missing = [...job.logs.filter((log) => logs[log.id] === undefined), ...job.attachments.filter((a) => !sound.includes(a))].map((entry) => entry.name);
  return {
    job: {
      ...job,
      logs: job.logs.filter((log) => logs[log.id] !== undefined),
      attachments: sound.map((a) => ({ ...a, bytes: files[a.id]?.length ?? a.bytes })),
    },
    logs,
    files: Object.fromEntries(sound.flatMap((a) => (files[a.id] ? [[a.id, files[a.id] ?? new Uint8Array()]] : []))),
    missing,
  };
}
