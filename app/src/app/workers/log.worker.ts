/// <reference lib="webworker" />
import { expose } from 'comlink';
import Papa from 'papaparse';
import {
  createLogReader,
  decimate,
  deriveSettings,
  longestStep,
  proveLog,
  provingMeter,
  readBundle,
  sniffLog,
  writeBundle,
  writeLog,
  type Job,
  type Log,
  type LogReport,
  type Problem,
  type Result,
} from '@calm-keel/core';

const sniffBytes = 65_536;
const plotPoints = 4000;
let cancelled = false;

/** Reads a CSV in slices, so that memory holds only the kept columns and the page can cancel. */
async function readCsv(
  file: Blob,
  chargers: readonly string[],
  progress?: (rows: number, share: number) => void,
): Promise<Result<{ log: Log; report: LogReport }>> {
  cancelled = false;
  const head = await file.slice(0, sniffBytes).text();
  const strange = sniffLog(head, file.size <= sniffBytes);
  if (strange) return { ok: false, problems: [strange] };
  const reader = createLogReader(chargers);
  return new Promise((resolve) => {
    let stopped: Problem | null = null;
    Papa.parse<string[]>(file as File, {
      delimiter: ',',
      chunkSize: 2_000_000,
      chunk: ({ data, meta }, parser) => {
        if (cancelled) stopped = { code: 'log-cancelled', text: 'Reading was stopped. Nothing was kept.' };
        stopped ??= reader.take(data);
        if (stopped) {
          parser.abort();
          return;
        }
        progress?.(reader.count, meta.cursor / Math.max(1, file.size));
        // Give a waiting cancel its turn before the next slice.
        parser.pause();
        setTimeout(() => {
          parser.resume();
        }, 0);
      },
      complete: () => {
        resolve(stopped ? { ok: false, problems: [stopped] } : reader.finish());
      },
      error: (error) => {
        resolve({
          ok: false,
          problems: [{ code: 'file-unreadable', text: `The file cannot be read: ${error.message}. Copy it to this device and try again.` }],
        });
      },
    });
  });
}

/** What a log says about a job. */
function judge(job: Job, log: Log, report: LogReport, instrumentId: string) {
  return proveLog(deriveSettings(job), log, report, job.system.instruments.find((i) => i.id === instrumentId) ?? provingMeter(job));
}

/** Verdicts and thinned traces for the Prove view. */
function view(job: Job, log: Log, report: LogReport, instrumentId: string) {
  const breakAfter = longestStep(report);
  const trace = (values: Float32Array | undefined) => values && decimate(log.time, values, plotPoints, breakAfter);
  return {
    proof: judge(job, log, report, instrumentId),
    volts: decimate(log.time, log.bankVolts, plotPoints, breakAfter),
    battery: trace(log.batteryC),
    bankAmps: trace(log.bankAmps),
    chargers: Object.entries(log.chargers).flatMap(([id, c]) => (c.amps ? [{ id, amps: decimate(log.time, c.amps, plotPoints, breakAfter) }] : [])),
  };
}

const api = {
  readCsv,
  judge,
  view,
  cancel: () => {
    cancelled = true;
  },
  /** Job, logs and documents as one file. */
  pack: (job: Job, logs: readonly { id: string; log: Log }[], files: readonly { id: string; bytes: Uint8Array }[]) =>
    writeBundle({
      job,
      logs: Object.fromEntries(logs.map(({ id, log }) => [id, writeLog(log)])),
      files: Object.fromEntries(files.map(({ id, bytes }) => [id, bytes])),
    }),
  /** A job file with its logs read. Logs that cannot be read are named and left out. */
  unpack: async (bytes: Uint8Array) => {
    const bundle = readBundle(bytes);
    if (!bundle.ok) return bundle;
    const { job, logs, files, missing } = bundle.value;
    const notes = missing.map((name) => `The contents of “${name}” are not in this file.`);
    const read: { id: string; log: Log; report: LogReport }[] = [];
    for (const entry of job.logs) {
      const result = await readCsv(
        new Blob([logs[entry.id] ?? '']),
        job.system.chargers.map((c) => c.id),
      );
      if (result.ok) read.push({ id: entry.id, ...result.value });
      else notes.push(`The log “${entry.name}” could not be read: ${result.problems[0]?.text ?? ''}`);
    }
    const kept = new Set(read.map((r) => r.id));
    return {
      ok: true as const,
      value: {
        job: { ...job, logs: job.logs.filter((l) => kept.has(l.id)) },
        logs: read,
        files: Object.entries(files).map(([id, bytes]) => ({ id, bytes })),
        notes,
      },
    };
  },
};

/** What the page can ask of this worker. */
export type LogWorkerApi = typeof api;
/** What `view` answers. */
export type LogView = ReturnType<typeof view>;

expose(api);
