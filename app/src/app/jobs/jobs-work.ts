import { inject, Injectable, Injector, signal } from '@angular/core';
import { Router } from '@angular/router';
import { asTemplate, toJob } from '@calm-keel/core/job';
import type { Problem } from '@calm-keel/core/quantity';
import { storageProblem } from '../data/database';
import { Exchange, ExchangeProblem } from '../data/exchange';
import { freeId } from '../data/free-id';
import { JobBook } from '../data/job-book';
import { download, JobFiles, type Brought, type Meeting, type OpenBackup } from '../data/job-files';
import { Safekeeping } from '../data/safekeeping';
import type { JobLine } from './job-line';

/** What is done to whole jobs, one thing at a time: what is under way, what came of it, and what waits for an answer. */
@Injectable()
export class JobsWork {
  private readonly book = inject(JobBook);
  private readonly files = inject(JobFiles);
  private readonly safe = inject(Safekeeping);
  private readonly exchange = inject(Exchange);
  private readonly injector = inject(Injector);
  private readonly router = inject(Router);
  readonly problems = signal<readonly Problem[]>([]);
  readonly notes = signal<readonly string[]>([]);
  readonly busy = signal<string | null>(null);
  /** What is being named: a new job, or one made like another. */
  readonly naming = signal<{ readonly like: string | null; readonly name: string } | null>(null);
  readonly meeting = signal<Meeting | null>(null);
  readonly backup = signal<OpenBackup | null>(null);
  /** The job that takes a sister site’s choices. */
  readonly sisterId = signal<string | null>(null);

  /** Begins to name a job: a new one, or one like another. */
  name(like: JobLine | null = null): void {
    this.naming.set({ like: like?.id ?? null, name: like ? `${like.name}, again` : '' });
  }

  async create(name: string): Promise<void> {
    const plain = name.trim();
    const naming = this.naming();
    if (plain === '' || !naming) return;
    await this.guarded('Making the job', async () => {
      const id = naming.like === null ? await this.book.create(plain) : await this.like(naming.like, plain);
      this.naming.set(null);
      void this.safe.persist();
      await this.router.navigate(['job', id, naming.like === null ? 'spec' : 'system']);
      return null;
    });
  }

  private async like(id: string, name: string): Promise<string> {
    const row = await this.book.get(id);
    const job = row && toJob(row.doc);
    if (!job?.ok) throw new Error('this job cannot be read');
    return this.book.add(asTemplate(job.value, freeId(name, [], 'job'), name, new Date().toISOString()), `Made like ${job.value.name}`);
  }

  openDemo(): Promise<void> {
    return this.guarded('Opening the demo', () => this.files.openDemo());
  }

  /** Brings in a job, an archive or a backup. */
  async bring(file: File | undefined): Promise<void> {
    if (file) await this.guarded(`Reading ${file.name}`, () => this.files.bring(file));
  }

  /** Makes a job of a log: nothing of it is made before its files were opened and hold a log. */
  async judgeLog(files: readonly File[]): Promise<void> {
    const [first] = files;
    if (!first) return;
    await this.guarded(`Looking at ${files.length > 1 ? `${files.length} files` : first.name}`, async () => {
      const { LogImport } = await import('../data/log-import');
      const logs = this.injector.get(LogImport);
      const look = await logs.look(files, { chargers: [], nominalVolts: null });
      if (!look) return { ok: false, problems: logs.problems() };
      const id = await this.book.create(first.name.replace(/\.\w+$/, '').slice(0, 80) || 'Log');
      logs.hold(id, look);
      void this.safe.persist();
      await this.router.navigate(['job', id, 'prove', 'mapping']);
      return null;
    });
  }

  remove(id: string): Promise<void> {
    return this.quietly('Deleting', () => this.book.remove(id));
  }

  restore(id: string): Promise<void> {
    return this.quietly('Bringing back', () => this.book.restore(id));
  }

  /** Deletes a deleted job for good, with its logs and documents. */
  clearAway(id: string): Promise<void> {
    return this.quietly('Deleting for good', () => this.book.clearAway(id));
  }

  archive(id: string, away: boolean): Promise<void> {
    return this.quietly(away ? 'Putting away' : 'Taking out', () => this.book.archive(id, away));
  }

  save(id: string): Promise<void> {
    return this.quietly('Packing the job', async () => {
      const row = await this.book.get(id);
      const job = row && toJob(row.doc);
      if (job?.ok) await this.files.save(job.value);
    });
  }

  give(id: string): Promise<void> {
    return this.guarded('Handing the job over', async () => {
      const row = await this.book.get(id);
      const job = row && toJob(row.doc);
      if (!job?.ok) return null;
      await this.exchange.give(job.value);
      return { ok: true, id, notes: [`“${job.value.name}” waits for the other device to take it in.`] };
    });
  }

  /** Something came over from the other device. */
  take(brought: Brought): Promise<void> {
    return this.guarded('Taking it in', () => Promise.resolve(brought));
  }

  /** What waited for an answer has it. */
  settled(notes: readonly string[] | null): void {
    this.meeting.set(null);
    this.backup.set(null);
    this.sisterId.set(null);
    this.notes.set(notes ?? []);
  }

  /** Writes what is due into a calendar file. */
  calendar(lines: readonly JobLine[]): Promise<void> {
    return this.quietly('Writing the calendar', async () => {
      const jobs = lines.flatMap((l) => (l.readable && !l.archived && l.due.length > 0 ? [{ id: l.id, name: l.name, due: l.due }] : []));
      const { calendarOf } = await import('../data/calendar');
      download(new Blob([calendarOf(jobs, new Date().toISOString())], { type: 'text/calendar' }), 'calm-keel-due.ics');
    });
  }

  private quietly(what: string, work: () => Promise<void>): Promise<void> {
    return this.guarded(what, async () => {
      await work();
      return null;
    });
  }

  private async guarded(what: string, work: () => Promise<Brought | null>): Promise<void> {
    this.settled([]);
    this.problems.set([]);
    this.busy.set(what);
    try {
      const result = await work();
      if (!result) return;
      if (!result.ok) this.problems.set(result.problems);
      else if ('meets' in result) this.meeting.set(result.meets);
      else if ('backup' in result) this.backup.set(result.backup);
      else {
        this.notes.set(result.notes);
        void this.safe.persist();
      }
    } catch (error) {
      this.problems.set([{ code: 'storage', text: error instanceof ExchangeProblem ? error.message : storageProblem(error) }]);
    } finally {
      this.busy.set(null);
    }
  }
}
