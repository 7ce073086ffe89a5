import { inject, Injectable, InjectionToken } from '@angular/core';
import { liveQuery } from 'dexie';
import { from, map, type Observable } from 'rxjs';
import { cardSchema, jobSchema, mappingSchema, newJob, sheetSchema, type BackupHead, type Job, type Mapping } from '@calm-keel/core';
import { freeId } from './free-id';
import { Database, type CopyRow, type FileRow, type HistoryRow, type JobRow, type LogRow, type VerdictRow } from './database';

/** The database in use; specs give their own. */
export const DATABASE = new InjectionToken<Database>('database', { providedIn: 'root', factory: () => new Database() });

/** A small named change of a job document. */
export type Command = (job: Job) => Job;

/** What is known of a job that comes in: when it was touched where it was kept, and which copy it is. Kept with it in one go, or not at all. */
export interface Arrival {
  readonly stamp?: { readonly updatedAt: number; readonly archivedAt?: number };
  readonly copy?: { readonly id: string; readonly doc: Job };
}

const keptSteps = 80;
const keptCopies = 12;
const mergeWithinMs = 2000;
const binMs = 30 * 24 * 3600 * 1000;

/** All jobs of this device: listing, adding, deleting and the history of each. Every write is one transaction. */
@Injectable({ providedIn: 'root' })
export class JobBook {
  private readonly db = inject(DATABASE);

  /** Jobs not deleted, the last touched first. Emits on changes of any tab. */
  readonly jobs$: Observable<readonly JobRow[]> = from(liveQuery(() => this.db.jobs.orderBy('updatedAt').reverse().toArray())).pipe(
    map((rows) => rows.filter((row) => row.deletedAt === undefined)),
  );

  /** Deleted jobs that can still be brought back. */
  readonly deleted$: Observable<readonly JobRow[]> = from(liveQuery(() => this.db.jobs.toArray())).pipe(
    map((rows) => rows.filter((row) => row.deletedAt !== undefined).sort((a, b) => (b.deletedAt ?? 0) - (a.deletedAt ?? 0))),
  );

  /** What the logs came to when they were last judged; of one job, or of all. */
  verdicts(jobId?: string): Observable<readonly VerdictRow[]> {
    return from(liveQuery(() => (jobId === undefined ? this.db.verdicts.toArray() : this.db.verdicts.where('jobId').equals(jobId).toArray())));
  }

  /** One job with its neighbours in history: what undo and redo would do. */
  watch(id: string): Observable<{ row: JobRow | undefined; undo: string | null; redo: string | null }> {
    return from(
      liveQuery(async () => {
        const row = await this.db.jobs.get(id);
        if (!row) return { row, undo: null, redo: null };
        const [here, before, after] = await Promise.all([row.seq, row.seq - 1, row.seq + 1].map((seq) => this.db.history.get([id, seq])));
        return { row, undo: before && here ? here.label : null, redo: after?.label ?? null };
      }),
    );
  }

  /** Adds a job; an id that is taken gets a number behind it, so that nothing is overwritten. */
  async add(
    job: Job,
    label: string,
    logs: readonly Omit<LogRow, 'jobId'>[] = [],
    files: readonly Omit<FileRow, 'jobId'>[] = [],
    { stamp, copy }: Arrival = {},
  ): Promise<string> {
    return this.db.transaction('rw', [this.db.jobs, this.db.history, this.db.logs, this.db.files, this.db.copies], async () => {
      const taken = new Set(await this.db.jobs.toCollection().primaryKeys());
      let id = job.id;
      for (let n = 2; taken.has(id); n++) id = `${job.id.slice(0, 50)}-${n}`;
      const doc = id === job.id ? job : { ...job, id };
      const now = Date.now();
      await this.db.jobs.add({ id, doc, seq: 0, updatedAt: now, ...stamp });
      await this.db.history.put({ jobId: id, seq: 0, label, doc, mergeKey: '', at: now });
      for (const log of logs) await this.db.logs.put({ ...log, jobId: id });
      for (const file of files) await this.db.files.put({ ...file, jobId: id });
      if (copy) await this.keepCopy(id, copy.id, { ...copy.doc, id });
      return id;
    });
  }

