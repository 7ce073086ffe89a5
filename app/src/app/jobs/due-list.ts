import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { dayWords } from '../ui/day-words';
import { JobShelf } from './job-shelf';
import { JobsWork } from './jobs-work';

/** What is due on any job, the soonest first. */
@Component({
  selector: 'ck-due-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shelf.due().length > 0) {
      <section class="due" aria-labelledby="due-title">
        <h2 id="due-title">What is due <button type="button" class="do" (click)="work.calendar(shelf.lines())">Save as a calendar</button></h2>
        <ul>
          @for (d of shelf.due(); track d.id + d.code + d.title) {
            <li>
              <span [class.late]="d.late">{{ dayWords(d.on) }}</span>
              <span
                ><b>{{ d.name }}</b
                >: {{ d.title }}{{ d.late ? ', overdue' : '' }}<small>{{ d.why }}</small></span
              >
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    .due {
      padding: 22px 0 0;
      h2 {
        display: flex;
        flex-wrap: wrap;
        gap: 16px;
        align-items: baseline;
        font-size: 1rem;
        font-weight: var(--ck-w-strong);
        border-bottom: 1.5px solid var(--ck-ink);
        padding-bottom: 5px;
      }
      .do {
        font-size: 0.875rem;
      }
      li {
        display: grid;
        grid-template-columns: 112px 1fr;
        gap: 12px;
        padding: 5px 0;
        border-bottom: 1px solid var(--ck-rule);
        font-size: 0.9062rem;
      }
      small {
        display: block;
        font-size: 0.8125rem;
        color: var(--ck-ink-2);
      }
      .late {
        color: var(--ck-stop);
        font-weight: 620;
      }
    }
    @media (max-width: 767px) {
      .due li {
        grid-template-columns: 1fr;
        gap: 0;
      }
    }
  `,
})
export class DueList {
  protected readonly shelf = inject(JobShelf);
  protected readonly work = inject(JobsWork);
  protected readonly dayWords = dayWords;
}
