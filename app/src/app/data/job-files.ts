import { inject, Injectable } from '@angular/core';
import { readJob, sameJob, toJob, writeJob, type BackupHead, type CopyMark, type Job, type RestoreChoice, type RestoreLine } from '@calm-keel/core/job';
import { logContextOf, type Log, type LogReport } from '@calm-keel/core/proof';
import type { Problem } from '@calm-keel/core/quantity';
import { deriveSettings } from '@calm-keel/core/settings';
import type { Unpacked } from '../workers/log.worker';
import { storageProblem, type DamagedRow } from './database';
import { JobBook } from './job-book';
import { LogWork } from './log-work';

/** What bringing something in came to. */
export type Brought =
  | { readonly ok: true; readonly id: string; readonly notes: readonly string[] }
  /** A copy of a job that is here already: it waits for what is to become of it. */
  | { readonly ok: true; readonly meets: Meeting }
  /** A backup: it waits for what is to be restored. */
  | { readonly ok: true; readonly backup: OpenBackup }
  | { readonly ok: false; readonly problems: readonly Problem[] };

/** Two copies of one job: the one here, the one that came, and the copy both come from when this device knows it. */
export interface Meeting {
  readonly id: string;
  readonly from: string;
  readonly mine: Job;
  readonly came: Unpacked;
  readonly base: Job | null;
}

type RawTable = NonNullable<BackupHead['raw']>[number]['table'];

/** A backup that was made. */
export interface BackedUp {
  readonly blob: Blob;
  /** How far the count of changes had come when it was begun. */
  readonly count: number;
  /** What is not in it, in sentences; empty when it is whole. */
  readonly lacks: readonly string[];
}

/** A backup that was looked into, with its file. */
export interface OpenBackup {
  readonly file: Blob;
  readonly name: string;
  readonly head: BackupHead;
  readonly lines: readonly RestoreLine[];
  readonly unread: readonly string[];
}

/** Demo jobs with the logs that come with them. The freezing dawn is left for the person to bring in. */
const demo = [
  { job: 'tumbler', logs: [] },
  { job: 'skarrow', logs: [] },
  { job: 'rook-moss', logs: [{ id: 'nine-days', name: 'Nine days in May', file: 'rook-moss-nine-days' }] },
  {
    job: 'teasel',
    logs: [
      { id: 'broken-cloud', name: 'Broken cloud, 14 June', file: 'teasel-broken-cloud' },
      { id: 'clean-day', name: 'Clean day, 21 June', file: 'teasel-clean-day' },
    ],
  },
];

/** A bigger file is no job of this program; refused before it is read into memory. */
const mostFileBytes = 600_000_000;

const bytesOf = async (file: Blob): Promise<Uint8Array> => new Uint8Array(await file.arrayBuffer());

/** Jobs in and out of this device: files, bundles, backups, the demo. */
@Injectable({ providedIn: 'root' })
export class JobFiles {
  private readonly book = inject(JobBook);
  private readonly work = inject(LogWork);

  /** Job, logs and documents as one bundle, and what the job names and this device has not. */
  private async packed(job: Job, copy?: CopyMark): Promise<{ readonly bytes: Uint8Array; readonly missing: readonly string[] }> {
    const rows = await Promise.all(job.logs.map((entry) => this.book.getLog(job.id, entry.id)));
    const logs = rows.flatMap((row) => (row ? [{ id: row.id, log: row.log }] : []));
    const documents = await Promise.all(job.attachments.map((a) => this.book.getFile(job.id, a.id)));
    const files = documents.flatMap((row) => (row ? [{ id: row.id, bytes: row.bytes }] : []));
    const missing = [
      ...job.logs.filter((entry) => !logs.some((log) => log.id === entry.id)).map((entry) => `the samples of “${entry.name}”`),
      ...job.attachments.filter((a) => !files.some((file) => file.id === a.id)).map((a) => `the contents of “${a.name}”`),
    ];
    return { bytes: await this.work.api.pack(job, logs, files, copy), missing };
  }

  /** A bundle that can be merged with later: which copy it is, and which it comes from, is kept here and goes with it. */
  async handOut(job: Job): Promise<Blob> {
    const parents = (await this.book.copies(job.id)).map((c) => c.id);
    const copy: CopyMark = { id: crypto.randomUUID(), parents, at: new Date().toISOString() };
    const { bytes } = await this.packed(job, copy);
    await this.book.keepCopy(job.id, copy.id, job);
    return new Blob([bytes as BlobPart], { type: 'application/zip' });
  }

  /** Saves job, logs and documents as one file. */
  async save(job: Job): Promise<void> {
    download(await this.handOut(job), `${job.id}.keel.zip`);
  }

  /** Saves the job alone, readable by people. */
  saveDocument(job: Job): void {
    download(new Blob([writeJob({ ...job, logs: [], attachments: [] })], { type: 'application/json' }), `${job.id}.job.json`);
  }