  /** A new, empty job. */
  create(name: string): Promise<string> {
    return this.add(newJob(freeId(name, [], 'job'), name, new Date().toISOString()), 'New job');
  }

  /** Puts a job away, or takes it out again. It stays on this device either way. */
  async archive(id: string, away: boolean): Promise<void> {
    await this.db.jobs
      .where('id')
      .equals(id)
      .modify((row: { archivedAt?: number }) => {
        if (away) row.archivedAt = Date.now();
        else delete row.archivedAt;
      });
  }

  /** A job as it is stored now. */
  readonly get = (id: string): Promise<JobRow | undefined> => this.db.jobs.get(id);
  /** Every job, deleted ones too. */
  readonly all = (): Promise<JobRow[]> => this.db.jobs.toArray();

  /** Keeps a copy that was handed out or brought in; of each job the newest twelve. */
  async keepCopy(jobId: string, id: string, doc: Job): Promise<void> {
    await this.db.transaction('rw', this.db.copies, async () => {
      await this.db.copies.put({ id, jobId, doc, at: Date.now() });
      const kept = await this.db.copies.where('jobId').equals(jobId).sortBy('at');
      await this.db.copies.bulkDelete(kept.slice(0, -keptCopies).map((row) => row.id));
    });
  }
  /** Copies of a job, the newest first. */
  async copies(jobId: string): Promise<readonly CopyRow[]> {
    return (await this.db.copies.where('jobId').equals(jobId).sortBy('at')).reverse();
  }

  /**
   * Puts another document in the place of a job, as one step that undo takes back, with the contents that come with it.
   */
  async put(
    id: string,
    label: string,
    doc: Job,
    logs: readonly Omit<LogRow, 'jobId'>[],
    files: readonly Omit<FileRow, 'jobId'>[],
    { stamp, copy }: Arrival = {},
  ): Promise<void> {
    await this.db.transaction('rw', [this.db.jobs, this.db.history, this.db.logs, this.db.files, this.db.copies], async () => {
      for (const log of logs) await this.db.logs.put({ ...log, jobId: id });
      for (const file of files) await this.db.files.put({ ...file, jobId: id });
      const { deletedAt: _gone, ...row } = await this.edit(id, label, () => ({ ...doc, id }), '');
      await this.db.jobs.put({ ...row, ...stamp });
      if (copy) await this.keepCopy(id, copy.id, { ...copy.doc, id });
    });
  }

  /** Marks a job as deleted; it can be brought back for thirty days. */
  async remove(id: string): Promise<void> {
    await this.db.jobs.update(id, { deletedAt: Date.now() });
  }

  /** Brings a deleted job back. */
  async restore(id: string): Promise<void> {
    await this.db.jobs
      .where('id')
      .equals(id)
      .modify((row: { deletedAt?: number }) => {
        delete row.deletedAt;
      });
  }

  /** Throws away jobs deleted more than thirty days ago, with their history and logs. */
  async purge(now = Date.now()): Promise<void> {
    const old = (await this.db.jobs.toArray()).filter((row) => row.deletedAt !== undefined && now - row.deletedAt > binMs).map((row) => row.id);
    await this.db.transaction('rw', [this.db.jobs, this.db.history, this.db.logs, this.db.verdicts, this.db.files, this.db.copies], async () => {
      await this.db.copies.where('jobId').anyOf(old).delete();
      await this.db.files.where('jobId').anyOf(old).delete();
      await this.db.jobs.bulkDelete(old);
      await this.db.verdicts.where('jobId').anyOf(old).delete();
      await this.db.history.where('jobId').anyOf(old).delete();
      await this.db.logs.where('jobId').anyOf(old).delete();
    });
  }

  /**
   * Applies a command to the newest document, whichever tab wrote it, and returns the row as stored.
   * Quick repeats of the same kind of edit become one step of the history.
   */
  async edit(id: string, label: string, command: Command, mergeKey: string): Promise<JobRow> {
    return this.db.transaction('rw', this.db.jobs, this.db.history, async () => {
      const row = await this.db.jobs.get(id);
      if (!row) throw new Error('this job is no longer on this device');
      const doc = jobSchema.parse(command(row.doc));
      const now = Date.now();
      const here = await this.db.history.get([id, row.seq]);
      const merge = mergeKey !== '' && here?.mergeKey === mergeKey && now - here.at < mergeWithinMs;
      const seq = merge ? row.seq : row.seq + 1;
      await this.db.history.where('[jobId+seq]').between([id, seq], [id, Infinity], true, true).delete();
      await this.db.history
        .where('[jobId+seq]')
        .between([id, -Infinity], [id, seq - keptSteps], true, true)
        .delete();
      await this.db.history.put({ jobId: id, seq, label, doc, mergeKey, at: now });
      const next: JobRow = { ...row, doc, seq, updatedAt: now };
      await this.db.jobs.put(next);
      return next;
    });
  }

