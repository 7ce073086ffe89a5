import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { pinSheet } from '@calm-keel/core/job';
import { editionOf, isNewerRevision, sameBattery, sheetDifferences, type Sheet } from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';
import { Glyph } from '../ui/glyph';

/** The sheets kept with a job: which is pinned, what the others say differently, and what the library has that the job has not. */
@Component({
  selector: 'ck-revisions',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (moved of moves(); track moved.id) {
      <p class="said">
        <ck-glyph name="attention" />
        <span
          >The library has {{ edition(moved) }}, and this job uses {{ edition(pinned()!) }}. The job uses its own copy until you choose.
          <button type="button" class="do" (click)="bring(moved)">Bring it into this job</button></span
        >
      </p>
    }
    @if (open()) {
      @for (other of others(); track other.sheet.id) {
        <div class="sech">
          <span role="heading" aria-level="2">{{ edition(pinned()!) }} against {{ edition(other.sheet) }}</span>
          <small>{{ other.sheet.document }}</small>
        </div>
        @if (other.differences.length > 0) {
          <table class="rows">
            <tr>
              <th scope="col">Figure</th>
              <th scope="col">Pinned, {{ edition(pinned()!) }}</th>
              <th scope="col">{{ edition(other.sheet) }}</th>
              <th scope="col">Difference</th>
            </tr>
            @for (d of other.differences; track d.name) {
              <tr>
                <th scope="row">{{ d.name }}</th>
                <td class="n">{{ d.before }}</td>
                <td class="n">{{ d.after }}</td>
                <td>{{ d.by }}</td>
              </tr>
            }
          </table>
        } @else {
          <p class="quiet">No figure differs.</p>
        }
        <p class="acts">
          <button type="button" class="ghost" (click)="pin(other.sheet)">Use {{ edition(other.sheet) }} instead</button>
          <button type="button" class="do" (click)="drop(other.sheet)">Take {{ edition(other.sheet) }} out of the job</button>
        </p>
      } @empty {
        <p class="quiet pad">This job has only one sheet. Take another revision from the library, or copy this one and change it.</p>
      }
    }
  `,
  styles: `
    th,
    td {
      vertical-align: top;
    }
    td.n {
      white-space: normal;
      font-size: 0.8438rem;
    }
    .acts {
      padding: 10px 0;
    }
    .pad {
      padding: 8px 0;
    }
  `,
})
export class Revisions {
  private readonly store = inject(JobStore);
  protected readonly edition = editionOf;
  private readonly library = inject(Library);
  readonly open = input.required<boolean>();

  protected readonly pinned = computed(() => this.store.job()?.sheet ?? null);
  protected readonly others = computed(() => {
    const job = this.store.job();
    return job ? job.otherSheets.map((sheet) => ({ sheet, differences: sheetDifferences(job.sheet, sheet) })) : [];
  });
  /** Newer revisions of the same battery in the library that the job has not. */
  protected readonly moves = computed(() => {
    const job = this.store.job();
    if (!job) return [];
    const has = new Set([job.sheet, ...job.otherSheets].map((s) => `${s.revision} ${s.date}`));
    return this.library.sheets().filter((s) => sameBattery(s, job.sheet) && isNewerRevision(s, job.sheet) && !has.has(`${s.revision} ${s.date}`));
  });

  protected pin(sheet: Sheet): void {
    this.store.edit(`Use ${editionOf(sheet)}`, (job) => pinSheet(job, sheet.id));
  }

  protected drop(sheet: Sheet): void {
    this.store.edit(`Take out ${editionOf(sheet)}`, (job) => ({ ...job, otherSheets: job.otherSheets.filter((s) => s.id !== sheet.id) }));
  }

  protected bring(sheet: Sheet): void {
    this.store.edit(`Bring in ${editionOf(sheet)}`, (job) => ({ ...job, otherSheets: [...job.otherSheets.filter((s) => s.id !== sheet.id), sheet] }));
  }
}
