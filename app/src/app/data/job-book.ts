import { inject, Injectable, InjectionToken } from '@angular/core';
import { liveQuery } from 'dexie';
import { from, map, shareReplay, type Observable } from 'rxjs';
import { jobSchema, newJob, type BackupHead, type Job } from '@calm-keel/core/job';
import { mappingSchema, type Mapping } from '@calm-keel/core/proof';
import { surveySchema } from '@calm-keel/core/survey';
import { freeId } from './free-id';
import {
  Database,
  type AsideRow,
  type CopyRow,
  type DamagedRow,
  type FileRow,
  type HistoryRow,
  type JobRow,
  type LogRow,
  type MetaRow,
  type VerdictRow,
} from './database';
import { asCopyRow, asFileRow, asJobRow, asLogRow, asVerdictRow, damagedRow, readJobRows, soundCards, soundSheets, stepDocument } from './rows';

/** The database in use; specs give their own. */
export const DATABASE = new InjectionToken<Database>('database', { providedIn: 'root', factory: () => new Database() });

/** A small named change of a job document. */
export type Command = (job: Job) => Job;

/** What is known of a job that comes in: when it was touched where it was kept, and which copy it is. Kept with it in one go, or not at all. */
export interface Arrival {
  readonly stamp?: { readonly updatedAt: number; readonly archivedAt?: number };
  readonly copy?: { readonly id: string; readonly doc: Job };
}

/** A job as it is stored, and what undo and redo would do. */
export interface Watched {
  readonly row: JobRow | undefined;
  readonly undo: string | null;
  readonly redo: string | null;
  /** It stands there and cannot be read. */
  readonly damaged?: DamagedRow;
}

const keptSteps = 80;
const keptCopies = 12;
const mergeWithinMs = 2000;

/** A step of the history that stands there and cannot be read. */
export class UnreadableStep extends Error {
  constructor(label: string) {
    super(`The step “${label}” in the history of this job is damaged, so it cannot be gone back to. The job stays as it is.`);
  }
}

/** What a device has of its own beside jobs. */
type Own = Pick<BackupHead, 'sheets' | 'cards' | 'mappings' | 'surveys'>;

/**
 * All jobs of this device: listing, adding, deleting and the history of each. Every write is one transaction and gets the next number of a count that the
 * database keeps; what is newer, and what comes first, follows from that and never from the clock.
 */
@Injectable({ providedIn: 'root' })
export class JobBook {
  private readonly db = inject(DATABASE);

  /** The step this page wrote last: only that may grow, and only while no clock but this page's own says that two seconds have passed. */
  private lastStep: { readonly id: string; readonly rev: number; readonly at: number; readonly mergeKey: string } | null = null;

  private readonly table$ = from(liveQuery(() => this.rows())).pipe(shareReplay({ bufferSize: 1, refCount: true }));

  /** Jobs not deleted, the last changed first. Emits on changes of any tab. */
  readonly jobs$: Observable<readonly JobRow[]> = this.table$.pipe(map(({ rows }) => newestFirst(rows.filter((row) => row.deletedAt === undefined))));

  /** Deleted jobs that can still be brought back. */
  readonly deleted$: Observable<readonly JobRow[]> = this.table$.pipe(map(({ rows }) => newestFirst(rows.filter((row) => row.deletedAt !== undefined))));

  /** Rows of the job table that cannot be listed. */
  readonly damaged$: Observable<readonly DamagedRow[]> = this.table$.pipe(map(({ damaged }) => damaged));

  /** What was put away because it cannot be read. */
  readonly aside$: Observable<readonly AsideRow[]> = from(liveQuery(() => this.db.aside.toArray()));

