import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { Log, StageSpan } from '@calm-keel/core/proof';
import { celsiusToFahrenheit, formatDay, formatNumber } from '@calm-keel/core/quantity';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { stageLook } from '../ui/stages';
import { clockOf } from './log-address';
import { spread, type Stretch } from './log-window';

/** Rows of the table: as many as a person reads, and a screen reader walks. */
const most = 40;

/** The samples of the stretch in view as a table: the plot's twin for who cannot see it, and for who wants figures. */
@Component({
  selector: 'ck-log-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button" class="do" [attr.aria-expanded]="open()" (click)="open.set(!open())">
      {{ open() ? 'Close the table of this stretch' : 'Show this stretch as a table' }}
    </button>
    @if (open()) {
      <div class="scroll" tabindex="0" role="region" aria-label="Samples of this stretch">
        <table>
          <caption>
            {{
              places().length === count() ? 'All' : places().length + ' of'
            }}
            {{
              count().toLocaleString('en')
            }}
            samples in view{{
              places().length === count() ? '' : ', evenly spread'
            }}
          </caption>
          <thead>
            <tr>
              <th scope="col">Time</th>
              @for (c of columns(); track c.name) {
                <th scope="col" class="r">{{ c.name }}</th>
              }
              @for (c of staged(); track c.id) {
                <th scope="col">{{ c.name }} stage</th>
              }
            </tr>
          </thead>
          <tbody>
            @for (i of places(); track i) {
              <tr>
                <th scope="row" class="n">{{ clock(log().time[i]!) }}</th>
                @for (c of columns(); track c.name) {
                  <td class="n r">{{ c.text(i) }}</td>
                }
                @for (c of staged(); track c.id) {
                  <td>{{ stageAt(c.spans, log().time[i]!) }}</td>
                }
              </tr>
            }
          </tbody>
        </table>
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-bottom: 8px;
      font-size: 0.875rem;
    }
    .scroll {
      max-height: 340px;
      overflow: auto;
      border-top: 1.5px solid var(--ck-ink);
      border-bottom: 1px solid var(--ck-rule);
      margin-top: 4px;
    }
    table {
      border-collapse: collapse;
      min-width: 100%;
    }
    caption {
      caption-side: top;
      text-align: left;
      padding: 4px 2px;
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
    th,
    td {
      padding: 3px 12px 3px 2px;
      text-align: left;
      font-weight: 400;
      white-space: nowrap;
      border-bottom: 1px solid var(--ck-rule);
    }
    thead th {
      position: sticky;
      top: 0;
      background: var(--ck-surface);
      font-weight: 560;
      font-size: 0.8125rem;
    }
    .r {
      text-align: right;
    }
  `,
})
export class LogTable {
  private readonly store = inject(JobStore);
  private readonly units = inject(Units);
  readonly log = input.required<Log>();
  readonly window = input.required<Stretch>();
  readonly stages = input.required<readonly StageSpan[]>();
  protected readonly open = signal(false);

  /** The samples that are shown. */
  protected readonly places = computed(() => spread(this.log().time, this.window(), most));
  /** How many samples the stretch has. */
  protected readonly count = computed(() => {
    const places = this.places();
    const [first, last] = [places[0], places.at(-1)];
    return first === undefined || last === undefined ? 0 : last - first + 1;
  });
  protected readonly columns = computed(() => {
    const log = this.log();
    const label = this.units.label();
    const column = (name: string, values: Float32Array | undefined, digits: number, shown = (v: number): number => v) =>
      values ? [{ name, text: (i: number): string => (Number.isFinite(values[i]) ? formatNumber(shown(values[i] ?? NaN), digits) : 'none') }] : [];
    const inScale = (c: number): number => (this.units.scale() === 'F' ? celsiusToFahrenheit(c) : c);
    return [
      ...column('Bank V', log.bankVolts, 2),
      ...column('Bank A', log.bankAmps, 1),
      ...this.chargers().flatMap((c) => column(`${c.name} A`, log.chargers[c.id]?.amps, 1)),
      ...column(`Battery ${label}`, log.batteryC, 1, inScale),
      ...column('Charge %', log.stateOfCharge, 0),
    ];
  });
  private readonly chargers = computed(() => this.store.plan()?.input.system.chargers ?? []);
  protected readonly staged = computed(() =>
    this.chargers().flatMap(({ id, name }) => {
      const spans = this.stages().filter((s) => s.charger === id);
      return spans.length > 0 ? [{ id, name, spans }] : [];
    }),
  );

  protected clock(seconds: number): string {
    const offset = this.log().offsetMinutes;
    const { from, to } = this.window();
    const day = (t: number): string => formatDay(t + (offset ?? 0) * 60);
    const time = clockOf(seconds, offset).slice(11, 19);
    return day(from) === day(to) ? time : `${day(seconds)} ${time}`;
  }
  protected stageAt(spans: readonly StageSpan[], at: number): string {
    const span = spans.find((s) => at >= s.from && at <= s.to);
    return span ? stageLook[span.stage].words : '';
  }
}
