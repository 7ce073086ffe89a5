import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { withBatterySaid } from '@calm-keel/core/job';
import type { LogFact } from '@calm-keel/core/proof';
import { formatClock, formatMoment } from '@calm-keel/core/quantity';
import { editionOf } from '@calm-keel/core/sheet';
import { seriesByVolts } from '@calm-keel/core/system';
import { aloneEnglish, sayFor } from '@calm-keel/core/words';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';
import { Units } from '../data/units';
import { ChoiceField } from '../ui/choice-field';
import { Moves } from '../ui/moves';
import { NumberField } from '../ui/number-field';
import type { Stretch } from './log-window';

/** A fact as it is shown, with the stretch of the log to look at. */
interface Line {
  readonly title: string;
  readonly value: string;
  readonly more: string;
  readonly when: string;
  readonly where: Stretch | null;
}

/** So long before and after a single sample is looked at, s. */
const around = 900;

/** What a log shows before anybody has said which battery it is of, and the way to have it judged. */
@Component({
  selector: 'ck-alone-panel',
  imports: [RouterLink, ChoiceField, NumberField, Moves],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-labelledby="ck-judge">
      <div class="sech"><span role="heading" aria-level="2" id="ck-judge">Not judged yet: say which battery this is</span></div>
      <div class="ask">
        <ck-choice-field label="Battery" [value]="sheet()?.id ?? ''" [options]="sheets()" (changed)="sheetId.set($event)" />
        <ck-number-field label="In series" [optional]="true" [value]="inSeries()" [min]="1" [max]="60" (changed)="inSeries.set($event)" />
        <ck-number-field label="Strings in parallel" [optional]="true" [value]="strings()" [min]="1" [max]="60" (changed)="strings.set($event)" />
        <button type="button" class="ghost" [disabled]="!ready()" (click)="judge()">Judge by this sheet</button>
      </div>
      @if (suggested(); as n) {
        <p class="quiet">The log’s highest voltage fits {{ n }} of these in series. Check it on site. Strings may stay open while nobody knows.</p>
      } @else if (sheet()) {
        <p class="quiet">The log’s voltage fits no number of these in series. It may be another battery.</p>
      }
      <p class="quiet">
        Not in the list? <a class="do" [routerLink]="['/job', store.job()?.id, 'spec']">Enter the figures of its sheet, or bring its paper in</a>.
      </p>
    </section>
    <section aria-labelledby="ck-alone">
      <div class="sech">
        <span role="heading" aria-level="2" id="ck-alone">What this log shows by itself</span><small>numbers as they were written, no verdicts</small>
      </div>
      <div ckMoves="Numbers of this log">
        <table class="rows">
          <caption class="visually-hidden">
            Numbers of this log
          </caption>
          <tbody>
            @for (line of lines(); track $index) {
              <tr>
                <th scope="row">{{ line.title }}</th>
                <td>
                  <b class="n">{{ line.value }}</b>
                  @if (line.more) {
                    <small>{{ line.more }}</small>
                  }
                </td>
                <td class="w">
                  @if (line.where; as where) {
                    <button type="button" class="do n" [attr.aria-label]="'Show ' + line.title + ', ' + line.when" (click)="show.emit(where)">
                      {{ line.when }}
                    </button>
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    </section>
  `,
  styles: `
    :host {
      display: grid;
      gap: 14px;
      margin-top: 10px;
    }
    .ask {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 110px 150px auto;
      gap: 8px 12px;
      align-items: end;
      margin-bottom: 6px;
    }
    th {
      font-weight: 500;
      width: 34%;
    }
    th,
    td {
      vertical-align: baseline;
    }
    td b {
      font-weight: 620;
      margin-right: 8px;
    }
    td small {
      color: var(--ck-ink-2);
    }
    .w {
      text-align: right;
      white-space: nowrap;
    }
    @media (max-width: 767px) {
      .ask {
        grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      }
      .ask > :first-child,
      .ask > button {
        grid-column: 1 / -1;
      }
      tr {
        display: grid;
        grid-template: 'title when' auto 'value value' auto / minmax(0, 1fr) auto;
        gap: 0 12px;
        border-bottom: 1px solid var(--ck-rule);
        padding: 6px 0;
      }
      th,
      td {
        border: 0;
        padding: 1px 0;
        width: auto;
        grid-area: value;
      }
      th {
        grid-area: title;
      }
      .w {
        grid-area: when;
      }
    }
  `,
})
export class AlonePanel {
  protected readonly store = inject(JobStore);
  private readonly library = inject(Library);
  private readonly units = inject(Units);
  readonly facts = input.required<readonly LogFact[]>();
  /** Minutes ahead of UTC of the log’s clock. */
  readonly offset = input.required<number | null>();
  /** Longer than a day and a half: moments carry their date. */
  readonly days = input.required<boolean>();
  /** The stretch of a fact is to be looked at. */
  readonly show = output<Stretch>();

  protected readonly sheetId = signal('');
  protected readonly sheets = computed(() => [
    { value: '', words: 'Choose' },
    ...this.library.sheets().map((s) => ({ value: s.id, words: `${s.maker} ${s.battery}, ${editionOf(s)}` })),
  ]);
  protected readonly sheet = computed(() => this.library.sheets().find((s) => s.id === this.sheetId()) ?? null);
  /** How many in series the log’s highest voltage fits. */
  protected readonly suggested = computed(() => {
    const sheet = this.sheet();
    const highest = this.facts().flatMap((f) => (f.code === 'highestVolts' ? [f.seen.value] : []))[0];
    return sheet && highest !== undefined ? seriesByVolts(highest, sheet.unit.nominalVolts) : null;
  });
  protected readonly inSeries = linkedSignal<number | undefined>(() => this.suggested() ?? undefined);
  protected readonly strings = signal<number | undefined>(undefined);
  protected readonly ready = computed(() => {
    const n = this.inSeries();
    const strings = this.strings();
    return this.sheet() !== null && n !== undefined && Number.isInteger(n) && (strings === undefined || Number.isInteger(strings));
  });

  protected readonly lines = computed(() => {
    const job = this.store.job();
    if (!job) return [];
    const say = sayFor(job, this.units.scale());
    return this.facts().map((fact): Line => {
      const { title, value, more = '' } = aloneEnglish.fact(fact, say);
      return { title, value, more, ...this.placeOf(fact) };
    });
  });

  private placeOf(fact: LogFact): Pick<Line, 'when' | 'where'> {
    const clock = (t: number): string => formatMoment(t + (this.offset() ?? 0) * 60, this.days());
    if ('from' in fact) return { when: `${clock(fact.from)}–${formatClock(fact.to, this.offset())}`, where: { from: fact.from, to: fact.to } };
    if ('seen' in fact) return { when: clock(fact.seen.at), where: { from: fact.seen.at - around, to: fact.seen.at + around } };
    return { when: '', where: null };
  }

  protected judge(): void {
    const sheet = this.sheet();
    const inSeries = this.inSeries();
    if (!sheet || inSeries === undefined || !this.ready()) return;
    this.store.edit(`Judge by the sheet of ${sheet.battery}`, (job) => withBatterySaid(job, sheet, inSeries, this.strings()));
  }
}
