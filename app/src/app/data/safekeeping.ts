import { computed, inject, Injectable, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { liveQuery } from 'dexie';
import { catchError, from, of } from 'rxjs';
import { contentsOf, faultsOf, mend, type BookFault } from './book-check';
import { DATABASE, JobBook } from './job-book';

/** A backup older than this, with work done since, is asked for, ms. */
const remindAfterMs = 7 * 24 * 3600 * 1000;

/** How well this device keeps what is on it: room, persistence, the last backup, and whether the book holds together. */
@Injectable({ providedIn: 'root' })
export class Safekeeping {
  private readonly db = inject(DATABASE);
  private readonly book = inject(JobBook);

  /** Bytes in use and at hand; null where the browser does not say. */
  readonly room = signal<{ readonly used: number; readonly quota: number } | null>(null);
  /** Whether the browser has promised not to clear it away by itself; null where it does not say. */
  readonly persisted = signal<boolean | null>(null);
  readonly faults = signal<readonly BookFault[]>([]);

  private readonly rows = toSignal(this.book.jobs$.pipe(catchError(() => of([]))), { initialValue: [] });
  /** When everything was backed up last; null never; undefined while it is not known. */
  readonly backedUpAt = toSignal(from(liveQuery(async () => (await this.db.meta.get('backedUpAt'))?.value ?? null)).pipe(catchError(() => of(null))), {
    initialValue: undefined,
  });
  /** How far the count of changes had come at the last backup; null where only its time is known, or there was none. */
  private readonly backedUpCount = toSignal(
    from(liveQuery(async () => (await this.db.meta.get('backedUpCount'))?.value ?? null)).pipe(catchError(() => of(null))),
    {
      initialValue: undefined,
    },
  );
  /** Jobs changed since the last backup. */
  readonly since = computed(() => {
    const at = this.backedUpAt();
    const count = this.backedUpCount();
    if (at === undefined || count === undefined) return 0;
    return this.rows().filter((row) => (count === null ? row.updatedAt > (at ?? 0) : row.rev > count)).length;
  });
  /** Whether it is time: work since the last backup, and that a week old; or a week of work and no backup at all. */
  readonly remind = computed(() => {
    const at = this.backedUpAt();
    if (at === undefined || this.since() === 0) return false;
    const first = Math.min(...this.rows().map((row) => row.updatedAt));
    const age = Date.now() - (at ?? first);
    // A backup of the future: the clock was moved, and nobody knows how old it is.
    return age > remindAfterMs || age < 0;
  });

  /** Asks the browser how things stand. */
  async look(): Promise<void> {
    const { storage } = navigator as { storage?: StorageManager };
    try {
      const [estimate, persisted] = await Promise.all([storage?.estimate(), storage?.persisted()]);
      this.room.set(estimate?.quota === undefined ? null : { used: estimate.usage ?? 0, quota: estimate.quota });
      this.persisted.set(persisted ?? null);
    } catch {
      this.room.set(null);
    }
  }

  /** Asks the browser to keep what is here even when room gets short. */
  async persist(): Promise<void> {
    try {
      await (navigator as { storage?: StorageManager }).storage?.persist();
    } catch {
      // A browser that does not know the question keeps things as long as it keeps them.
    }
    await this.look();
  }

  /** Looks through the book. */
  async check(): Promise<void> {
    this.faults.set(faultsOf(await contentsOf(this.db, this.book)));
  }

  /** Mends what was found, and looks again. */
  async mend(fault: BookFault): Promise<void> {
    await mend(this.db, this.book, fault);
    await this.check();
  }

  /**
   * Notes that everything was backed up.
   *
   * @param count how far the count of changes had come when the backup was begun: what was changed while it was packed may not be in it
   */
  async noteBackup(count: number): Promise<void> {
    await this.db.meta.bulkPut([
      { key: 'backedUpAt', value: Date.now() },
      { key: 'backedUpCount', value: count },
    ]);
  }
}
