import { computed, inject, Injectable, signal } from '@angular/core';
import { withNewcomers, type LogEntry, type Newcomer } from '@calm-keel/core/job';
import { byMake, logContextOf, mappingFor, type LogContext, type Make, type Mapping } from '@calm-keel/core/proof';
import type { Problem } from '@calm-keel/core/quantity';
import type { FoundTable } from '../workers/log.worker';
import { storageProblem } from './database';
import { freeId } from './free-id';
import { JobBook } from './job-book';
import { JobStore } from './job-store';
import { LogWork } from './log-work';

/** Tables of one make that wait to be read, with what is thought of them. */
export interface Waiting extends Make<FoundTable> {
  /** The mapping came from an earlier file of the same make. */
  readonly remembered: boolean;
}

/** The same with the mapping that somebody has looked at. */
export interface Settled {
  readonly waiting: Waiting;
  readonly mapping: Mapping;
}

/** What a look at files came to: their tables by make, and what was left out of them, in sentences. */
export interface Look {
  readonly waiting: readonly Waiting[];
  readonly leftOut: readonly string[];
}

/** Files that are looked at in one go: a day each for a year, and a month to spare. */
const mostFiles = 400;

/** Brings logs in: opens files, asks what their columns mean where that is not plain, and reads them as one log. */
@Injectable({ providedIn: 'root' })
export class LogImport {
  private readonly store = inject(JobStore);
  private readonly book = inject(JobBook);
  private readonly work = inject(LogWork);

  readonly problems = signal<readonly Problem[]>([]);
  readonly progress = signal<{ readonly rows: number; readonly share: number } | null>(null);
  private readonly held = signal<(Look & { readonly job: string }) | null>(null);
  /** Only what was brought into the job in view: another’s chargers are not its. */
  private readonly ofThisJob = computed(() => {
    const held = this.held();
    return held !== null && held.job === this.store.job()?.id ? held : null;
  });
  /** Makes of tables that wait for somebody to say what their columns mean. */
  readonly waiting = computed(() => this.ofThisJob()?.waiting ?? []);
  /** What was left out of the files that wait, in sentences. */
  readonly leftOut = computed(() => this.ofThisJob()?.leftOut ?? []);

  /**
   * Looks at files: what is plain is read at once, anything else waits. Of several, one that cannot be opened stops all: nothing is half taken.
   *
   * @returns the log that was read; null where none was: it waits, or there are problems
   */
  async bring(files: readonly File[]): Promise<string | null> {
    const plan = this.store.settled();
    const job = this.store.job()?.id;
    if (files.length === 0 || !plan || job === undefined || this.progress()) return null;
    this.leave();
    const look = await this.look(files, logContextOf(plan));
    if (!look) return null;
    this.hold(job, look);
    const plain = look.waiting.every((w) => w.guess.doubts.length === 0 && w.guess.newcomers.length === 0 && !w.remembered);
    if (!plain) return null;
    const id = await this.read(look.waiting.map((w) => ({ waiting: w, mapping: w.guess.mapping })));
    this.held.set(null);
    return id;
  }

  /** Lets what was looked at wait in a job. */
  hold(job: string, look: Look): void {
    this.held.set({ job, ...look });
  }

