/// <reference lib="webworker" />
import { expose } from 'comlink';
import Papa from 'papaparse';
import { readSettingsText, type WrittenSetting } from '@calm-keel/core/card';
import { stages } from '@calm-keel/core/charger';
import { readHistory, type HistoryFile } from '@calm-keel/core/fieldtest';
import {
  isBackup,
  planRestore,
  rawOf,
  readBackup,
  readBundle,
  writeBackup,
  writeBundle,
  type BackupHead,
  type Bundle,
  type CopyMark,
  type Job,
} from '@calm-keel/core/job';
import {
  createLogReader,
  feederOf,
  logContextOf,
  shownAlone,
  longestStep,
  lookAtTables,
  mergeLogs,
  proveLog,
  sniffBytes,
  withLeftOut,
  writeLog,
  type Log,
  type LogContext,
  type LogReport,
  type Looked,
  type Mapping,
  type Unread,
} from '@calm-keel/core/proof';
import { hasFigures } from '@calm-keel/core/sheet';
import { bad, good, strangeWords, type Problem, type Result } from '@calm-keel/core/quantity';
import { deriveSettings, provingMeter, type SettingsInput } from '@calm-keel/core/settings';
import { isPacked, openFile, tooLarge } from '@calm-keel/core/files';

let cancelled = false;

const split = (text: string, separator: string): string[][] => Papa.parse<string[]>(text, { delimiter: separator }).data;

/** A table that was found in a file. */
export interface FoundTable extends Looked {
  readonly content: Blob;
}

/** What a file holds, as files; one that is plain text is not touched, however large it is. */
async function opened(
  file: Blob,
  name: string,
): Promise<Result<{ inside: readonly { name: string; own: string; content: Blob }[]; leftOut: readonly string[] }>> {
  if (!isPacked(new Uint8Array(await file.slice(0, 8).arrayBuffer()))) return good({ inside: [{ name, own: name, content: file }], leftOut: [] });
  const large = tooLarge(name, file.size);
  if (large) return { ok: false, problems: [large] };
  const open = await openFile(name, new Uint8Array(await file.arrayBuffer()));
  if (!open.ok) return open;
  const { inside, leftOut } = open.value;
  return good({ inside: inside.map(({ content, ...of }) => ({ ...of, content: new Blob([new Uint8Array(content)]) })), leftOut });
}

/** The beginning of a table, for looking at it. */
const unread = async (name: string, own: string, content: Blob): Promise<Unread & { readonly content: Blob }> => ({
  name,
  own,
  content,
  head: await content.slice(0, sniffBytes).text(),
  whole: content.size <= sniffBytes,
});

/** Opens a file and looks at every table in it. */
async function look(file: Blob, name: string, context: LogContext): Promise<Result<{ tables: readonly FoundTable[]; leftOut: readonly string[] }>> {
  const found = await opened(file, name);
  if (!found.ok) return found;
  const texts = await Promise.all(found.value.inside.map((i) => unread(i.name, i.own, i.content)));
  const looked = lookAtTables(texts, found.value.leftOut, split, context);
  // The beginnings have done their part, and need not go to the page.
  return looked.ok ? good({ ...looked.value, tables: looked.value.tables.map(({ name, content, guess }) => ({ name, content, guess })) }) : looked;
}

const stop = (): Problem | null => (cancelled ? { code: 'log-cancelled', text: 'Reading was stopped. Nothing was saved.' } : null);
const unreadable = (error: unknown): Result<never> =>
  bad('file-unreadable', `The file cannot be read: ${error instanceof Error ? error.message : 'it is gone'}. Copy it to this device and try again.`);
const sliceSize = 2_000_000;

/** Reads one file by its mapping, in slices, so that memory holds only the kept columns and the page can cancel. */
async function readMapped(file: Blob, mapping: Mapping, progress?: (rows: number, share: number) => void): Promise<Result<{ log: Log; report: LogReport }>> {
  const reader = createLogReader(mapping);
  const feeder = feederOf(mapping, reader);
  try {
    for (let at = 0; at < file.size && !feeder.strange; at += sliceSize) {
      const bytes = new Uint8Array(await file.slice(at, at + sliceSize).arrayBuffer());
      const problem = stop() ?? feeder.push(bytes);
      if (problem) return { ok: false, problems: [problem] };
      progress?.(reader.count, Math.min(1, (at + sliceSize) / file.size));
    }
  } catch (error) {
    return unreadable(error);
  }
  if (feeder.strange) return readQuoted(file, mapping, progress);
  const last = feeder.end();
  return last ? { ok: false, problems: [last] } : reader.finish();
}

