import { inject, Injectable } from '@angular/core';
import { deriveSettings, logContextOf, readJob, writeJob, type Job, type Log, type LogReport, type Problem } from '@calm-keel/core';
import { storageProblem } from './database';
import { JobBook } from './job-book';
import { LogWork } from './log-work';

/** What bringing something in came to. */
export type Brought =
  { readonly ok: true; readonly id: string; readonly notes: readonly string[] } | { readonly ok: false; readonly problems: readonly Problem[] };

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

/** Jobs in and out of this device: files, bundles, the demo. */
@Injectable({ providedIn: 'root' })
export class JobFiles {
  private readonly book = inject(JobBook);
  private readonly work = inject(LogWork);

  /** Saves job, logs and documents as one file. */
  async save(job: Job): Promise<void> {
    const rows = await Promise.all(job.logs.map((entry) => this.book.getLog(job.id, entry.id)));
    const logs = rows.flatMap((row) => (row ? [{ id: row.id, log: row.log }] : []));
    const documents = await Promise.all(job.attachments.map((a) => this.book.getFile(job.id, a.id)));
    const bytes = await this.work.api.pack(
      job,
      logs,
      documents.flatMap((row) => (row ? [{ id: row.id, bytes: row.bytes }] : [])),
    );
    download(new Blob([bytes as BlobPart], { type: 'application/zip' }), `${job.id}.keel.zip`);
  }

  /** Saves the job alone, readable by people. */
  saveDocument(job: Job): void {
    download(new Blob([writeJob({ ...job, logs: [], attachments: [] })], { type: 'application/json' }), `${job.id}.job.json`);
  }

  /** Brings in a job file. Nothing on this device is changed when it cannot be read; a job already here is kept and the new one named as a copy. */
  async bring(file: File): Promise<Brought> {
    if (file.size > mostFileBytes)
      return {
        ok: false,
        problems: [{ code: 'file-too-large', text: `“${file.name}” is larger than 600 MB, so it is not a job file. A log is brought in on Prove.` }],
      };
    try {
      const unpacked = await this.work.api.unpack(new Uint8Array(await file.arrayBuffer()));
      if (!unpacked.ok) return unpacked;
      const { job, logs, files, notes } = unpacked.value;
      const id = await this.book.add(job, `Brought in from ${file.name}`, logs, files);
      return { ok: true, id, notes: id === job.id ? notes : [...notes, `“${job.name}” was already here; it was brought in beside it as a copy.`] };
    } catch (error) {
      return { ok: false, problems: [{ code: 'storage', text: storageProblem(error) }] };
    }
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
