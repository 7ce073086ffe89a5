import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { dueOf, type Job } from '@calm-keel/core/job';
import { download } from '../data/job-files';
import { JobStore, today } from '../data/job-store';
import { Library } from '../data/library';
import { dayWords } from '../ui/day-words';
import { NumberField } from '../ui/number-field';

/** What to come back for, and when evidence is taken again. */
@Component({
  selector: 'ck-visit-due',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-labelledby="due-title">
      <div class="sech" id="due-title">
        <span role="heading" aria-level="2">What is due</span>
        @if (due().length > 0) {
          <small><button type="button" class="do" (click)="calendar()">Save as a calendar</button></small>
        }
      </div>
      <ul class="due">
        @for (d of due(); track d.code + d.title) {
          <li>
            <b [class.late]="d.on < now">{{ dayWords(d.on) }}</b>
            <span
              >{{ d.title }}{{ d.on < now ? ', overdue' : '' }}<small>{{ d.why }}</small></span
            >
          </li>
        } @empty {
          <li><span>Nothing is due.</span></li>
        }
      </ul>
      <div class="age">
        <ck-number-field label="Evidence is taken again after" unit="months" [value]="job().recheckMonths" [min]="1" [max]="60" (changed)="age($event)" />
      </div>
    </section>
  `,
  styles: `
    :host {
      display: block;
    }
    small {
      display: block;
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
    .due li {
      display: grid;
      grid-template-columns: 132px 1fr;
      gap: 16px;
      padding: 6px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
    .late {
      color: var(--ck-stop);
    }
    .age {
      max-width: 260px;
      padding-top: 10px;
    }
    @media (max-width: 767px) {
      .due li {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class VisitDue {
  private readonly store = inject(JobStore);
  private readonly library = inject(Library);
  readonly job = input.required<Job>();
  protected readonly dayWords = dayWords;
  protected readonly now = today();
  protected readonly due = computed(() => dueOf(this.job(), this.store.covered(), this.now, this.library.sheets()));

  protected age(months: number | undefined): void {
    if (months !== undefined) this.store.edit('Change when evidence is taken again', (job) => ({ ...job, recheckMonths: Math.round(months) }), 'recheck');
  }

  protected async calendar(): Promise<void> {
    const job = this.job();
    const { calendarOf } = await import('../data/calendar');
    const text = calendarOf([{ id: job.id, name: job.name, due: this.due() }], new Date().toISOString());
    download(new Blob([text], { type: 'text/calendar' }), `${job.id}-due.ics`);
  }
}
