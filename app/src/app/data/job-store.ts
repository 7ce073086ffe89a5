import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { format } from 'date-fns';
import { catchError, of, startWith, switchMap, type Subscription } from 'rxjs';
import {
  applyChanges,
  deriveSettings,
  findFindings,
  jobSchema,
  openStops,
  problemsOf,
  coverage,
  standingOfAll,
  type Covered,
  stopsThatStay,
  toJob,
  type Change,
  type Finding,
  type Job,
  type Override,
  type Plan,
  type Problem,
  type SettingsInput,
} from '@calm-keel/core';
import { storageProblem, type JobRow, type VerdictRow } from './database';
import { JobBook, type Command } from './job-book';

interface Pending {
  readonly label: string;
  readonly command: Command;
  readonly mergeKey: string;
}

/** The day on this device, year-month-day. */
export const today = (): string => format(new Date(), 'yyyy-MM-dd');

/** The first of a list and those behind it that are one step with it. */
function together(list: readonly Pending[]): readonly Pending[] {
  const key = list[0]?.mergeKey ?? '';
  const other = list.findIndex((p, i) => i > 0 && (key === '' || p.mergeKey !== key));
  return other === -1 ? list : list.slice(0, other);
}

/** A document with every part that is as before taken from the one before: whoever looks at a part sees that nothing changed. */
function sharing(before: Job | undefined, after: Job): Job {
  if (before?.id !== after.id) return after;
  const keys = Object.keys(after) as (keyof Job)[];
  return Object.fromEntries(keys.map((key) => [key, JSON.stringify(before[key]) === JSON.stringify(after[key]) ? before[key] : after[key]])) as Job;
}

/** Where the work is kept right now. */
export type SaveState = { readonly kind: 'saved'; readonly at: number } | { readonly kind: 'saving' } | { readonly kind: 'failed'; readonly why: string };

/**
 * The job in view. Edits go through `edit` as small named commands; the page shows them at once, they are written in order, and what
 * another tab writes arrives the same way. Settings and findings follow by themselves.
 */
@Injectable({ providedIn: 'root' })
export class JobStore {
  private readonly book = inject(JobBook);
  private readonly row = signal<JobRow | null>(null);
  private readonly pending = signal<readonly Pending[]>([]);
  private subscription: Subscription | null = null;
  private writing = false;
  /** What the database told while something was being written: it may hold that already, so it waits until the command is off the list. */
  private told: { readonly row: JobRow | undefined } | null = null;
  private written: Promise<void> = Promise.resolve();

  /** `loading` until the device has answered, `missing` when it has no such job. */
  readonly state = signal<'loading' | 'ready' | 'missing' | 'broken'>('loading');
  /** Why a stored job could not be opened. */
  readonly problems = signal<readonly Problem[]>([]);
  readonly save = signal<SaveState>({ kind: 'saved', at: 0 });
  readonly undoLabel = signal<string | null>(null);
  readonly redoLabel = signal<string | null>(null);

  /** The document with edits not yet written. */
  readonly job = computed<Job | null>(() => {
    const row = this.row();
    return row && this.pending().reduce<Job>((job, p) => p.command(job), row.doc);
  });
  /** A value that somebody is trying: it moves plan and findings on this page, and is not kept. */
  readonly trial = signal<Override | null>(null);
  /** What settings follow from: unchanged while only notes, visits or readings change, so that they are not worked out anew at every key. */
  private readonly input = computed<SettingsInput | null>(
    () => {
      const job = this.job();
      if (!job) return null;
      const { sheet, otherSheets, system, cards, schools, overrides, tolerance, coverage } = job;
      return { sheet, otherSheets, system, cards, schools, overrides, tolerance, coverage };
    },
    { equal: (a, b) => a === b || (a !== null && b !== null && (Object.keys(a) as (keyof SettingsInput)[]).every((key) => a[key] === b[key])) },
  );
  /** The plan without what is being tried. */
  readonly settled = computed<Plan | null>(() => {
    const input = this.input();
    return input && deriveSettings(input);
  });
  readonly plan = computed<Plan | null>(() => {
    const input = this.input();
    const trial = this.trial();
    if (!input || !trial) return this.settled();
    return deriveSettings({ ...input, overrides: [...input.overrides.filter((o) => o.charger !== trial.charger || o.role !== trial.role), trial] });
  });
  readonly findings = computed<readonly Finding[]>(() => {
    const plan = this.plan();
    return plan ? findFindings(plan, today()) : [];
  });

  /** Stops that stand: neither resolved nor answered for. */
  readonly openStops = computed(() => openStops(this.findings(), this.job()?.accepted ?? []));

  /** Those that keying-in itself will not mend: they stand in its way. */
  readonly stopsThatStay = computed(() => {
    const job = this.job();
    const plan = this.settled();
    return job && plan ? stopsThatStay(job, plan, this.findings(), today()) : [];
  });

  private readonly id = computed(() => this.row()?.id);
  /** What its logs came to when they were last judged; null until the device has answered. */
  readonly kept = toSignal<readonly VerdictRow[] | null>(
    toObservable(this.id).pipe(
      switchMap((id) =>
        id === undefined
          ? of(null)
          : this.book.verdicts(id).pipe(
              catchError(() => of(null)),
              startWith(null),
            ),
      ),
    ),
    { initialValue: null },
  );
  /** How many requirements are proved, fail or stand open by all logs; null until every log has been judged on the job as it is. */
  readonly standing = computed(() => {
    const job = this.job();
    const plan = this.settled();
    return job && plan ? standingOfAll(job, plan, this.kept() ?? []) : null;
  });
  /** Every requirement with everything that speaks to it. */
  readonly covered = computed<readonly Covered[]>(() => {
    const job = this.job();
    const plan = this.settled();
    return job && plan ? coverage(job, plan, this.kept() ?? []) : [];
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.subscription?.unsubscribe());
  }