/** Reads a table whose fields are quoted, or whose lines end in another way. */
function readQuoted(file: Blob, mapping: Mapping, progress?: (rows: number, share: number) => void): Promise<Result<{ log: Log; report: LogReport }>> {
  const reader = createLogReader(mapping);
  return new Promise((resolve) => {
    let stopped: Problem | null = null;
    Papa.parse<string[]>(file as File, {
      delimiter: mapping.separator,
      chunkSize: sliceSize,
      chunk: ({ data, meta }, parser) => {
        stopped = stop() ?? stopped ?? reader.take(data);
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
        resolve(unreadable(error));
      },
    });
  });
}

/** Reads files by their mappings and puts them together as one log. */
async function read(
  files: readonly { readonly file: Blob; readonly mapping: Mapping }[],
  leftOut: readonly string[],
  progress?: (rows: number, share: number) => void,
): Promise<Result<{ log: Log; report: LogReport }>> {
  cancelled = false;
  const all: { log: Log; report: LogReport }[] = [];
  let rows = 0;
  for (const [k, { file, mapping }] of files.entries()) {
    const one = await readMapped(file, mapping, (n, share) => progress?.(rows + n, (k + share) / files.length));
    if (!one.ok) return one;
    rows += one.value.report.rows;
    all.push(one.value);
  }
  const merged = mergeLogs(all);
  return merged.ok ? good({ log: merged.value.log, report: withLeftOut(merged.value.report, leftOut) }) : merged;
}

/** Reads a log that this program wrote, or one that is as plain. */
async function readCsv(file: Blob, context: LogContext): Promise<Result<{ log: Log; report: LogReport }>> {
  const looked = lookAtTables([await unread('', '', file)], [], split, context);
  return looked.ok
    ? read(
        looked.value.tables.map((table) => ({ file, mapping: table.guess.mapping })),
        [],
      )
    : looked;
}

/** What a log says about a job. */
function judge(job: SettingsInput, log: Log, report: LogReport, instrumentId: string) {
  return proveLog(deriveSettings(job), log, report, job.system.instruments.find((i) => i.id === instrumentId) ?? provingMeter(job));
}

/** Most stretches of a reported stage that are drawn. */
const mostStretches = 2000;

/** The stages a charger reported, as stretches of time. */
function reportedSpans(time: Float64Array, reported: Uint8Array, breakAfter: number): { stage: (typeof stages)[number]; from: number; to: number }[] {
  const spans: { stage: (typeof stages)[number]; from: number; to: number }[] = [];
  let first = 0;
  for (let i = 1; i <= reported.length && spans.length < mostStretches; i++) {
    if (i < reported.length && reported[i] === reported[first] && (time[i] ?? 0) - (time[i - 1] ?? 0) <= breakAfter) continue;
    const stage = stages[reported[first] ?? 255];
    if (stage) spans.push({ stage, from: time[first] ?? 0, to: time[Math.min(i, reported.length - 1)] ?? 0 });
    first = i;
  }
  return spans;
}

/** Verdicts and thinned traces for the Prove view. */
function view(job: Job, log: Log, report: LogReport, instrumentId: string) {
  const breakAfter = longestStep(report);
  return {
    proof: judge(job, log, report, instrumentId),
    // Beside a sheet its verdicts say more.
    alone: hasFigures(job.sheet) ? [] : shownAlone(log, report),
    reported: Object.entries(log.chargers).flatMap(([id, c]) => (c.stage ? [{ id, spans: reportedSpans(log.time, c.stage, breakAfter) }] : [])),
  };
}

/** A bundle with its logs read. */
async function withLogs({ job, logs, files, copy }: Bundle, missing: readonly string[]) {
  const notes = (job.aside ?? []).map(strangeWords);
  notes.push(...missing.map((name) => `“${job.name}”: the contents of “${name}” are not in this file.`));
  const read: { id: string; log: Log; report: LogReport }[] = [];
  for (const entry of job.logs) {
    const result = await readCsv(new Blob([logs[entry.id] ?? '']), logContextOf(deriveSettings(job)));
    if (result.ok) read.push({ id: entry.id, ...result.value });
    else notes.push(`The log “${entry.name}” could not be read: ${result.problems[0]?.text ?? ''}`);
  }
  const kept = new Set(read.map((r) => r.id));
  return {
    job: { ...job, logs: job.logs.filter((l) => kept.has(l.id)) },
    logs: read,
    files: Object.entries(files).map(([id, bytes]) => ({ id, bytes })),
    notes,
    copy: copy ?? null,
  };
}

