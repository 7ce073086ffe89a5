import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { withSheetTaken } from '@calm-keel/core/job';
import { editionOf, type Sheet } from '@calm-keel/core/sheet';
import { freeId } from '../data/free-id';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';

/** The longest name of a revision. */
const mostLetters = 40;

/** The sheets of this device’s library: one is taken as the job’s own copy, or the job’s put there. */
@Component({
  selector: 'ck-sheet-shelf',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="shelf">
      @for (other of library.sheets(); track other.id) {
        <button type="button" class="ghost" (click)="pin(other)">{{ other.maker }} {{ other.battery }}, {{ edition(other) }}</button>
      }
      @if (library.broken()) {
        <p class="wrong">The library could not be read. Reload the page.</p>
      }
      <p class="quiet">The job takes a copy of its own. Undo brings the old one back.</p>
      <p class="acts">
        <button type="button" class="do" (click)="keep()">Keep this job’s sheet in the library</button>
        <button type="button" class="do" (click)="nextRevision()">Begin a new revision of it</button>
        <span class="quiet" role="status">{{ kept() }}</span>
      </p>
    </div>
  `,
  styles: `
    .shelf {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      padding: 8px 0 12px;
    }
    .acts {
      width: 100%;
    }
  `,
})
export class SheetShelf {
  private readonly store = inject(JobStore);
  protected readonly library = inject(Library);
  readonly sheet = input.required<Sheet>();
  /** A sheet was taken. */
  readonly taken = output();
  protected readonly edition = editionOf;
  /** What came of keeping it. */
  protected readonly kept = signal('');

  /** Takes a sheet of the library as this job's own copy. One of the same battery that was pinned so far stays with the job. */
  protected pin(sheet: Sheet): void {
    this.taken.emit();
    this.store.edit(`Take the sheet of ${sheet.battery}`, (job) => withSheetTaken(job, sheet));
  }

  /** Keeps a copy of the pinned sheet as a revision of its own, to be changed into the next one. */
  protected nextRevision(): void {
    this.store.edit('Begin a new revision', (job) => {
      const id = freeId(
        `${job.sheet.id}-next`,
        [job.sheet, ...job.otherSheets].map((s) => s.id),
        'sheet',
      );
      return {
        ...job,
        sheet: {
          ...job.sheet,
          id,
          revision: [job.sheet.revision, 'next']
            .filter((part) => part !== '')
            .join(', ')
            .slice(0, mostLetters),
        },
        otherSheets: [...job.otherSheets, job.sheet],
      };
    });
  }

  /** Puts a copy of the pinned sheet into this device's library. */
  protected async keep(): Promise<void> {
    const sheet = this.sheet();
    const own =
      sheet.id === 'new-sheet'
        ? {
            ...sheet,
            id: freeId(
              `${sheet.maker} ${sheet.battery} ${sheet.revision}`,
              this.library.sheets().map((s) => s.id),
              'sheet',
            ),
          }
        : sheet;
    await this.library.putSheet(own).then(
      () => {
        this.kept.set('Saved in the library of this device.');
      },
      () => {
        this.kept.set('This device has no room for it. Free some space, then try again.');
      },
    );
  }
}
