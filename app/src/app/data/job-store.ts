import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { format } from 'date-fns';
import { catchError, of, startWith, switchMap, type Subscription } from 'rxjs';
import { findFindings, type Change, type Finding } from '@calm-keel/core/findings';
import {
  accept,
  applyChanges,
  jobSchema,
  openStops,
  problemsOf,
  coverage,
  standingOfAll,
  type Covered,
  stopsThatStay,
  toJob,
  type Job,
} from '@calm-keel/core/job';
import type { Problem } from '@calm-keel/core/quantity';
import { deriveSettings, settingsInputSchema, type Override, type Plan, type SettingsInput } from '@calm-keel/core/settings';
import { changed } from './changed';
import { storageProblem, type JobRow, type VerdictRow } from './database';
import { JobBook, UnreadableStep, type Command, type Watched } from './job-book';
import { Meanwhile } from './meanwhile';
import { UnsavedChanges } from './unsaved';

/** What settings follow from, by name. */
const inputKeys = settingsInputSchema.keyof().options;

interface Pending {
  /** The job it changes. */
  readonly id: string;
  readonly label: string;
  readonly command: Command;
  readonly mergeKey: string;
  /** The count of the stored job it was made on, and the document it made. */
  readonly rev: number;
  readonly after: Job;
}

/** Changes of a job that could not be stored, as this page holds them. */
export interface Unstored {
  readonly id: string;
  readonly label: string;
  readonly doc: Job;
  readonly why: string;
  readonly held: 'browser' | 'page';
}

/** The day on this device, year-month-day. */
export const today = (): string => format(new Date(), 'yyyy-MM-dd');

/** The first of a list and those behind it that are one step with it. */
function together(list: readonly Pending[]): readonly Pending[] {
  const [first] = list;
  const key = first?.mergeKey ?? '';
  const other = list.findIndex((p, i) => i > 0 && (key === '' || p.mergeKey !== key || p.id !== first?.id));
  return other === -1 ? list : list.slice(0, other);
}

/** A document with every part that is as before taken from the one before: whoever looks at a part sees that nothing changed. */
function sharing(before: Job | undefined, after: Job): Job {
  if (before?.id !== after.id) return after;
  const keys = Object.keys(after) as (keyof Job)[];
  return Object.fromEntries(keys.map((key) => [key, JSON.stringify(before[key]) === JSON.stringify(after[key]) ? before[key] : after[key]])) as Job;
}

/** Where the work is right now. What could not be stored is held by the browser beside its database, or only on this page. */
export type SaveState =
  | { readonly kind: 'saved'; readonly at: number }
  | { readonly kind: 'saving' }
  | { readonly kind: 'failed'; readonly why: string; readonly held: 'browser' | 'page' };

/**
 * The job in view. Edits go through `edit` as small named commands; the page shows them at once, they are written in order, and what
 * another tab writes arrives the same way. Settings and findings follow by themselves.
 */
@Injectable({ providedIn: 'root' })
export class JobStore {
  private readonly book = inject(JobBook);
  private readonly unsaved = inject(UnsavedChanges);
  private readonly row = signal<JobRow | null>(null);
  /** Edits of any job that are not stored yet, in order. */
  private readonly pending = signal<readonly Pending[]>([]);
  private subscription: Subscription | null = null;
  private writing = false;
  /** What the database told while something was being written: it may hold that already, so it waits until the command is off the list. */
  private told: Watched | null = null;
  private written: Promise<void> = Promise.resolve();
  private meanwhile = new Meanwhile();
  /** The database has stopped telling of the job in view. */
  private deaf = false;

  /** `loading` until the device has answered, `missing` when it has no such job. */
  readonly state = signal<'loading' | 'ready' | 'missing' | 'broken'>('loading');
  /** Why a stored job could not be opened. */
  readonly problems = signal<readonly Problem[]>([]);
  private readonly saves = signal<ReadonlyMap<string, SaveState>>(new Map());
  readonly save = computed<SaveState>(() => this.saves().get(this.row()?.id ?? '') ?? { kind: 'saved', at: this.row()?.updatedAt ?? 0 });
  /** Jobs with changes that could not be stored, and are held by this page. */
  readonly unstored = computed<readonly Unstored[]>(() =>
    [...this.saves()].flatMap(([id, state]) => {
      const last = this.pending().findLast((p) => p.id === id);
      return state.kind === 'failed' && last ? [{ id, label: last.label, doc: last.after, why: state.why, held: state.held }] : [];
    }),
  );
  readonly undoLabel = signal<string | null>(null);
  readonly redoLabel = signal<string | null>(null);
  /** Something to be told once: what an edit replaced, a step that cannot be gone back to. */
  readonly notice = signal<string | null>(null);

