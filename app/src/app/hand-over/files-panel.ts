import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Job } from '@calm-keel/core/job';
import { settingsCsv, settingsFile } from '@calm-keel/core/report';
import { devicesOf, type Plan } from '@calm-keel/core/settings';
import { download, JobFiles } from '../data/job-files';
import { JobStore, today } from '../data/job-store';
import { LetterPanel } from '../ui/letter-panel';

/** What other programs, other chargers and other people take: tables, settings without a card, the job itself, the letter to the maker. */
@Component({
  selector: 'ck-files-panel',
  imports: [LetterPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech"><span role="heading" aria-level="2">Settings of one charger</span></div>
    <ul>
      @for (d of devices(); track d.id) {
        <li>
          <b>{{ d.name }}</b>
          <button type="button" class="do" (click)="csv(d.id)" [attr.aria-label]="'Table of ' + d.name">Table for a spreadsheet (CSV)</button>
          <button type="button" class="do" (click)="json(d.id)" [attr.aria-label]="'Settings file of ' + d.name">For a charger of another make (JSON)</button>
        </li>
      } @empty {
        <li class="quiet">No charger is entered yet.</li>
      }
    </ul>
    <p class="quiet">
      The file for another make holds what is wanted at the battery, role by role, in volts, amps and seconds: no menu and no step of this charger.
    </p>
    <div class="sech"><span role="heading" aria-level="2">The whole job</span></div>
    <ul>
      <li>
        <b>Job, logs and documents</b>
        <button type="button" class="do" (click)="bundle()">Save as one file</button>
        <span class="quiet">to bring in elsewhere, or to merge with later</span>
      </li>
      <li>
        <b>The job alone</b>
        <button type="button" class="do" (click)="alone()">Save as JSON</button>
        <span class="quiet">readable, without logs and documents</span>
      </li>
    </ul>
    @if (job().aside; as held) {
      <div class="sech">
        <span role="heading" aria-level="2">Not read, held aside, {{ held.length }}</span>
      </div>
      <p class="quiet">
        These names came in a file and are not known to this program: a slip in writing, or something of a later version. Nothing here counts.
      </p>
      <ul>
        @for (a of held; track a.place) {
          <li>
            <b>{{ a.place }}</b>
            <code>{{ a.json }}</code>
            <button type="button" class="do" (click)="discard(a.place)" [attr.aria-label]="'Discard ' + a.place">Discard</button>
          </li>
        }
      </ul>
    }
    <ck-letter />
  `,
  styles: `
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 18px;
      align-items: baseline;
      padding: 8px 0;
      border-bottom: 1px solid var(--ck-rule);
      b {
        flex: 0 0 190px;
      }
    }
    code {
      font-family: var(--ck-font-num);
      font-size: 0.875rem;
      color: var(--ck-ink);
      flex: 1;
      overflow-wrap: anywhere;
    }
    @media (max-width: 767px) {
      li b {
        flex: 1 1 100%;
      }
      .do {
        min-height: 44px;
      }
    }
  `,
})
export class FilesPanel {
  private readonly files = inject(JobFiles);
  private readonly store = inject(JobStore);
  readonly job = input.required<Job>();
  readonly plan = input.required<Plan>();
  protected readonly devices = computed(() => devicesOf(this.plan().input));

  protected csv(id: string): void {
    download(new Blob([settingsCsv(this.plan(), id)], { type: 'text/csv' }), `${this.job().id}-${id}.csv`);
  }

  protected json(id: string): void {
    const file = settingsFile(this.job(), this.plan(), id, today());
    if (file) download(new Blob([`${JSON.stringify(file, null, 2)}\n`], { type: 'application/json' }), `${this.job().id}-${id}.settings.json`);
  }

  /** Takes one of what was held aside out; undo brings it back. */
  protected discard(place: string): void {
    this.store.edit(`Discard ${place}`, ({ aside = [], ...job }) => {
      const left = aside.filter((a) => a.place !== place);
      return left.length === 0 ? job : { ...job, aside: left };
    });
  }

  protected bundle(): Promise<void> {
    return this.files.save(this.job());
  }

  protected alone(): void {
    this.files.saveDocument(this.job());
  }
}
