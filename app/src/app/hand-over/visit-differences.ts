import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from '@angular/core';
import { differencesBetween, differenceWords, type Job } from '@calm-keel/core/job';
import { dayWords } from '../ui/day-words';
import { Glyph } from '../ui/glyph';

/** What differs between any two days with something on record. */
@Component({
  selector: 'ck-visit-differences',
  imports: [Glyph],
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
                >: {{ d.what }} <span class="n">{{ d.from }}</span>&ngsp;<span class="to">becomes</span>&ngsp;<span class="n">{{ d.to }}</span
                >, {{ how[d.how] }}<small>{{ d.how === 'elsewhere' ? 'first seen' : '' }} {{ dayWords(d.at.slice(0, 10)) }}</small></span
              >
            </li>
          } @empty {
            <li><ck-glyph name="done" [size]="16" /><span>Nothing on record differs between the two.</span></li>
          }
        </ul>
      }
    </section>
  `,
  styles: `
    :host {
      display: block;
    }
    .sech select {
      max-width: 100%;
      font: inherit;
      border: var(--ck-edge);
      border-radius: var(--ck-radius);
      background: var(--ck-surface);
      min-height: 32px;
      padding: 2px 6px;
    }
    .diff li {
      display: grid;
      grid-template-columns: 18px 1fr;
      gap: 8px;
      padding: 6px 0;
      border-bottom: 1px solid var(--ck-rule);
      ck-glyph {
        margin-top: 3px;
      }
    }
    .off {
      background: var(--ck-attention-wash);
      padding-left: 8px !important;
    }
    .to {
      color: var(--ck-ink-2);
      margin: 0 0.1em;
    }
    small {
      display: block;
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
    @media (max-width: 767px) {
      .sech select {
        min-height: 44px;
      }
    }
  `,
})
export class VisitDifferences {
  readonly job = input.required<Job>();
  /** Days with something on record of a device, the oldest first. */
  readonly dates = input.required<readonly string[]>();
  protected readonly how = differenceWords;
  protected readonly dayWords = dayWords;
  protected readonly from = linkedSignal(() => this.dates().at(-2) ?? '');
  protected readonly to = linkedSignal(() => this.dates().at(-1) ?? '');
  protected readonly differences = computed(() => {
    const [from, to] = [this.from(), this.to()].sort();
    return from && to ? differencesBetween(this.job(), from, to) : [];
  });
}
