import { computed, inject, Injectable, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { addDays, format } from 'date-fns';
import { catchError, of } from 'rxjs';
import type { KeptVerdicts } from '@calm-keel/core/job';
import { storageProblem, type DamagedRow, type JobRow } from '../data/database';
import { JobBook } from '../data/job-book';
import { today } from '../data/job-store';
import { Library } from '../data/library';
import { jobLine, type JobLine } from './job-line';

export type Filter = 'all' | 'stops' | 'due' | 'archived';

/** Due within so many days counts as due. */
const soonDays = 30;

/** Every job on this device as the list shows it: found, filtered, due, deleted and damaged. */
@Injectable()
export class JobShelf {
  private readonly book = inject(JobBook);
  private readonly library = inject(Library);
  readonly storageFault = signal<string | null>(null);
  readonly rows = toSignal(this.book.jobs$.pipe(catchError((error: unknown) => this.fault(error))), { initialValue: null });
  private readonly kept = toSignal(this.book.verdicts().pipe(catchError(() => of([]))), { initialValue: [] });
  readonly deleted = toSignal(this.book.deleted$.pipe(catchError((error: unknown) => this.fault(error))), { initialValue: [] });
  readonly search = signal('');
  readonly filter = signal<Filter>('all');

  readonly loading = computed(() => this.rows() === null);
  readonly lines = computed(() => {
    const kept = this.kept();
    const sheets = this.library.sheets();
    const before = this.known;
    this.known = new Map();
    return (this.rows() ?? []).map((row) =>
      this.line(
        row,
        kept.filter((v) => v.jobId === row.id),
        sheets,
        before,
      ),
    );
  });
  readonly count = computed(() => this.lines().filter((l) => l.readable).length);
  private readonly damagedRows = toSignal(this.book.damaged$.pipe(catchError(() => of([]))), { initialValue: [] });
  /** What is stored as a job and cannot be read as one. */
  readonly damaged = computed<readonly DamagedRow[]>(() => [
    ...this.damagedRows(),
    ...this.lines().flatMap((l): DamagedRow[] =>
      l.readable ? [] : [{ table: 'jobs', key: l.id, name: l.name, why: l.why, raw: this.rows()?.find((row) => row.id === l.id) }],
    ),
  ]);
  readonly filters = computed(() =>
    (
      [
        ['all', 'All'],
        ['stops', 'With stops'],
        ['due', 'Due soon'],
        ['archived', 'Put away'],
      ] as const
    ).map(([id, words]) => ({ id, words, count: this.lines().filter((l) => l.readable && passes(l, id)).length })),
  );
  readonly jobs = computed<readonly Extract<JobLine, { readable: true }>[]>(() => {
    const wanted = this.search().trim().toLowerCase().split(/\s+/).filter(Boolean);
    return this.lines().filter(
      (l): l is Extract<JobLine, { readable: true }> => l.readable && passes(l, this.filter()) && wanted.every((word) => l.text.includes(word)),
    );
  });
  /** Everything that is due on jobs that are not put away, the soonest first. */
  readonly due = computed(() =>
    this.lines()
      .flatMap((l) => (l.readable && !l.archived ? l.due.map((d) => ({ ...d, id: l.id, name: l.name, late: isLate(d.on) })) : []))
      .sort((a, b) => a.on.localeCompare(b.on)),
  );
  /** Where they are, in words. */
  readonly where = computed(() => (this.count() === 1 ? '1 job on this device' : `${this.count()} jobs on this device`));

  /** The lines last shown, by what they rest on: a job that was not touched is not worked out again. */
  private known = new Map<string, JobLine>();
  private line(row: JobRow, kept: readonly KeptVerdicts[], sheets: Parameters<typeof jobLine>[2], before: ReadonlyMap<string, JobLine>): JobLine {
    const key = [row.id, row.updatedAt, row.seq, row.archivedAt, today(), sheets.length, ...kept.map((k) => `${k.logId} ${k.basis}`)].join('|');
    const line = before.get(key) ?? jobLine(row, kept, sheets);
    this.known.set(key, line);
    return line;
  }

  private fault(error: unknown) {
    this.storageFault.set(storageProblem(error));
    return of<readonly JobRow[]>([]);
  }
}

/** Whether a day is over. */
export const isLate = (on: string): boolean => on < today();

function passes(line: JobLine, filter: Filter): boolean {
  if (filter === 'archived') return line.archived;
  if (line.archived) return false;
  if (filter === 'stops') return line.readable && line.stops > 0;
  if (filter === 'due') return line.readable && line.due.some((d) => d.on <= soon());
  return true;
}

const soon = (): string => format(addDays(new Date(), soonDays), 'yyyy-MM-dd');
