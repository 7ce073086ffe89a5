import { strFromU8, strToU8 } from 'fflate';
import * as z from 'zod';
import { bad, good, type Result } from '../quantity';
import { identifier } from '../sheet';
import { openArchive, writeArchive } from './archive';
import type { Job } from './job';
import { mostAttachmentBytes, sniffAttachment } from './attachment';
import { mostJobBytes, parseJson, readJob, textOf, writeJob } from './read';

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

/** A bundle may unpack to this many bytes. */
const mostBundleBytes = 500_000_000;

/** Packs a job into one zip: `job.json`, `copy.json`, `logs/ID.csv` and `files/ID`, with their sums. Equal content gives equal bytes. */
export const writeBundle = ({ job, logs, files, copy }: Bundle): Uint8Array =>
  writeArchive({
    'job.json': strToU8(writeJob(job)),
    ...(copy ? { 'copy.json': strToU8(JSON.stringify(copy)) } : {}),
    ...Object.fromEntries(Object.entries(logs).map(([id, csv]) => [`logs/${id}.csv`, strToU8(csv)])),
    ...Object.fromEntries(Object.entries(files).map(([id, bytes]) => [`files/${id}`, bytes])),
  });

/** Whether bytes begin like a zip. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

const logName = /^logs\/([a-z0-9-]+)\.csv$/;
const fileName = /^files\/([a-z0-9-]+)$/;
const known = (name: string): boolean => name === 'job.json' || name === 'copy.json' || logName.test(name) || fileName.test(name);

/**
 * Reads a job file: a bundle, or a plain `job.json`. A bundle of which one byte is not as it was packed is refused by naming the member. Entries of logs and
 * documents whose contents are missing are dropped from the job and named.
 */
export function readBundle(bytes: Uint8Array): Result<Bundle & { missing: readonly string[] }> {
  if (!isZip(bytes)) {
    if (bytes.length > mostJobBytes)
      return bad('job-too-large', `This file is larger than ${mostJobBytes / 1e6} MB and is not a Calm Keel bundle. A log is brought in on Prove, not here.`);
    const text = textOf(bytes, 'job file');
    if (!text.ok) return text;
    const job = readJob(text.value);
    return job.ok ? good(withContents(job.value, {}, {})) : job;
  }
  const archive = openArchive(bytes, 'bundle', mostBundleBytes, known);
  if (!archive.ok) return archive;
  const { members, lost, take } = archive.value;
  const large = members.find(
    ({ name, size }) =>
      (name === 'job.json' && size > mostJobBytes) || (name === 'copy.json' && size > 10_000) || (fileName.test(name) && size > mostAttachmentBytes),
  );
  if (large) return bad('bundle-too-large', `“${large.name}” in this bundle is larger than any of this program. It was not opened.`, large.name);
  if (lost.length > 0)
    return bad('bundle-lost', `This bundle was packed with “${lost.join('”, “')}”, and that is no longer in it. Take an unbroken copy.`, lost[0]);
  const contents = new Map<string, Uint8Array>();
  for (const { name } of members.filter((m) => known(m.name))) {
    const content = take(name);
    if (content && !content.ok) return content;
    if (content) contents.set(name, content.value);
  }
  const document = contents.get('job.json');
  if (!document) return bad('bundle-no-job', 'This zip holds no “job.json”, so it is not a Calm Keel bundle. Choose a file that was saved with Job file.');
  const job = readJob(strFromU8(document));
  if (!job.ok) return job;
  const named = (pattern: RegExp): readonly (readonly [string, Uint8Array])[] =>
    [...contents].flatMap(([name, data]) => {
      const id = pattern.exec(name)?.[1];
      return id === undefined ? [] : [[id, data] as const];
    });
  const logs = Object.fromEntries(named(logName).map(([id, data]) => [id, strFromU8(data)]));
  const copy = copyMarkOf(contents.get('copy.json'));
  return good({ ...withContents(job.value, logs, Object.fromEntries(named(fileName))), ...(copy ? { copy } : {}) });
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
