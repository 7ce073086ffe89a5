import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import {
  beginVisit,
  closeVisit,
  countWords,
  daysOf,
  differencesBetween,
  differenceWords,
  dueOf,
  noteVisit,
  reopenVisit,
  type Day,
  type Job,
  type Visit,
} from '@calm-keel/core/job';
import { openPoints } from '@calm-keel/core/report';
import { isLithium, paperOf } from '@calm-keel/core/sheet';
import { freeId } from '../data/free-id';
import { download } from '../data/job-files';
import { JobStore, today } from '../data/job-store';
import { Library } from '../data/library';
import { WhoIsThere } from '../data/who-is-there';
import { dayWords } from '../ui/day-words';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';
import { VisitPhotos } from './visit-photos';

const kindWords = { found: 'Read off', set: 'Keyed in', test: 'Tested', log: 'Log', choice: 'Decided', trouble: 'Trouble' } as const;

/** The job book of one site: its visits as a timeline, what differs between any two, and what to come back for. */
@Component({
  selector: 'ck-visits-panel',
  imports: [RouterLink, Glyph, NumberField, TextField, VisitPhotos],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-labelledby="since-title">
      <div class="sech" id="since-title">
        <span role="heading" aria-level="2">What differs</span>
        <small>
          <label>
            from
            <select #a (change)="from.set(a.value)" aria-label="From the visit of">
              @for (d of dates(); track d) {
                <option [value]="d" [selected]="d === from()">{{ dayWords(d) }}</option>
              }
            </select>
          </label>
          <label>
            to
            <select #b (change)="to.set(b.value)" aria-label="To the visit of">
              @for (d of dates(); track d) {
                <option [value]="d" [selected]="d === to()">{{ dayWords(d) }}</option>
              }
            </select>
          </label>
        </small>
      </div>
      @if (dates().length < 2) {
        <p class="quiet">Two days with something on record are wanted to tell what differs between them.</p>
      } @else {
        <ul class="diff">
          @for (d of differences(); track d.subject + d.what) {
            <li [class.off]="d.how === 'elsewhere'">
              <ck-glyph [name]="d.how === 'elsewhere' ? 'attention' : 'note'" [size]="16" />
              <span
                ><b>{{ d.subject }}</b
                >: {{ d.what }} <span class="n">{{ d.from }}</span> <span class="to">becomes</span> <span class="n">{{ d.to }}</span>, {{ how[d.how]
                }}<small>{{ d.how === 'elsewhere' ? 'first seen' : '' }} {{ dayWords(d.at.slice(0, 10)) }}</small></span
              >
            </li>
          } @empty {
            <li><ck-glyph name="done" [size]="16" /><span>Nothing on record differs between the two.</span></li>
          }
        </ul>
      }
    </section>

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
            <div class="what">
              @if (day.visit; as v) {
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
                  <textarea
                    #area
                    class="plain"
                    rows="3"
                    maxlength="4000"
                    [id]="'note-' + v.id"
                    [value]="v.note"
                    (input)="note(v, { note: area.value })"
                  ></textarea>
                  @if (lead()) {
                    <label class="check"
                      ><input type="checkbox" [checked]="v.equalised === true" (change)="note(v, { equalised: v.equalised !== true })" /> The bank was equalised
                      on this visit, attended</label
                    >
                  }
                  @if (balances()) {
                    <label class="check"
                      ><input type="checkbox" [checked]="v.balanced === true" (change)="note(v, { balanced: v.balanced !== true })" /> The cells were balanced
                      on this visit, attended</label
                    >
                  }
                  <ck-visit-photos [visit]="v" [closed]="false" />
                  <p class="acts">
                    <button type="button" class="ghost" (click)="close(v)">Close this visit</button>
                    <span class="quiet">Figures, choices, values, verdicts and what is open are kept as they are now.</span>
                  </p>
                }
              }
              @if (day.happenings.length > 0) {
                <ul class="happened">
                  @for (h of shown(day); track $index) {
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
                @if (day.happenings.length > mostShown) {
                  <button type="button" class="do" [attr.aria-expanded]="whole() === day.date" (click)="whole.set(whole() === day.date ? null : day.date)">
                    {{ whole() === day.date ? 'Fewer' : 'All ' + day.happenings.length + ' entries' }}
                  </button>
                }
              }
            </div>
          </li>
        } @empty {
          <li><p class="quiet">Nothing is on record yet. What is read off, keyed in, tested and logged appears here by its day.</p></li>
        }
      </ol>
    </section>

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
  styleUrl: './visits-panel.scss',
})
export class VisitsPanel {
  private readonly store = inject(JobStore);
  protected readonly paper = paperOf;
  private readonly who = inject(WhoIsThere);
  private readonly library = inject(Library);
  readonly job = input.required<Job>();
  protected readonly kinds = kindWords;
  protected readonly how = differenceWords;
  protected readonly dayWords = dayWords;
  protected readonly counts = countWords;
  protected readonly mostShown = 6;
  protected readonly now = today();
  /** The day whose entries are all shown. */
  protected readonly whole = signal<string | null>(null);

  protected readonly days = computed(() => daysOf(this.job()));
  /** Days with something on record of a device, the oldest first. */
  protected readonly dates = computed(() =>
    this.days()
      .map((d) => d.date)
      .reverse(),
  );
  protected readonly from = linkedSignal(() => this.dates().at(-2) ?? '');
  protected readonly to = linkedSignal(() => this.dates().at(-1) ?? '');
  protected readonly differences = computed(() => {
    const [from, to] = [this.from(), this.to()].sort();
    return from && to ? differencesBetween(this.job(), from, to) : [];
  });
  protected readonly openToday = computed(() => this.job().visits.some((v) => v.date === this.now && v.closed === null));
  protected readonly balances = computed(() => this.job().system.bank.balanceEveryDays !== undefined && isLithium(this.job().sheet.chemistry));
  protected readonly lead = computed(() => !isLithium(this.job().sheet.chemistry));
  protected readonly due = computed(() => dueOf(this.job(), this.store.covered(), this.now, this.library.sheets()));

  protected shown(day: Day) {
    return this.whole() === day.date ? day.happenings : day.happenings.slice(0, this.mostShown);
  }

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
