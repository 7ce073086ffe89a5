import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { catchError, of } from 'rxjs';
import { storageProblem, type DamagedRow } from '../data/database';
import { JobBook } from '../data/job-book';
import { download } from '../data/job-files';
import { tableWords } from '../data/rows';
import { Glyph } from '../ui/glyph';

/** What is stored and cannot be read: what it is, why, and the ways out. Nothing of it is deleted before somebody says so. */
@Component({
  selector: 'ck-damaged-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (rows().length > 0) {
      <section aria-labelledby="damaged-title">
        <h2 id="damaged-title"><ck-glyph name="stop" [size]="17" />Damaged on this device, {{ rows().length }}</h2>
        <p class="quiet">The other jobs are not affected. A job file or a backup saved earlier can be brought in beside it.</p>
        <ul>
          @for (row of rows(); track row.table + row.key) {
            <li>
              <span class="say"
                ><b>{{ row.name }}</b
                >: {{ row.why }}</span
              >
              <span class="acts">
                @if (row.table === 'jobs') {
                  <button type="button" class="do" (click)="repair(row)">Go back to the last step that can be read</button>
                }
                @if (row.raw !== undefined) {
                  <button type="button" class="do" (click)="save(row)">Save it as it is</button>
                }
                <button type="button" class="do" (click)="aside(row)">Put it away</button>
              </span>
            </li>
          }
        </ul>
      </section>
    }
    @if (shelf() && put().length > 0) {
      <section aria-labelledby="aside-title">
        <h2 id="aside-title">Put away, cannot be read</h2>
        <ul>
          @for (row of put(); track row.id) {
            <li>
              <span class="say"
                >{{ words[row.table] }} <b>{{ row.name }}</b>: {{ row.why }}</span
              >
              <span class="acts">
                @if (row.raw !== undefined) {
                  <button type="button" class="do" (click)="save(row)">Save it as it is</button>
                  <button type="button" class="do" (click)="back(row.id)">Put it back</button>
                }
                @if (asked() === row.id) {
                  <button type="button" class="do" (click)="drop(row.id)">Yes, delete it for good</button>
                  <button type="button" class="do" (click)="asked.set(null)">No, keep it</button>
                } @else {
                  <button type="button" class="do" (click)="asked.set(row.id ?? null)">Delete it for good</button>
                }
              </span>
            </li>
          }
        </ul>
      </section>
    }
    @if (said(); as text) {
      <p class="quiet" role="status">{{ text }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      font-size: 0.875rem;
    }
    section {
      border-top: 1.5px solid var(--ck-ink);
      padding: 8px 0 14px;
    }
    h2 {
      display: flex;
      align-items: center;
      gap: 6px;
      font-size: 0.9375rem;
      font-weight: var(--ck-w-strong);
      margin: 0 0 2px;
    }
    li {
      padding: 6px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
    .say {
      display: block;
      overflow-wrap: anywhere;
    }
    .acts {
      padding-top: 2px;
    }
    @media (max-width: 767px) {
      .do {
        min-height: 44px;
      }
    }
  `,
})
export class DamagedPanel {
  private readonly book = inject(JobBook);
  readonly rows = input.required<readonly DamagedRow[]>();
  /** Whether to show what was put away. */
  readonly shelf = input(false);
  protected readonly put = toSignal(this.book.aside$.pipe(catchError(() => of([]))), { initialValue: [] });
  protected readonly asked = signal<number | null>(null);
  protected readonly said = signal<string | null>(null);
  protected readonly words = tableWords;

  protected repair(row: DamagedRow): Promise<void> {
    return this.guarded(async () =>
      (await this.book.repair(String(row.key)))
        ? `“${row.name}” can be read again. Compare its last changes with what you remember.`
        : 'No step of its history can be read either. Save it as it is, or put it away.',
    );
  }

  /** As JSON, whatever stands in it. */
  protected save(row: Pick<DamagedRow, 'raw' | 'key' | 'table'>): void {
    const name = String(row.key)
      .replace(/[^a-z0-9-]+/gi, '-')
      .slice(0, 60);
    download(new Blob([`${JSON.stringify(row.raw, null, 2)}\n`], { type: 'application/json' }), `${row.table}-${name}-damaged.json`);
  }

  protected aside(row: DamagedRow): Promise<void> {
    return this.guarded(async () => {
      await this.book.putAside(row);
      return null;
    });
  }

  protected back(id: number | undefined): Promise<void> {
    return this.guarded(async () => (id !== undefined && (await this.book.putBack(id)) ? null : 'Something else is in its place. Save it as it is instead.'));
  }

  protected drop(id: number | undefined): Promise<void> {
    this.asked.set(null);
    return this.guarded(async () => {
      if (id !== undefined) await this.book.dropAside(id);
      return null;
    });
  }

  private async guarded(work: () => Promise<string | null>): Promise<void> {
    try {
      this.said.set(await work());
    } catch (error) {
      this.said.set(storageProblem(error));
    }
  }
}