  /** Brings in a file: a job, a bundle or a backup. Nothing on this device is changed when it cannot be read, or when it meets a copy that is here. */
  async bring(file: File): Promise<Brought> {
    if (file.size > mostFileBytes)
      return {
        ok: false,
        problems: [{ code: 'file-too-large', text: `“${file.name}” is larger than 600 MB, so it is not a job file. A log is brought in on Prove.` }],
      };
    try {
      const bytes = await bytesOf(file);
      return (await this.work.api.isBackup(bytes)) ? await this.lookInto(file, file.name) : await this.arrive(bytes, file.name);
    } catch (error) {
      return { ok: false, problems: [{ code: 'storage', text: storageProblem(error) }] };
    }
  }

  /** A bundle that came, from a file or from another device. */
  async arrive(bytes: Uint8Array, from: string): Promise<Brought> {
    const unpacked = await this.work.api.unpack(bytes);
    if (!unpacked.ok) return unpacked;
    const came = unpacked.value;
    const here = (await this.book.all()).filter((row) => row.deletedAt === undefined && sameJob(row.doc, came.job)).sort((a, b) => b.rev - a.rev)[0];
    const mine = here && toJob(here.doc);
    if (!here || !mine?.ok) return { ok: true, ...(await this.beside(came, from)) };
    const known = await this.book.copies(here.id);
    const marks = came.copy ? [came.copy.id, ...came.copy.parents] : [];
    const base = marks.flatMap((id) => known.filter((c) => c.id === id))[0];
    const old = base ? toJob(base.doc) : null;
    return { ok: true, meets: { id: here.id, from, mine: mine.value, came, base: old?.ok ? old.value : null } };
  }

  /** Adds a job that came as one of its own; an id that is taken gets a number. */
  async beside({ job, logs, files, notes, copy }: Unpacked, from: string): Promise<{ id: string; notes: readonly string[] }> {
    const id = await this.book.add(job, `Brought in from ${from}`, logs, files, copy ? { copy: { id: copy.id, doc: job } } : {});
    return { id, notes: id === job.id ? notes : [...notes, `“${job.name}” was already here; it was brought in beside it as a copy.`] };
  }

  /** Puts what came in the place of the job here, as one step that can be undone. */
  async instead(
    { id, came, from }: Meeting,
    doc: Job = came.job,
    label = `Replaced by ${from}`,
    renamed: Readonly<Record<string, Readonly<Record<string, string>>>> = {},
  ): Promise<void> {
    const as = (list: 'logs' | 'attachments', old: string): string => renamed[list]?.[old] ?? old;
    const device = (id: string): string => renamed['devices']?.[id] ?? id;
    const columns = (log: Log): Log => ({ ...log, chargers: Object.fromEntries(Object.entries(log.chargers).map(([id, c]) => [device(id), c])) });
    const logs = came.logs.map((l) => ({ ...l, id: as('logs', l.id), log: columns(l.log) })).filter((l) => doc.logs.some((entry) => entry.id === l.id));
    const files = came.files.map((f) => ({ ...f, id: as('attachments', f.id) })).filter((f) => doc.attachments.some((a) => a.id === f.id));
    await this.book.put(id, label, doc, logs, files, came.copy ? { copy: { id: came.copy.id, doc: came.job } } : {});
  }

  /**
   * A whole book as one file. Jobs that cannot be read go with it as they are; what is missing is told, and then it is not whole. `progress` is told how many
   * jobs are packed; it answers false to stop.
   */
  async backUp(progress: (done: number, all: number) => boolean): Promise<BackedUp | null> {
    const count = await this.book.count();
    // Restored in this order, they come to stand in the order they have here.
    const table = await this.book.rows();
    const rows = table.rows.filter((row) => row.deletedAt === undefined).sort((a, b) => a.rev - b.rev);
    const packed: Record<string, Uint8Array> = {};
    const jobs: { id: string; name: string; updatedAt: number; archivedAt?: number }[] = [];
    const own = await this.book.own();
    const damaged: DamagedRow[] = [...table.damaged, ...own.damaged];
    const lacks: string[] = [];
    for (const [i, row] of rows.entries()) {
      if (!progress(i, rows.length)) return null;
      const job = toJob(row.doc);
      if (!job.ok) {
        damaged.push({ table: 'jobs', key: row.id, name: row.doc.name, why: job.problems.at(-1)?.text ?? '', raw: row });
        continue;
      }
      const { bytes, missing } = await this.packed(job.value);
      packed[row.id] = bytes;
      if (missing.length > 0) lacks.push(`“${job.value.name}”: ${missing.join(', ')} ${missing.length === 1 ? 'is' : 'are'} not on this device.`);
      jobs.push({ id: row.id, name: job.value.name, updatedAt: row.updatedAt, ...(row.archivedAt === undefined ? {} : { archivedAt: row.archivedAt }) });
    }
    const raw = damaged.filter((row) => row.raw !== undefined);
    const { sheets, cards, mappings, surveys } = own;
    const head: BackupHead = {
      format: 'calm-keel/backup',
      version: 1,
      at: new Date().toISOString(),
      jobs,
      sheets,
      cards,
      mappings,
      ...(surveys ? { surveys } : {}),
      ...(raw.length > 0
        ? { raw: raw.map(({ table, key, name }) => ({ table: table as RawTable, key: String(key).slice(0, 200), name: name.slice(0, 200) })) }
        : {}),
    };
    const bytes = await this.work.api.packBackup(
      head,
      packed,
      raw.map((row) => JSON.stringify(row.raw)),
    );
    return {
      blob: new Blob([bytes as BlobPart], { type: 'application/zip' }),
      count,
      lacks: [
        ...damaged.map((row) =>
          row.raw === undefined
            ? `“${row.name}” cannot be read at all on this device, and is not in it.`
            : `“${row.name}” cannot be read on this device (${row.why}) It is in the backup as it is.`,
        ),
        ...lacks,
      ],
    };
  }