  /** The document with edits not yet written. */
  readonly job = computed<Job | null>(() => {
    const row = this.row();
    return row && this.pending().reduce<Job>((job, p) => (p.id === row.id ? p.command(job) : job), row.doc);
  });
  /** A value that somebody is trying: it moves plan and findings on this page, and is not kept. */
  readonly trial = signal<Override | null>(null);
  /** What settings follow from: unchanged while only notes, visits or readings change, so that they are not worked out anew at every key. */
  private readonly input = computed<SettingsInput | null>(() => this.job(), {
    equal: (a, b) => a === b || (a !== null && b !== null && inputKeys.every((key) => a[key] === b[key])),
  });
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

  /** Open stops: neither resolved nor accepted. */
  readonly openStops = computed<readonly Finding[]>(() => {
    const job = this.job();
    return job ? openStops(this.findings(), job) : [];
  });

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

  /** Has the browser ask before the page goes while something is not stored. */
  readonly askBeforeUnload = (event: Event): void => {
    if (this.unstored().length > 0) event.preventDefault();
  };

  constructor() {
    window.addEventListener('beforeunload', this.askBeforeUnload);
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener('beforeunload', this.askBeforeUnload);
      this.subscription?.unsubscribe();
    });
  }

  /** Shows a job. Opening the one already shown does nothing. */
  open(id: string): void {
    if (this.row()?.id === id && this.subscription) return;
    this.subscription?.unsubscribe();
    this.row.set(null);
    this.told = null;
    this.meanwhile = new Meanwhile();
    this.notice.set(null);
    this.trial.set(null);
    this.state.set('loading');
    this.listen(id);
  }

  /** Looks at the job in view anew, whatever count it had: a storage that was lost counts from the beginning. */
  reopen(id: string): void {
    if (this.row()?.id !== id) return;
    this.row.set(null);
    this.open(id);
  }

  /** Hears what the database tells of a job. */
  private listen(id: string): void {
    this.deaf = false;
    this.subscription = this.book.watch(id).subscribe({
      next: (watched) => {
        if (this.writing) this.told = watched;
        else this.take(watched);
      },
      error: (error: unknown) => {
        // A full disk can end this. What is in view stays, with what was typed; it is heard again when something could be stored.
        if (this.row()?.id === id) {
          this.deaf = true;
          this.notice.set(storageProblem(error));
        } else this.broken([{ code: 'storage', text: storageProblem(error) }]);
      },
    });
  }

  private take({ row, undo, redo, damaged }: Watched): void {
    const shown = this.row();
    // An answer older than what this page has written itself.
    if (row && shown?.id === row.id && row.rev < shown.rev) return;
    this.undoLabel.set(undo);
    this.redoLabel.set(redo);
    if (damaged) {
      this.broken([
        { code: 'job-damaged', text: `What is stored of “${damaged.name}” is damaged: ${damaged.why} Nothing was changed. Jobs tells what can be done.` },
      ]);
      return;
    }
    // Gone while something is not stored: a browser can lose its storage on a full disk. What is on this page stays here.
    if (!row && shown && this.pending().some((p) => p.id === shown.id)) return;
    if (!row || row.deletedAt !== undefined) {
      this.row.set(null);
      this.state.set('missing');
      return;
    }
    const job = toJob(row.doc);
    if (!job.ok) {
      this.broken(job.problems);
      return;
    }
    if ((row.doc as { version: number }).version !== job.value.version)
      this.book.replace(row.id, job.value).catch(() => {
        // Read anew at every opening until there is room to store it.
      });
    if (shown?.id === row.id && row.rev > shown.rev) this.meanwhile.note(shown.doc);
    this.row.set({ ...row, doc: sharing(shown?.doc, job.value) });
    this.state.set('ready');
  }

  private broken(problems: readonly Problem[]): void {
    this.row.set(null);
    this.problems.set(problems);
    this.state.set('broken');
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
    this.pending.update((list) => [...list, { id: job.id, label, command, mergeKey, rev: this.row()?.rev ?? 0, after: next.data }]);
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
    if (!value || (settled?.trueValue != null && typeof value.value === 'number' && Math.abs(settled.trueValue - value.value) < 1e-9)) {
      this.trial.set(null);
      return;
    }
    this.trial.set({ ...value, reason: 'being tried', by: 'technician', date: today() });
  }

  /** Answers for a stop: it no longer stands in the way while it says the same. */
  accept(finding: Finding, reason: string, by: string): readonly Problem[] {
    return this.edit('Accept a stop', (job) => accept(job, finding, { reason, by, date: today() }));
  }

  /** Writes what is waiting, of whichever job, and is done when that is; after a failure it stays and this tries again. */
  flush(): Promise<void> {
    // Whoever asks while it is being written waits for that: an undo pressed at once must not be lost.
    if (!this.writing) this.written = this.write();
    return this.written;
  }

  private async write(): Promise<void> {
    this.writing = true;
    // A job that finds no room does not keep another one waiting.
    const stuck = new Set<string>();
    try {
      for (let next = this.waiting(stuck)[0]; next; next = this.waiting(stuck)[0]) {
        const { id } = next;
        this.setSave(id, { kind: 'saving' });
        // What was typed meanwhile goes in one write: a quick hand is not waited for.
        const batch = together(this.waiting(stuck));
        try {
          await this.writeBatch(id, batch);
        } catch (error) {
          stuck.add(id);
          this.hold(id, storageProblem(error));
        }
      }
    } finally {
      this.writing = false;
      const { told } = this;
      this.told = null;
      if (told) this.take(told);
    }
  }

  private readonly waiting = (stuck: ReadonlySet<string>): readonly Pending[] => this.pending().filter((p) => !stuck.has(p.id));

  private async writeBatch(id: string, batch: readonly Pending[]): Promise<void> {
    const [first] = batch;
    if (!first) return;
    const shown = this.row();
    let theirs: Job | null = null;
    const row = await this.book.edit(
      id,
      first.label,
      (job) => {
        theirs = job;
        return batch.reduce<Job>((j, p) => p.command(j), job);
      },
      first.mergeKey,
    );
    this.pending.update((list) => list.filter((p) => !batch.includes(p)));
    if (!this.pending().some((p) => p.id === id)) {
      this.setSave(id, null);
      this.unsaved.drop({ page: this.unsaved.page, id });
    }
    if (shown?.id !== id || this.row()?.id !== id) return;
    if (this.deaf) this.listen(id);
    // What came in before, and what came between the last answer of the database and this write.
    const replaced = theirs && (this.meanwhile.counts() || row.rev > shown.rev + 1) ? this.meanwhile.replaced(shown.doc, theirs, row.doc) : null;
    if (replaced) this.notice.set(replaced);
    this.row.set({ ...row, doc: sharing(this.row()?.doc, row.doc) });
  }

  private setSave(id: string, state: SaveState | null): void {
    this.saves.update((map) => changed(map, id, state));
  }

  /** Holds what could not be stored where it outlives a reload. */
  private hold(id: string, why: string): void {
    const own = this.pending().filter((p) => p.id === id);
    const [first, last] = [own[0], own.at(-1)];
    const held = first && last && this.unsaved.hold({ id, name: last.after.name, label: last.label, rev: first.rev, at: Date.now(), doc: last.after });
    this.setSave(id, { kind: 'failed', why, held: held ? 'browser' : 'page' });
  }

  /** Gives up what this page could not store of a job: it stands as it is stored. */
  giveUp(id: string): void {
    this.pending.update((list) => list.filter((p) => p.id !== id));
    this.setSave(id, null);
    this.unsaved.drop({ page: this.unsaved.page, id });
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
    if (this.pending().some((p) => p.id === id)) return null;
    try {
      return await this.book.step(id, direction);
    } catch (error) {
      this.notice.set(error instanceof UnreadableStep ? error.message : storageProblem(error));
      return null;
    }
  }
}
