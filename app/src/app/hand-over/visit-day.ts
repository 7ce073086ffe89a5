import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { closeVisit, countWords, noteVisit, reopenVisit, type Day, type Job, type Visit } from '@calm-keel/core/job';
import { openPoints } from '@calm-keel/core/report';
import { isLithium, paperOf } from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { WhoIsThere } from '../data/who-is-there';
import { TextField } from '../ui/text-field';
import { VisitPhotos } from './visit-photos';

const kindWords = { found: 'Read off', set: 'Entered', test: 'Tested', log: 'Log', choice: 'Decided', trouble: 'Trouble' } as const;

/** Entries of a day that are shown before more are asked for. */
const mostShown = 6;

/** One day of the job book: its visit, noted while it is open and as it was closed, and what happened. */
@Component({
  selector: 'ck-visit-day',
  imports: [RouterLink, TextField, VisitPhotos],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (day().visit; as v) {
      @if (v.closed; as c) {
        <p>
          <b>{{ v.purpose || 'Visit' }}</b>
        </p>
        @if (v.note) {
          <p class="note">{{ v.note }}</p>
        }
        <p class="quiet">
          Figures pinned: {{ paper(c.sheet) }}. {{ counts(c.verdicts) }}.
          {{ c.open.length === 0 ? 'Nothing was open.' : c.open.length === 1 ? '1 point was open.' : c.open.length + ' points were open.' }}
        </p>
        @if (c.open.length > 0) {
          <details>
            <summary>What was open then</summary>
            <ul>
              @for (text of c.open; track $index) {
                <li>{{ text }}</li>
              }
            </ul>
          </details>
        }
        <ck-visit-photos [visit]="v" [closed]="true" />
        <button type="button" class="do" (click)="reopen(v)">Open this visit again</button>
      } @else {
        <div class="fields">
          <ck-text-field label="What for" [value]="v.purpose" [max]="120" (changed)="note(v, { purpose: $event })" />
          <ck-text-field label="Who, by initials" [value]="v.by" [max]="20" (changed)="note(v, { by: $event })" />
        </div>
        <label class="lbl" [attr.for]="'note-' + v.id">Notes</label>
        <textarea #area class="plain" rows="3" maxlength="4000" [id]="'note-' + v.id" [value]="v.note" (input)="note(v, { note: area.value })"></textarea>
        @if (lead()) {
          <label class="check"
            ><input type="checkbox" [checked]="v.equalised === true" (change)="note(v, { equalised: v.equalised !== true })" /> The bank was equalised on this
            visit, attended</label
          >
        }
        @if (balances()) {
          <label class="check"
            ><input type="checkbox" [checked]="v.balanced === true" (change)="note(v, { balanced: v.balanced !== true })" /> The cells were balanced on this
            visit, attended</label
          >
        }
        <ck-visit-photos [visit]="v" [closed]="false" />
        <p class="acts">
          <button type="button" class="ghost" (click)="close(v)">Close this visit</button>
          <span class="quiet">Figures, choices, values, verdicts and what is open are saved as they are now.</span>
        </p>
      }
    }
    @if (day().happenings.length > 0) {
      <ul class="happened">
        @for (h of shown(); track $index) {
          <li>
            <span class="kind">{{ kinds[h.kind] }}</span>
            <span
              >{{ h.text }}
              @if (h.kind === 'test') {
                <a class="do" [routerLink]="['/job', job().id, 'prove', 'tests', h.ref]">Open</a>
              }
            </span>
          </li>
        }
      </ul>
      @if (day().happenings.length > mostShown) {
        <button type="button" class="do" [attr.aria-expanded]="whole()" (click)="whole.set(!whole())">
          {{ whole() ? 'Fewer' : 'All ' + day().happenings.length + ' entries' }}
        </button>
      }
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .acts {
      padding: 6px 0;
    }
    .note {
      white-space: pre-wrap;
      overflow-wrap: anywhere;
    }
    .fields {
      display: grid;
      grid-template-columns: 1fr 140px;
      gap: 8px 12px;
      margin-bottom: 6px;
    }
    .check {
      display: flex;
      gap: 8px;
      align-items: center;
      min-height: 40px;
      input {
        width: 20px;
        height: 20px;
        accent-color: var(--ck-copper);
      }
    }
    .happened {
      margin-top: 6px;
      font-size: 0.875rem;
      li {
        display: grid;
        grid-template-columns: 82px minmax(0, 1fr);
        gap: 10px;
        padding: 2px 0;
        overflow-wrap: anywhere;
      }
      .kind {
        color: var(--ck-ink-2);
      }
    }
    details {
      font-size: 0.875rem;
      padding: 2px 0;
      li {
        border-bottom: 1px solid var(--ck-rule);
        padding: 3px 0;
      }
    }
    summary {
      cursor: pointer;
      color: var(--ck-copper-text);
      font-weight: 600;
    }
    @media (max-width: 767px) {
      .fields {
        grid-template-columns: 1fr;
      }
      .check,
      summary {
        min-height: 44px;
      }
    }
  `,
})
export class VisitDay {
  private readonly store = inject(JobStore);
  private readonly who = inject(WhoIsThere);
  readonly job = input.required<Job>();
  readonly day = input.required<Day>();
  protected readonly paper = paperOf;
  protected readonly kinds = kindWords;
  protected readonly counts = countWords;
  protected readonly mostShown = mostShown;
  /** Whether all entries are shown. */
  protected readonly whole = signal(false);
  protected readonly balances = computed(() => this.job().system.bank.balanceEveryDays !== undefined && isLithium(this.job().sheet.chemistry));
  protected readonly lead = computed(() => !isLithium(this.job().sheet.chemistry));
  protected readonly shown = computed(() => (this.whole() ? this.day().happenings : this.day().happenings.slice(0, mostShown)));

  protected note(visit: Visit, patch: Parameters<typeof noteVisit>[2]): void {
    if (patch.by !== undefined) this.who.initials.set(patch.by);
    this.store.edit('Note on a visit', (job) => noteVisit(job, visit.id, patch), `visit-${visit.id}-${Object.keys(patch).join()}`);
  }

  protected close(visit: Visit): void {
    const plan = this.store.settled();
    if (!plan) return;
    const open = openPoints(this.job(), this.store.findings(), this.store.covered()).map((p) => p.text);
    const at = new Date().toISOString();
    const covered = this.store.covered();
    this.store.edit('Close a visit', (job) => closeVisit(job, plan, covered, open, visit.id, at));
  }

  protected reopen(visit: Visit): void {
    this.store.edit('Open a visit again', (job) => reopenVisit(job, visit.id));
  }
}
