import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { bankIsSaid, ratingsWanted, type RatingsWanted } from '@calm-keel/core/job';
import { formatNumber, type Problem } from '@calm-keel/core/quantity';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { ArrayFields, type ArrayEdit } from './array-fields';

/** One rating: what it must be, and where that comes from. */
interface Wanted {
  readonly name: string;
  readonly value: string;
  readonly how: string;
}

/** What a charger that is not bought yet would have to bear and give, for this battery, these panels and this place. */
@Component({
  selector: 'ck-choose',
  imports: [ArrayFields, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech">
      <span role="heading" aria-level="2">What its ratings must be</span><small>for this battery, these panels and this place, before it is bought</small>
    </div>
    @if (!said()) {
      <p class="quiet">
        Nobody has said yet what the battery is: enter it on <a routerLink="../spec">Spec</a>, and how many are in series under <i>Bank</i>. No charger can be
        chosen for a bank that is not known.
      </p>
    } @else {
      @if (rows().length > 0) {
        <table class="rows">
          <caption class="visually-hidden">
            Ratings wanted
          </caption>
          @for (row of rows(); track row.name) {
            <tr>
              <th scope="row">{{ row.name }}</th>
              <td class="n">{{ row.value }}</td>
              <td class="quiet">{{ row.how }}</td>
            </tr>
          }
        </table>
      }
      @if (!array()) {
        <p class="quiet">For a solar charger, enter the panels: what cold nights make of their volts decides its input.</p>
      } @else if (!wanted()?.input) {
        <p class="quiet">The coldest and hottest of the place are not said yet: enter them under <i>Place and loads</i>. They decide the input volts.</p>
      }
      <ck-array-fields [array]="array()" owner="planned" [hold]="hold" />
      @if (array()) {
        <p class="acts">
          <button type="button" class="do" (click)="drop()">Remove these panels</button>
          <small class="quiet">The first solar charger that is added takes them over.</small>
        </p>
      }
      <p class="quiet">Every card below says how it would do here. Its maker’s manual has the last word.</p>
    }
  `,
  styleUrl: './figures.scss',
  styles: `
    table {
      margin-bottom: 10px;
    }
    th,
    td {
      vertical-align: top;
    }
    th {
      font-weight: 450;
    }
    td.n {
      font-weight: 640;
      white-space: nowrap;
    }
    p {
      padding: 4px 0;
    }
    @container (max-width: 520px) {
      tr {
        display: grid;
        grid-template-columns: 1fr auto;
        border-bottom: 1px solid var(--ck-rule);
      }
      th,
      td {
        border-bottom: 0;
      }
      td.n {
        padding-right: 0;
      }
      td.quiet {
        grid-column: 1 / -1;
        padding-top: 0;
      }
    }
  `,
})
export class ChoosePanel {
  private readonly store = inject(JobStore);
  private readonly units = inject(Units);
  protected readonly array = computed(() => this.store.job()?.system.plannedArray ?? null);
  protected readonly said = computed(() => {
    const job = this.store.job();
    return job !== null && bankIsSaid(job);
  });
  protected readonly wanted = computed<RatingsWanted | null>(() => {
    const job = this.store.job();
    return job && ratingsWanted(job);
  });

  protected readonly rows = computed<readonly Wanted[]>(() => {
    const wanted = this.wanted();
    const site = this.store.job()?.system.site;
    if (!wanted || !site) return [];
    const { systemVolts, absorbV, input, outputs, pwm, leftA } = wanted;
    const rows: Wanted[] = [];
    const add = (name: string, value: string, how: string): void => {
      rows.push({ name, value, how });
    };
    if (systemVolts !== null)
      add('Battery', `${systemVolts} V`, absorbV === null ? 'the sheet gives no absorb yet' : `and settable to ${formatNumber(absorbV, 2)} V for absorb`);
    if (input) {
      add(
        'Input, most volts',
        `at least ${Math.ceil(input.coldMostV - 1e-9)} V`,
        `a string open at ${this.units.temperature(site.recordLowC)} gives ${formatNumber(input.coldV, 1)} V, up to ${formatNumber(input.coldMostV, 1)} V on a clear night`,
      );
      add('Input, most amps', `at least ${formatNumber(input.designA, 1)} A`, '1.25 × short circuit by the label');
    }
    const [all, ...less] = outputs;
    if (all)
      add(
        'Output, MPPT',
        `${all.amps} A`,
        [
          `passes on all of the panels in absorb${lost(all.lostPercent)}`,
          ...less.map(({ amps, lostPercent }) => (lostPercent === null ? '' : `${amps} A${lost(lostPercent)}`)).filter((words) => words !== ''),
          ...(site.latitude === undefined ? ['enter the latitude to see what a smaller one loses in a year'] : []),
        ].join('; '),
      );
    if (input?.leastV != null && input.hotV < input.leastV)
      add(
        'Panels in series',
        'more',
        `on the hottest day a string works at ${formatNumber(input.hotV, 1)} V; an MPPT charger needs at least ${formatNumber(input.leastV, 1)} V`,
      );
    if (pwm)
      add(
        'Output, PWM',
        `at least ${formatNumber(pwm.amps, 1)} A`,
        `passes on ${formatNumber(pwm.passesW, 0)} W of ${formatNumber(pwm.labelW, 0)} W: it charges at the bank’s volts`,
      );
    if (leftA !== null)
      add('The bank takes', `${formatNumber(leftA, 0)} A more`, 'its ceiling less what the chargers here may give; a larger one needs its current limit set');
    return rows;
  });

  protected readonly hold = ({ field, array }: ArrayEdit): readonly Problem[] =>
    this.store.edit(
      this.array() ? 'Change the panels' : 'Enter the panels',
      (job) => ({ ...job, system: { ...job.system, plannedArray: array } }),
      `planned array ${field}`,
    );

  protected drop(): void {
    this.store.edit('Remove the panels', (job) => {
      const { plannedArray: _before, ...system } = job.system;
      return { ...job, system };
    });
  }
}

/** What a rating loses in a year of clear days, in words; nothing where nobody can tell. */
function lost(percent: number | null): string {
  if (percent === null) return '';
  return percent < 0.05 ? ' and loses nothing' : ` loses ${formatNumber(percent, 1)} % of a clear year`;
}