  /** The job table: what can be listed and what cannot, read row by row where it cannot be read in one go. */
  async rows(): Promise<ReturnType<typeof readJobRows>> {
    try {
      return readJobRows((await this.db.jobs.toArray()).map((raw) => ({ key: raw.id, raw })));
    } catch (error) {
      // A row that the browser itself cannot read takes the others with it; read apart, they come.
      const keys = await this.db.jobs.toCollection().primaryKeys();
      const rows = await Promise.all(keys.map(async (key) => ({ key, raw: await this.db.jobs.get(key).catch(() => undefined) })));
      if (rows.every(({ raw }) => raw === undefined) && keys.length > 0) throw error;
      return readJobRows(rows);
    }
  }

  /** The next number of the count. Within a transaction that has `meta` in it. */
  private async next(atLeast = 0, known?: MetaRow): Promise<number> {
    const stored = (known ?? (await this.db.meta.get('count')))?.value;
    // A count that was lost goes on after the highest number there is.
    const last = typeof stored === 'number' && Number.isSafeInteger(stored) ? stored : Math.max(0, ...(await this.rows()).rows.map((row) => row.rev));
    const value = Math.max(last, atLeast) + 1;
    await this.db.meta.put({ key: 'count', value });
    return value;
  }

  /** How far the count has come. */
  async count(): Promise<number> {
    return (await this.db.meta.get('count'))?.value ?? 0;
  }

  /** What the logs came to when they were last judged; of one job, or of all. */
  verdicts(jobId?: string): Observable<readonly VerdictRow[]> {
    return from(
      liveQuery(async () => {
        const rows: unknown[] = await (jobId === undefined ? this.db.verdicts.toArray() : this.db.verdicts.where('jobId').equals(jobId).toArray());
        return rows.flatMap((row) => asVerdictRow(row) ?? []);
      }),
    );
  }