  /** Shows a job. Opening the one already shown does nothing. */
  open(id: string): void {
    if (this.row()?.id === id && this.subscription) return;
    this.subscription?.unsubscribe();
    this.row.set(null);
    this.pending.set([]);
    this.told = null;
    this.trial.set(null);
    this.state.set('loading');
    this.subscription = this.book.watch(id).subscribe({
      next: ({ row, undo, redo }) => {
        this.undoLabel.set(undo);
        this.redoLabel.set(redo);
        if (this.writing) this.told = { row };
        else this.take(row);
      },
      error: (error: unknown) => {
        this.state.set('broken');
        this.problems.set([{ code: 'storage', text: storageProblem(error) }]);
      },
    });
  }

  private take(row: JobRow | undefined): void {
    if (!row || row.deletedAt !== undefined) {
      this.row.set(null);
      this.state.set('missing');
      return;
    }
    // An answer older than what this page has written itself.
    const shown = this.row();
    if (shown?.id === row.id && row.updatedAt < shown.updatedAt) return;
    const job = toJob(row.doc);
    if (!job.ok) {
      this.problems.set(job.problems);
      this.state.set('broken');
      return;
    }
    if ((row.doc as { version: number }).version !== job.value.version) void this.book.replace(row.id, job.value);
    this.row.set({ ...row, doc: sharing(this.row()?.doc, job.value) });
    this.state.set('ready');
    if (this.save().kind === 'saved') this.save.set({ kind: 'saved', at: row.updatedAt });
  }

  /**
   * Changes the job. Nothing happens when the result would not be a valid job; then the reasons come back.
   *
   * @param label what undo will say: "Change absorb target"
   * @param mergeKey edits with the same key in quick succession are one step
   */
  edit(label: string, command: Command, mergeKey = ''): readonly Problem[] {
    const job = this.job();
    if (!job) return [];
    const next = jobSchema.safeParse(command(job));
    if (!next.success) return problemsOf(next.error, 'job');
    this.pending.update((list) => [...list, { label, command, mergeKey }]);
    void this.flush();
    return [];
  }

  /** Applies a remedy. A school it chooses is kept with who chose it and why. */
  apply(label: string, changes: readonly Change[]): void {
    const date = today();
    const signed = changes.map((c) => (c.kind === 'setSchool' && !c.chosen ? { ...c, chosen: { by: 'technician', reason: label, date } } : c));
    this.edit(label, (job) => applyChanges(job, signed));
  }

  /** Tries a value; `null` lets go. Coming back to what stands without it lets go too. */
  try(value: Pick<Override, 'charger' | 'role' | 'value'> | null): void {
    const settled = value && this.settled()?.setting(value.charger, value.role);
    if (!value || (settled?.trueValue != null && Math.abs(settled.trueValue - value.value) < 1e-9)) {
      this.trial.set(null);
      return;
    }
    this.trial.set({ ...value, reason: 'being tried', by: 'technician', date: today() });
  }

  /** Answers for a stop: it no longer stands in the way while it says the same. */
  accept(finding: Finding, reason: string, by: string): readonly Problem[] {
    const { code, text } = finding;
    return this.edit('Accept a stop', (job) => ({
      ...job,
      accepted: [...job.accepted.filter((a) => a.code !== code || a.text !== text), { code, text, reason, by, date: today() }],
    }));
  }

  /** Writes what is waiting, and is done when that is; after a failure it stays on the page and this tries again. */
  flush(): Promise<void> {
    // Whoever asks while it is being written waits for that: an undo pressed at once must not be lost.
    if (!this.writing) this.written = this.write();
    return this.written;
  }

  private async write(): Promise<void> {
    this.writing = true;
    try {
      for (let next = this.pending()[0]; next; next = this.pending()[0]) {
        const id = this.row()?.id;
        if (id === undefined) break;
        this.save.set({ kind: 'saving' });
        // What was typed meanwhile goes in one write: a quick hand is not waited for.
        const batch = together(this.pending());
        const row = await this.book.edit(id, next.label, (job) => batch.reduce<Job>((j, p) => p.command(j), job), next.mergeKey);
        this.row.set({ ...row, doc: sharing(this.row()?.doc, row.doc) });
        this.pending.update((list) => list.slice(batch.length));
        this.save.set({ kind: 'saved', at: row.updatedAt });
      }
    } catch (error) {
      this.save.set({ kind: 'failed', why: storageProblem(error) });
    } finally {
      this.writing = false;
      const { told } = this;
      this.told = null;
      if (told) this.take(told.row);
    }
  }

  /** One step back; does nothing while something is still unsaved. */
  undo(): Promise<string | null> {
    return this.step(-1);
  }

  redo(): Promise<string | null> {
    return this.step(1);
  }

  private async step(direction: -1 | 1): Promise<string | null> {
    const id = this.row()?.id;
    if (id === undefined) return null;
    await this.flush();
    if (this.pending().length > 0) return null;
    try {
      return await this.book.step(id, direction);
    } catch (error) {
      this.save.set({ kind: 'failed', why: storageProblem(error) });
      return null;
    }
  }
}
