import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { bad, good, type Result } from '../quantity';
import type { Job } from './job';
import { mostJobBytes, readJob, writeJob } from './read';

/** A job with the CSV text of each of its logs, by log id. */
export interface Bundle {
  readonly job: Job;
  readonly logs: Readonly<Record<string, string>>;
}

/** Logs in one bundle may unpack to this many bytes. */
const mostLogBytes = 500_000_000;

/** Packs job and logs into one zip: `job.json` and `logs/ID.csv`. The time stamp is fixed, so equal content gives equal bytes. */
export function writeBundle({ job, logs }: Bundle): Uint8Array {
  const files = { 'job.json': strToU8(writeJob(job)), ...Object.fromEntries(Object.entries(logs).map(([id, csv]) => [`logs/${id}.csv`, strToU8(csv)])) };
  return zipSync(files, { level: 6, mtime: '2020-01-01T00:00:00Z' });
}

/** Whether bytes begin like a zip. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b;

/**
 * Reads a job file: a bundle, or a plain `job.json`. Log entries whose samples are missing are dropped from the job and named.
 */
export function readBundle(bytes: Uint8Array): Result<Bundle & { missing: readonly string[] }> {
  if (!isZip(bytes)) {
    if (bytes.length > mostJobBytes)
      return bad('job-too-large', `This file is larger than ${mostJobBytes / 1e6} MB and is not a Calm Keel bundle. A log is brought in on Prove, not here.`);
    const job = readJob(strFromU8(bytes));
    return job.ok ? good(withLogs(job.value, {})) : job;
  }
  let files: Record<string, Uint8Array>;
  let total = 0;
  try {
    files = unzipSync(bytes, {
      filter: (file) => {
        if (file.name !== 'job.json' && !/^logs\/[a-z0-9-]+\.csv$/.test(file.name)) return false;
        total += file.originalSize;
        if (file.name === 'job.json' && file.originalSize > mostJobBytes) throw new RangeError('job');
        if (total > mostLogBytes) throw new RangeError('logs');
        return true;
      },
    });
  } catch (error) {
    return error instanceof RangeError
      ? bad('bundle-too-large', `This bundle would unpack to more than ${mostLogBytes / 1e6} MB. It was not opened.`)
      : bad('bundle-broken', 'This bundle cannot be unpacked. It may have been cut short; take an unbroken copy.');
  }
  const text = files['job.json'];
  if (!text) return bad('bundle-no-job', 'This zip holds no “job.json”, so it is not a Calm Keel bundle. Choose a file that was saved with Job file.');
  const job = readJob(strFromU8(text));
  if (!job.ok) return job;
  const logs = Object.fromEntries(Object.entries(files).flatMap(([name, data]) => (name.startsWith('logs/') ? [[name.slice(5, -4), strFromU8(data)]] : [])));
  return good(withLogs(job.value, logs));
}

function withLogs(job: Job, logs: Record<string, string>): Bundle & { missing: readonly string[] } {
  const missing = job.logs.filter((log) => logs[log.id] === undefined).map((log) => log.name);
  return { job: { ...job, logs: job.logs.filter((log) => logs[log.id] !== undefined) }, logs, missing };
}
