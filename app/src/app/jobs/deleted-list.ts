import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { JobShelf } from './job-shelf';
import { JobsWork } from './jobs-work';

/** Jobs that were deleted: brought back by a press, gone for good only after a second one. */
@Component({
  selector: 'ck-deleted-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shelf.deleted().length > 0) {
      <section class="bin" aria-label="Deleted jobs">
        <h2>Deleted, held until you clear them away</h2>
        @for (row of shelf.deleted(); track row.id) {
          <p>
            {{ row.doc.name }} <button type="button" class="do" (click)="work.restore(row.id)">Undo: bring it back</button>
            @if (clearing() === row.id) {
              <button type="button" class="do" (click)="clearAway(row.id)">Yes, delete it for good with its logs and documents</button>
              <button type="button" class="do" (click)="clearing.set(null)">No, keep it</button>
            } @else {
              <button type="button" class="do" (click)="clearing.set(row.id)">Delete for good</button>
            }
          </p>
        }
      </section>
    }
  `,
  styles: `
    .bin {
      padding: 18px 0 0;
      h2 {
        font-size: 0.8125rem;
        font-weight: 500;
        color: var(--ck-ink-3);
      }
    }
  `,
})
export class DeletedList {
  protected readonly shelf = inject(JobShelf);
  protected readonly work = inject(JobsWork);
  /** Which deleted job is asked about. */
  protected readonly clearing = signal<string | null>(null);

  protected clearAway(id: string): Promise<void> {
    this.clearing.set(null);
    return this.work.clearAway(id);
  }
}