  /**
   * Opens files and guesses what their columns mean. Nothing is read or changed by it.
   *
   * @returns null where one of them cannot be opened or is no log: `problems` says which and why
   */
  async look(files: readonly File[], context: LogContext): Promise<Look | null> {
    this.problems.set([]);
    if (files.length > mostFiles) {
      this.problems.set([
        { code: 'too-many-files', text: `These are ${files.length} files; ${mostFiles} are read in one go. Bring them in by the year, or as one zip.` },
      ]);
      return null;
    }
    this.progress.set({ rows: 0, share: 0 });
    try {
      const tables: FoundTable[] = [];
      const leftOut: string[] = [];
      for (const file of files) {
        const looked = await this.work.api.look(file, file.name, context);
        if (!looked.ok) {
          this.problems.set(looked.problems.map((p) => ({ ...p, text: files.length > 1 ? `${file.name}: ${p.text}` : p.text })));
          return null;
        }
        tables.push(...looked.value.tables);
        leftOut.push(...looked.value.leftOut);
      }
      const makes = byMake(tables);
      const waiting: Waiting[] = [];
      for (const make of makes) {
        // What was said of a file of this make elsewhere was said of other chargers.
        const kept = make.guess.newcomers.length > 0 ? undefined : await this.book.getMapping(make.guess.fingerprint);
        const alone = makes.filter((m) => m.guess.fingerprint === make.guess.fingerprint).length === 1;
        waiting.push(
          kept
            ? { ...make, guess: { ...make.guess, mapping: alone ? kept : ofItsOwn(kept, make.guess.mapping), doubts: [] }, remembered: true }
            : { ...make, remembered: false },
        );
      }
      return { waiting, leftOut };
    } catch (error) {
      this.problems.set([{ code: 'storage', text: storageProblem(error) }]);
      return null;
    } finally {
      this.progress.set(null);
    }
  }

  /**
   * Reads by mappings that somebody has looked at, and remembers them. Gives the log that was read, or null.
   *
   * @param newcomers chargers of the file that the job gets with it
   */
  async readSettled(settled: readonly Settled[], newcomers: readonly Newcomer[] = []): Promise<string | null> {
    const id = await this.read(settled, newcomers);
    if (id === null) return null;
    this.held.set(null);
    for (const { waiting, mapping } of settled) await this.book.putMapping(waiting.guess.fingerprint, mapping).catch(() => undefined);
    return id;
  }

  /** Leaves the files that wait, and what was said of them. */
  leave(): void {
    this.held.set(null);
    this.problems.set([]);
  }

  cancel(): void {
    void this.work.api.cancel();
  }

  /** Reads tables in the worker; the job is only changed once all of them have been read and kept. */
  private async read(settled: readonly Settled[], newcomers: readonly Newcomer[] = []): Promise<string | null> {
    const job = this.store.job();
    const files = settled.flatMap(({ waiting, mapping }) => waiting.tables.map((t) => ({ name: t.name, file: t.content, mapping: mappingFor(t, mapping) })));
    const [first] = files;
    if (!first || !job) return null;
    this.problems.set([]);
    this.progress.set({ rows: 0, share: 0 });
    try {
      const read = await this.work.api.read(
        files.map(({ file, mapping }) => ({ file, mapping })),
        this.leftOut(),
        this.work.proxy((rows: number, share: number) => {
          this.progress.set({ rows, share });
        }),
      );
      if (!read.ok) {
        this.problems.set(read.problems);
        return null;
      }
      const { log, report } = read.value;
      const name = files.length > 1 ? `${first.name} and ${files.length - 1} more` : first.name;
      const id = freeId(first.name, await this.book.contentIds(job.id), 'log');
      await this.book.putLog({ jobId: job.id, id, log, report });
      const instrument = job.system.instruments.find((i) => i.id === 'monitor')?.id ?? job.system.provingInstrument;
      const entry: LogEntry = { id, name: name.slice(0, 120), instrument, from: log.time[0] ?? 0, to: log.time.at(-1) ?? 0, rows: report.rows };
      const volts = settled.map(({ waiting }) => waiting.guess.typicalVolts).find((v) => v !== null) ?? null;
      this.store.edit(`Bring in ${entry.name}`, (j) => {
        const known = withNewcomers(j, newcomers, volts);
        return { ...known, logs: [...known.logs, entry] };
      });
      return id;
    } catch (error) {
      this.problems.set([{ code: 'storage', text: storageProblem(error) }]);
      return null;
    } finally {
      this.progress.set(null);
    }
  }
}

/** A remembered mapping where several chargers write the same columns: each table stays with the charger that its own name says. */
const ofItsOwn = (kept: Mapping, guessed: Mapping): Mapping => ({
  ...kept,
  columns: kept.columns.map((c, i) => {
    const charger = guessed.columns[i]?.charger;
    return c.charger === undefined || charger === undefined ? c : { ...c, charger };
  }),
});
