import { inject, Injectable, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { liveQuery } from 'dexie';
import { catchError, from, of } from 'rxjs';
import { parseJson } from '@calm-keel/core/job';
import {
  actionSchema,
  bookSchema,
  claimSchema,
  exerciseSchema,
  practisedSchema,
  type Action,
  type Claim,
  type Exercise,
  type Practised,
} from '@calm-keel/core/practice';
import { storageProblem, type BenchRow } from './database';
import { uniqueId } from './free-id';
import { DATABASE } from './job-book';
import { heldText, holdText } from './small-store';

const initialsKey = 'calm-keel.practice.by';
/** Exercises that were left in the middle: the newest of them stay. */
const mostOpen = 20;

/** The book of practice of this device, and the exercises under way. Nothing of it touches a job. */
@Injectable({ providedIn: 'root' })
export class PracticeBook {
  private readonly db = inject(DATABASE);
  /** Why the last thing could not be stored. */
  readonly problem = signal<string | null>(null);
  /** Every exercise that was judged, the oldest first; what cannot be read is left where it is and not counted. */
  readonly entries = toSignal(
    from(liveQuery(async () => (await this.db.practised.orderBy('at').toArray()).flatMap((row) => practisedSchema.safeParse(row).data ?? []))).pipe(
      catchError(() => of([] as Practised[])),
    ),
    { initialValue: null },
  );
  /** The newest exercise that was begun and not judged. */
  readonly underWay = toSignal(
    from(liveQuery(async () => (await this.db.benches.orderBy('at').reverse().toArray()).find((row) => !row.judged && soundRow(row) !== null) ?? null)).pipe(
      catchError(() => of(null)),
    ),
    { initialValue: null },
  );
  /** Initials of whoever practises here. */
  readonly by = signal(heldText(initialsKey) ?? '');

  setBy(initials: string): void {
    const short = initials.trim().slice(0, 8);
    this.by.set(short);
    holdText(initialsKey, short === '' ? null : short);
  }

  /** Begins an exercise; its id is its address. */
  async begin(exercise: Exercise): Promise<string | null> {
    const id = uniqueId();
    const row: BenchRow = { id, exercise, actions: [], claims: [], judged: false, rev: 0, at: Date.now() };
    return this.stored(async () => {
      await this.db.benches.put(row);
      const old = (await this.db.benches.orderBy('at').reverse().toArray()).slice(mostOpen);
      await this.db.benches.bulkDelete(old.map((o) => o.id));
      return id;
    });
  }

  /** An exercise as it was left; null where there is none of that name, or it cannot be read. */
  async opened(id: string): Promise<BenchRow | null> {
    return (await this.stored(async () => (await this.db.benches.get(id)) ?? null).then((row) => row && soundRow(row))) ?? null;
  }

  /**
   * Writes down how far an exercise has come.
   *
   * @returns the new count, or null where another tab has written since
   */
  async save(id: string, rev: number, state: { actions: readonly Action[]; claims: readonly Claim[]; judged: boolean }): Promise<number | 'overtaken' | null> {
    return this.stored(() =>
      this.db.transaction('rw', this.db.benches, async (): Promise<number | 'overtaken'> => {
        const row = await this.db.benches.get(id);
        if (row?.rev !== rev) return 'overtaken';
        await this.db.benches.put({ ...row, ...state, rev: rev + 1, at: Date.now() });
        return rev + 1;
      }),
    );
  }

  readonly enter = (line: Practised): Promise<unknown> => this.stored(() => this.db.practised.put(line));

  /** The book as a file. */
  file(): Blob {
    return new Blob([JSON.stringify({ format: 'calm-keel/practice', version: 1, entries: this.entries() ?? [] }, null, 2)], { type: 'application/json' });
  }

  /** Brings a book in; lines that are there already stay one. Returns how many came, or what is wrong with the file. */
  async bring(file: File): Promise<{ readonly came: number } | { readonly why: string }> {
    const parsed = parseJson(await file.text(), 'book of practice');
    const read = parsed.ok ? bookSchema.safeParse(parsed.value) : null;
    if (!read?.success)
      return {
        why: `“${file.name}” is no book of practice${read ? `: ${read.error.issues[0]?.path.join('.') ?? ''} ${read.error.issues[0]?.message ?? ''}` : ''}. Choose a file saved from a book of practice.`,
      };
    const before = new Set((this.entries() ?? []).map((e) => e.id));
    const done = await this.stored(() => this.db.practised.bulkPut(read.data.entries));
    return done === null ? { why: this.problem() ?? '' } : { came: read.data.entries.filter((e) => !before.has(e.id)).length };
  }

  private async stored<T>(work: () => Promise<T>): Promise<T | null> {
    try {
      const done = await work();
      this.problem.set(null);
      return done;
    } catch (error) {
      this.problem.set(storageProblem(error));
      return null;
    }
  }
}

/** A row whose exercise, doings and claims can be read; null for any other. */
function soundRow(row: BenchRow): BenchRow | null {
  const exercise = exerciseSchema.safeParse(row.exercise);
  const actions = actionSchema.array().safeParse(row.actions);
  const claims = claimSchema.array().safeParse(row.claims);
  return exercise.success && actions.success && claims.success ? { ...row, exercise: exercise.data, actions: actions.data, claims: claims.data } : null;
}