  /** Moves one step back or forth in the history. Returns the step's label, or null at the end. */
  async step(id: string, direction: -1 | 1): Promise<string | null> {
    return this.db.transaction('rw', this.db.jobs, this.db.history, async () => {
      const row = await this.db.jobs.get(id);
      if (!row) return null;
      const to: HistoryRow | undefined = await this.db.history.get([id, row.seq + direction]);
      if (!to) return null;
      const label = direction === 1 ? to.label : (await this.db.history.get([id, row.seq]))?.label;
      await this.db.jobs.put({ ...row, doc: to.doc, seq: to.seq, updatedAt: Date.now() });
      return label ?? null;
    });
  }

  /** Stores a document as it is, without a new step: after a migration on opening. */
  async replace(id: string, doc: Job): Promise<void> {
    await this.db.jobs.update(id, { doc });
  }

  /** Ids that a job's logs and documents have or had: one taken out can come back by undo, so its id stays taken. */
  async contentIds(jobId: string): Promise<readonly string[]> {
    const keys = await Promise.all([this.db.logs, this.db.files].map((table) => table.where('jobId').equals(jobId).primaryKeys()));
    return keys.flat().map(([, id]) => id);
  }

  /** What this device has of its own beside jobs: sheets, cards, how files are read. */
  async own(): Promise<Pick<BackupHead, 'sheets' | 'cards' | 'mappings'>> {
    const [sheets, cards, mappings] = await Promise.all([this.db.sheets.toArray(), this.db.cards.toArray(), this.db.mappings.toArray()]);
    const sound = mappings.flatMap(({ fingerprint, mapping }) => (mappingSchema.safeParse(mapping).success ? [{ fingerprint, mapping }] : []));
    return {
      sheets: sheets.filter((s) => sheetSchema.safeParse(s).success),
      cards: cards.filter((c) => cardSchema.safeParse(c).success),
      mappings: sound,
    };
  }
  /** Takes what a backup has of that; what is here under the same name stays. */
  async putOwn({ sheets, cards, mappings }: Pick<BackupHead, 'sheets' | 'cards' | 'mappings'>): Promise<void> {
    await this.db.transaction('rw', this.db.sheets, this.db.cards, this.db.mappings, async () => {
      for (const sheet of sheets) if (!(await this.db.sheets.get(sheet.id))) await this.db.sheets.put(sheet);
      for (const card of cards) if (!(await this.db.cards.get(card.id))) await this.db.cards.put(card);
      for (const { fingerprint, mapping } of mappings)
        if (!(await this.db.mappings.get(fingerprint))) await this.db.mappings.put({ fingerprint, mapping, at: Date.now() });
    });
  }

  readonly keepVerdicts = (row: VerdictRow): Promise<unknown> => this.db.verdicts.put(row);
  readonly putFile = (row: FileRow): Promise<unknown> => this.db.files.put(row);
  readonly getFile = (jobId: string, id: string): Promise<FileRow | undefined> => this.db.files.get([jobId, id]);
  readonly putLog = (row: LogRow): Promise<unknown> => this.db.logs.put(row);
  /** How files of one make were read last; anything that no longer fits its schema is as if it were not there. */
  async getMapping(fingerprint: string): Promise<Mapping | null> {
    const read = mappingSchema.safeParse((await this.db.mappings.get(fingerprint))?.mapping);
    return read.success ? read.data : null;
  }
  readonly putMapping = (fingerprint: string, mapping: Mapping): Promise<unknown> => this.db.mappings.put({ fingerprint, mapping, at: Date.now() });
  readonly getLog = (jobId: string, id: string): Promise<LogRow | undefined> => this.db.logs.get([jobId, id]);
}