  private async lookInto(file: Blob, name: string): Promise<Brought> {
    const here = (await this.book.all()).filter((row) => row.deletedAt === undefined).map(({ doc, updatedAt }) => ({ doc, updatedAt }));
    const looked = await this.work.api.lookIntoBackup(await bytesOf(file), here);
    if (!looked.ok) return looked;
    const { head, lines, unread } = looked.value;
    return { ok: true, backup: { file, name, head, lines, unread } };
  }

  /** Restores from a backup what was chosen; jobs that are here already are kept beside, replaced or left. Returns what happened, in words. */
  async restore(
    backup: OpenBackup,
    choices: Readonly<Record<string, RestoreChoice>>,
    progress: (done: number, all: number) => boolean,
  ): Promise<readonly string[]> {
    const bytes = await bytesOf(backup.file);
    const notes: string[] = [...backup.unread];
    let done = 0;
    const wanted = backup.lines.filter((line) => line.state !== 'same' && choices[line.id] !== 'skip');
    for (const line of wanted) {
      if (!progress(done, wanted.length)) return [...notes, `Stopped after ${done} of ${wanted.length}.`];
      const taken = await this.work.api.takeFromBackup(bytes, line.id);
      if (!taken.ok) {
        notes.push(...taken.problems.map((p) => p.text));
        continue;
      }
      const { job, logs, files, notes: told } = taken.value;
      const head = backup.head.jobs.find((j) => j.id === line.id);
      const stamp = head ? { updatedAt: head.updatedAt, ...(head.archivedAt === undefined ? {} : { archivedAt: head.archivedAt }) } : undefined;
      const arrival = stamp ? { stamp } : {};
      if (line.state === 'differs' && choices[line.id] === 'replace') await this.book.put(line.id, `Restored from ${backup.name}`, job, logs, files, arrival);
      else await this.book.add(job, `Restored from ${backup.name}`, logs, files, arrival);
      notes.push(...told);
      done++;
    }
    await this.book.putOwn(backup.head);
    notes.push(...(await this.takeRaw(bytes, backup.head)));
    return [`${done === 1 ? 'One job was' : `${done} jobs were`} restored.`, ...notes];
  }

  /** What could not be read where the backup was made is put away here as it is, to be saved or looked into. */
  private async takeRaw(bytes: Uint8Array, head: BackupHead): Promise<readonly string[]> {
    if (!head.raw?.length) return [];
    const texts = await this.work.api.rawOfBackup(bytes, head);
    const notes: string[] = [];
    for (const [n, { table, key, name }] of head.raw.entries()) {
      const text = texts[n];
      if (text == null) notes.push(`“${name}” could not be read where the backup was made, and its bytes are not in the file.`);
      else {
        await this.book.addAside({ table, key, name, why: 'it could not be read where the backup was made.', raw: JSON.parse(text) as unknown });
        notes.push(`“${name}” could not be read where the backup was made. It is put away below, as it is.`);
      }
    }
    return notes;
  }

  /** Opens the demo: adds its jobs, with logs. Returns the id of the main one. */
  async openDemo(): Promise<Brought> {
    let id = '';
    for (const entry of demo) {
      const job = readJob(await (await fetch(`demo/${entry.job}.job.json`)).text());
      if (!job.ok) return job;
      const logs: { id: string; log: Log; report: LogReport }[] = [];
      const entries: Job['logs'] = [];
      for (const log of entry.logs) {
        const read = await this.work.api.readCsv(await (await fetch(`demo/logs/${log.file}.csv`)).blob(), logContextOf(deriveSettings(job.value)));
        if (!read.ok) return read;
        logs.push({ id: log.id, ...read.value });
        entries.push({
          id: log.id,
          name: log.name,
          instrument: job.value.system.instruments.find((i) => i.id === 'monitor')?.id ?? job.value.system.provingInstrument,
          from: read.value.log.time[0] ?? 0,
          to: read.value.log.time.at(-1) ?? 0,
          rows: read.value.report.rows,
        });
      }
      id = await this.book.add({ ...job.value, logs: entries }, 'Demo', logs);
    }
    return { ok: true, id, notes: [] };
  }
}

/** Hands bytes to the person as a file. */
export function download(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => {
    URL.revokeObjectURL(url);
  }, 10_000);
}