  /** One job with its neighbours in history: what undo and redo would do; or what is wrong with its row. */
  watch(id: string): Observable<Watched> {
    return from(
      liveQuery(async () => {
        const raw: unknown = await this.db.jobs.get(id);
        const { rows, damaged } = readJobRows(raw === undefined ? [] : [{ key: id, raw }]);
        const row = rows[0];
        if (!row) return { row, undo: null, redo: null, ...(damaged[0] ? { damaged: damaged[0] } : {}) };
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
    return this.db.transaction('rw', [this.db.jobs, this.db.history, this.db.logs, this.db.files, this.db.copies, this.db.meta], async () => {
      const taken = new Set(await this.db.jobs.toCollection().primaryKeys());
      let id = job.id;
      for (let n = 2; taken.has(id); n++) id = `${job.id.slice(0, 50)}-${n}`;
      const doc = id === job.id ? job : { ...job, id };
      const now = Date.now();
      await this.db.jobs.add({ id, doc, seq: 0, rev: await this.next(), updatedAt: now, ...stamp });
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

  /** Changes what stands beside the document of a job. */
  private mark(id: string, change: (row: JobRow) => JobRow): Promise<void> {
    return this.db.transaction('rw', this.db.jobs, this.db.meta, async () => {
      const row = await this.get(id);
      if (row) await this.db.jobs.put({ ...change(row), rev: await this.next(row.rev) });
    });
  }

  /** Puts a job away, or takes it out again. It stays on this device either way. */
  archive(id: string, away: boolean): Promise<void> {
    return this.mark(id, ({ archivedAt: _was, ...row }) => (away ? { ...row, archivedAt: Date.now() } : row));
  }

  /** A job as it is stored now; undefined when it is not here, or cannot be read. */
  readonly get = async (id: string): Promise<JobRow | undefined> => asJobRow(await this.db.jobs.get(id)) ?? undefined;
  /** Whether anything stands under a job’s id, readable or not. While the storage cannot be reached it is taken to be there: nothing is put in its place. */
  async isThere(id: string): Promise<boolean> {
    try {
      return (await this.db.jobs.get(id)) !== undefined;
    } catch {
      return true;
    }
  }
  /** Every job that can be listed, deleted ones too. */
  readonly all = async (): Promise<readonly JobRow[]> => (await this.rows()).rows;

  /**
   * Makes a job readable again: by its own document where only what stands beside it is damaged, or else by the newest step of its history that can be read.
   * False when there is none; then nothing is changed.
   */
  async repair(id: string): Promise<boolean> {
    return this.db.transaction('rw', this.db.jobs, this.db.history, this.db.meta, async () => {
      const raw: unknown = await this.db.jobs.get(id);
      const steps = (await this.db.history.where('jobId').equals(id).sortBy('seq')).reverse();
      const own = stepDocument(raw as HistoryRow | undefined);
      const step = own ? steps[0] : steps.find((s) => stepDocument(s));
      const doc = own ?? stepDocument(step);
      if (!doc) return false;
      const { deletedAt, archivedAt } = (raw ?? {}) as Partial<Record<'deletedAt' | 'archivedAt', unknown>>;
      await this.db.jobs.put({
        id,
        doc: { ...doc, id },
        seq: step?.seq ?? 0,
        rev: await this.next(),
        updatedAt: Date.now(),
        ...(typeof deletedAt === 'number' ? { deletedAt } : {}),
        ...(typeof archivedAt === 'number' ? { archivedAt } : {}),
      });
      return true;
    });
  }

  /** Puts a row that cannot be read out of the way, as it is. */
  async putAside(row: DamagedRow): Promise<void> {
    await this.db.transaction('rw', this.db.table(row.table), this.db.aside, async () => {
      await this.db.aside.add({ ...row, at: Date.now() });
      await this.db.table(row.table).delete(row.key as never);
    });
  }
  /** Keeps something that cannot be read and came from elsewhere. */
  async addAside(row: DamagedRow): Promise<void> {
    await this.db.aside.add({ ...row, at: Date.now() });
  }
  /** Puts it back where it stood, unless something else has taken the place. */
  async putBack(id: number): Promise<boolean> {
    const aside = await this.db.aside.get(id);
    if (aside?.raw === undefined) return false;
    return this.db.transaction('rw', this.db.table(aside.table), this.db.aside, async () => {
      if ((await this.db.table(aside.table).get(aside.key as never)) !== undefined) return false;
      await this.db.table(aside.table).put(aside.raw);
      await this.db.aside.delete(id);
      return true;
    });
  }
  readonly dropAside = (id: number): Promise<void> => this.db.aside.delete(id);

  /** Keeps a copy that was handed out or brought in; of each job the newest twelve. */
  async keepCopy(jobId: string, id: string, doc: Job): Promise<void> {
    await this.db.transaction('rw', this.db.copies, this.db.jobs, this.db.meta, async () => {
      await this.db.copies.put({ id, jobId, doc, at: Date.now(), rev: await this.next() });
      await this.db.copies.bulkDelete((await this.copies(jobId)).slice(keptCopies).map((row) => row.id));
    });
  }
  /** Copies of a job, the newest first. */
  async copies(jobId: string): Promise<readonly CopyRow[]> {
    const rows: unknown[] = await this.db.copies.where('jobId').equals(jobId).toArray();
    return rows.flatMap((row) => asCopyRow(row) ?? []).sort((a, b) => (b.rev ?? 0) - (a.rev ?? 0) || b.at - a.at);
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
    await this.db.transaction('rw', [this.db.jobs, this.db.history, this.db.logs, this.db.files, this.db.copies, this.db.meta], async () => {
      for (const log of logs) await this.db.logs.put({ ...log, jobId: id });
      for (const file of files) await this.db.files.put({ ...file, jobId: id });
      const { deletedAt: _gone, ...row } = await this.edit(id, label, () => ({ ...doc, id }), '');
      await this.db.jobs.put({ ...row, ...stamp });
      if (copy) await this.keepCopy(id, copy.id, { ...copy.doc, id });
    });
  }

  /** Marks a job as deleted; it can be brought back until somebody clears it away. */
  remove(id: string): Promise<void> {
    return this.mark(id, (row) => ({ ...row, deletedAt: Date.now() }));
  }

  /** Brings a deleted job back. */
  restore(id: string): Promise<void> {
    return this.mark(id, ({ deletedAt: _was, ...row }) => row);
  }

  /** Clears a deleted job away for good, with its history, logs and documents; one that is not deleted stays. */
  async clearAway(id: string): Promise<void> {
    await this.db.transaction('rw', [this.db.jobs, this.db.history, this.db.logs, this.db.verdicts, this.db.files, this.db.copies], async () => {
      if ((await this.get(id))?.deletedAt === undefined) return;
      await this.db.jobs.delete(id);
      for (const table of [this.db.history, this.db.logs, this.db.verdicts, this.db.files, this.db.copies]) await table.where('jobId').equals(id).delete();
    });
  }

  /**
   * Applies a command to the newest document, whichever tab wrote it, and returns the row as stored.
   * Quick repeats of the same kind of edit become one step of the history.
   */
  async edit(id: string, label: string, command: Command, mergeKey: string): Promise<JobRow> {
    // A full disk can close the database under the page; once there is room it has to be opened again.
    if (this.db.hasFailed() && !this.db.hasBeenClosed()) await this.db.open();
    const written = await this.db.transaction('rw', this.db.jobs, this.db.history, this.db.meta, async () => {
      const [row, count] = await Promise.all([this.get(id), this.db.meta.get('count')]);
      if (!row) throw new Error('this job is no longer on this device');
      const doc = jobSchema.parse(command(row.doc));
      const { lastStep } = this;
      const merge = mergeKey !== '' && lastStep?.id === id && lastStep.rev === row.rev && this.mayGrow(lastStep, mergeKey);
      const seq = merge ? row.seq : row.seq + 1;
      const now = Date.now();
      const next: JobRow = { ...row, doc, seq, rev: await this.next(row.rev, count), updatedAt: now };
      // All at once: while somebody types, each way to the database and back is time in which a key could be lost.
      await Promise.all([
        this.db.history.put({ jobId: id, seq, label, doc, mergeKey, at: now }),
        this.db.jobs.put(next),
        ...(merge ? [] : [this.clearBeside(id, seq)]),
      ]);
      return next;
    });
    this.lastStep = { id, rev: written.rev, at: performance.now(), mergeKey };
    return written;
  }

  private readonly mayGrow = (step: NonNullable<JobBook['lastStep']>, mergeKey: string): boolean =>
    step.mergeKey === mergeKey && performance.now() - step.at < mergeWithinMs;

  /** Clears what lay ahead of a new step, and what is further back than is kept. */
  private async clearBeside(id: string, seq: number): Promise<void> {
    const steps = this.db.history.where('[jobId+seq]');
    await Promise.all([
      steps.between([id, seq], [id, Infinity], false, true).delete(),
      steps.between([id, -Infinity], [id, seq - keptSteps], true, true).delete(),
    ]);
  }

  /**
   * Moves one step back or forth in the history. Returns the step's label, or null at the end.
   *
   * @throws UnreadableStep when what stands there cannot be read
   */
  async step(id: string, direction: -1 | 1): Promise<string | null> {
    return this.db.transaction('rw', this.db.jobs, this.db.history, this.db.meta, async () => {
      const row = await this.get(id);
      if (!row) return null;
      const to: HistoryRow | undefined = await this.db.history.get([id, row.seq + direction]);
      if (!to) return null;
      const label = direction === 1 ? to.label : (await this.db.history.get([id, row.seq]))?.label;
      const doc = stepDocument(to);
      if (!doc) throw new UnreadableStep(to.label);
      await this.db.jobs.put({ ...row, doc, seq: row.seq + direction, rev: await this.next(row.rev), updatedAt: Date.now() });
      return label ?? null;
    });
  }

  /** Stores a document as it is, without a new step: after a migration on opening. */
  replace(id: string, doc: Job): Promise<void> {
    return this.mark(id, (row) => ({ ...row, doc }));
  }

  /** Ids that a job's logs and documents have or had: one taken out can come back by undo, so its id stays taken. */
  async contentIds(jobId: string): Promise<readonly string[]> {
    const keys = await Promise.all([this.db.logs, this.db.files].map((table) => table.where('jobId').equals(jobId).primaryKeys()));
    return keys.flat().map(([, id]) => id);
  }

  /** What this device has of its own beside jobs: sheets, cards, how files are read, surveys; and what stands there and cannot be read. */
  async own(): Promise<Own & { readonly damaged: readonly DamagedRow[] }> {
    const [sheets, cards, mappings, surveys] = await Promise.all([
      this.db.sheets.toArray(),
      this.db.cards.toArray(),
      this.db.mappings.toArray(),
      this.db.surveys.toArray(),
    ]);
    const goodSurveys = surveys.filter(({ doc }) => surveySchema.safeParse(doc).success);
    const sound = mappings.flatMap(({ fingerprint, mapping }) => (mappingSchema.safeParse(mapping).success ? [{ fingerprint, mapping }] : []));
    const [goodSheets, goodCards] = [soundSheets(sheets), soundCards(cards)];
    return {
      sheets: [...goodSheets],
      cards: [...goodCards],
      mappings: sound,
      ...(goodSurveys.length > 0 ? { surveys: goodSurveys.map(({ doc }) => doc) } : {}),
      damaged: [
        ...surveys.filter((s) => !goodSurveys.includes(s)).map((s) => damagedRow('surveys', s.id, s)),
        ...sheets.filter((s) => !goodSheets.includes(s)).map((s) => damagedRow('sheets', s.id, s)),
        ...cards.filter((c) => !goodCards.includes(c)).map((c) => damagedRow('cards', c.id, c)),
        ...mappings.filter((m) => !sound.some((s) => s.fingerprint === m.fingerprint)).map((m) => damagedRow('mappings', m.fingerprint, m)),
      ],
    };
  }
  /** Takes what a backup has of that; what is here under the same name stays. */
  async putOwn({ sheets, cards, mappings, surveys = [] }: Own): Promise<void> {
    await this.db.transaction('rw', this.db.sheets, this.db.cards, this.db.mappings, this.db.surveys, async () => {
      for (const doc of surveys) if (!(await this.db.surveys.get(doc.id))) await this.db.surveys.put({ id: doc.id, doc, rev: 0, past: [], at: Date.now() });
      for (const sheet of sheets) if (!(await this.db.sheets.get(sheet.id))) await this.db.sheets.put(sheet);
      for (const card of cards) if (!(await this.db.cards.get(card.id))) await this.db.cards.put(card);
      for (const { fingerprint, mapping } of mappings)
        if (!(await this.db.mappings.get(fingerprint))) await this.db.mappings.put({ fingerprint, mapping, at: Date.now() });
    });
  }

  readonly keepVerdicts = (row: VerdictRow): Promise<unknown> => this.db.verdicts.put(row);
  readonly putFile = (row: FileRow): Promise<unknown> => this.db.files.put(row);
  readonly getFile = async (jobId: string, id: string): Promise<FileRow | undefined> => asFileRow(await this.db.files.get([jobId, id])) ?? undefined;
  readonly putLog = (row: LogRow): Promise<unknown> => this.db.logs.put(row);
  /** How files of one make were read last; anything that no longer fits its schema is as if it were not there. */
  async getMapping(fingerprint: string): Promise<Mapping | null> {
    const read = mappingSchema.safeParse((await this.db.mappings.get(fingerprint))?.mapping);
    return read.success ? read.data : null;
  }
  readonly putMapping = (fingerprint: string, mapping: Mapping): Promise<unknown> => this.db.mappings.put({ fingerprint, mapping, at: Date.now() });
  readonly getLog = async (jobId: string, id: string): Promise<LogRow | undefined> => asLogRow(await this.db.logs.get([jobId, id])) ?? undefined;
}

const newestFirst = (rows: readonly JobRow[]): readonly JobRow[] => [...rows].sort((a, b) => b.rev - a.rev || b.updatedAt - a.updatedAt);
