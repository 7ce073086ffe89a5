import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { beginVisit, daysOf, type Job } from '@calm-keel/core/job';
import { freeId } from '../data/free-id';
import { JobStore, today } from '../data/job-store';
import { WhoIsThere } from '../data/who-is-there';
import { dayWords } from '../ui/day-words';
import { Glyph } from '../ui/glyph';
import { VisitDay } from './visit-day';
import { VisitDifferences } from './visit-differences';
import { VisitDue } from './visit-due';

/** The job book of one site: its visits as a timeline, what differs between any two, and what to come back for. */
@Component({
  selector: 'ck-visits-panel',
  imports: [Glyph, VisitDay, VisitDifferences, VisitDue],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ck-visit-differences [job]="job()" [dates]="dates()" />

    <section aria-labelledby="visits-title">
      <div class="sech" id="visits-title"><span role="heading" aria-level="2">Visits</span><small>the newest first</small></div>
      @if (!openToday()) {
        <p class="acts"><button type="button" class="ghost" (click)="begin()">Begin a visit today</button></p>
      }
      <ol class="days">
        @for (day of days(); track day.date) {
          <li>
            <div class="when">
              <b>{{ dayWords(day.date) }}</b>
              <span>{{ day.by.join(', ') || 'nobody named' }}</span>
              @if (day.visit?.closed) {
                <span class="st t-done"><ck-glyph name="done" [size]="13" />closed</span>
              } @else if (day.visit) {
                <span class="st t-notyet"><ck-glyph name="notyet" [size]="13" />open</span>
              }
            </div>
            <ck-visit-day class="what" [job]="job()" [day]="day" />
          </li>
        } @empty {
          <li><p class="quiet">Nothing is on record yet. What is read off, entered, tested and logged appears here by its day.</p></li>
        }
      </ol>
    </section>

    <ck-visit-due [job]="job()" />
  `,
  styleUrl: './visits-panel.scss',
})
export class VisitsPanel {
  private readonly store = inject(JobStore);
  private readonly who = inject(WhoIsThere);
  readonly job = input.required<Job>();
  protected readonly dayWords = dayWords;
  protected readonly now = today();
  protected readonly days = computed(() => daysOf(this.job()));
  /** Days with something on record of a device, the oldest first. */
  protected readonly dates = computed(() =>
    this.days()
      .map((d) => d.date)
      .reverse(),
  );
  protected readonly openToday = computed(() => this.job().visits.some((v) => v.date === this.now && v.closed === null));
  protected begin(): void {
    const by = this.who.initials().trim();
    const date = this.now;
    const id = freeId(
      `visit-${date}`,
      this.job().visits.map((v) => v.id),
      'visit',
    );
    this.store.edit('Begin a visit', (job) => beginVisit(job, { id, date, by, purpose: '' }));
  }
}