const api = {
  look,
  read,
  readCsv,
  judge,
  view,
  /** A photo made small: at most 1600 px, JPEG. */
  shrink: async (photo: Blob): Promise<Uint8Array> => {
    const picture = await createImageBitmap(photo);
    const by = Math.min(1, 1600 / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(Math.max(1, Math.round(picture.width * by)), Math.max(1, Math.round(picture.height * by)));
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 })).arrayBuffer());
  },
  /** A charger’s own settings out of a file: of the text itself, the first table of a spreadsheet, the first file of a zip. */
  settings: async (file: Blob, name: string): Promise<Result<readonly WrittenSetting[]>> => {
    const found = await opened(file, name);
    return found.ok ? readSettingsText((await found.value.inside[0]?.content.text()) ?? '', split) : found;
  },
  /** Tables of a file as text, cells parted by tabs: of a spreadsheet each sheet, of a zip each file, else the text itself. */
  tables: async (file: Blob, name: string): Promise<Result<readonly string[]>> => {
    const found = await opened(file, name);
    if (!found.ok) return found;
    return good(
      await Promise.all(
        found.value.inside.map(async ({ own, content }) => {
          const text = await content.text();
          const isTable = own.toLowerCase().endsWith('.csv') || content !== file;
          return isTable && !text.includes('\t')
            ? split(text, '')
                .map((row) => row.join('\t'))
                .join('\n')
            : text;
        }),
      ),
    );
  },
  /** A charger’s own daily history out of a file, of any of its tables. */
  history: async (file: Blob, name: string): Promise<Result<HistoryFile>> => {
    const found = await opened(file, name);
    if (!found.ok) return found;
    let first: Result<HistoryFile> | null = null;
    for (const inside of found.value.inside) {
      const read = readHistory(await inside.content.text(), split);
      if (read.ok) return read;
      first ??= read;
    }
    return first ?? bad('history-none', 'There is no table in this file.');
  },
  cancel: () => {
    cancelled = true;
  },
  /** Job, logs and documents as one file. */
  pack: (job: Job, logs: readonly { id: string; log: Log }[], files: readonly { id: string; bytes: Uint8Array }[], copy?: CopyMark) =>
    writeBundle({
      job,
      ...(copy ? { copy } : {}),
      logs: Object.fromEntries(logs.map(({ id, log }) => [id, writeLog(log)])),
      files: Object.fromEntries(files.map(({ id, bytes }) => [id, bytes])),
    }),
  /** A job file with its logs read. Logs that cannot be read are named and left out. */
  unpack: async (bytes: Uint8Array) => {
    const bundle = readBundle(bytes);
    return bundle.ok ? good(await withLogs(bundle.value, bundle.value.missing)) : bundle;
  },
  isBackup: (bytes: Uint8Array) => isBackup(bytes),
  /** A whole book as one file, from jobs packed each by itself. */
  packBackup: (head: BackupHead, packed: Readonly<Record<string, Uint8Array>>, raw: readonly string[]) => writeBackup(head, packed, raw),
  /** What a backup holds, compared with what is here; nothing is taken yet. */
  lookIntoBackup: (bytes: Uint8Array, here: readonly { doc: Job; updatedAt: number }[]) => {
    const backup = readBackup(bytes);
    return backup.ok ? good({ head: backup.value.head, lines: planRestore(backup.value, here), unread: backup.value.unread }) : backup;
  },
  /** What a backup carries that could not be read where it was made. */
  rawOfBackup: (bytes: Uint8Array, head: BackupHead) => rawOf(bytes, head),
  /** One job out of a backup, with its logs read. */
  takeFromBackup: async (bytes: Uint8Array, id: string) => {
    const backup = readBackup(bytes, id);
    if (!backup.ok) return backup;
    const bundle = backup.value.bundles[id];
    return bundle ? good(await withLogs(bundle, backup.value.missing[id] ?? [])) : bad('backup-unread', backup.value.unread.join(' '));
  },
};

/** What the page can ask of this worker. */
export type LogWorkerApi = typeof api;
/** A job out of a file, with its logs read. */
export type Unpacked = Awaited<ReturnType<typeof withLogs>>;
/** What `view` answers. */
export type LogView = ReturnType<typeof view>;

expose(api);
