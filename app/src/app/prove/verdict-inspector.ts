import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { verdictWords, type ProofRow } from '@calm-keel/core/proof';
import { celsiusDifferenceToFahrenheit, formatNumber } from '@calm-keel/core/quantity';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { verdictGlyphs } from '../ui/verdicts';

/** One verdict in full: why, what shows it, what would settle it, why it matters, and how sure it is. */
@Component({
  selector: 'ck-verdict-inspector',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let r = row();
    <div class="top">
      <h2>{{ r.requirement.name }}</h2>
      <span [class]="'chip t-' + glyphs[r.verdict]"><ck-glyph [name]="glyphs[r.verdict]" [size]="14" />{{ words[r.verdict] }}</span>
    </div>
    <p class="who">{{ name() }}, {{ r.requirement.question === 'specified' ? 'as specified' : 'as programmed' }}</p>
    <p class="why" data-testid="why">{{ units.speak(r.why) }}</p>
    @if (r.evidence) {
      <button type="button" class="ghost" (click)="zoom.emit()">Zoom to {{ when() }}</button>
    }
    @if (r.witness) {
      <h3>What shows it</h3>
      <p class="quiet" data-testid="witness">{{ units.speak(r.witness) }}</p>
    }
    @if (r.next) {
      <h3>What would settle it</h3>
      <p class="quiet">{{ units.speak(r.next) }}</p>
    }
    <h3>Why it matters</h3>
    <p class="quiet">{{ r.requirement.why }}</p>
    @if (r.budget.length > 0) {
      <h3>How sure</h3>
      <table class="budget">
        <caption class="visually-hidden">
          What the uncertainty is made of
        </caption>
        @for (line of r.budget; track $index) {
          <tr>
            <td>{{ units.speak(line.name) }}</td>
            <td class="n">{{ half(line.halfWidth) }}</td>
          </tr>
        }
        @if (r.uncertainty !== null) {
          <tr class="total">
            <td>Together, k = {{ store.job()?.coverage }}</td>
            <td class="n">± {{ half(r.uncertainty) }}</td>
          </tr>
        }
      </table>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .who {
      font-size: 0.8438rem;
      color: var(--ck-ink-2);
    }
    .why {
      margin: 6px 0 8px;
      font-size: 0.9375rem;
    }
    h3 {
      font-size: 0.9062rem;
      font-weight: var(--ck-w-strong);
      margin-top: 10px;
    }
  `,
})
export class VerdictInspector {
  protected readonly store = inject(JobStore);
  protected readonly units = inject(Units);
  readonly row = input.required<ProofRow>();
  /** The charger it is of, or the bank. */
  readonly name = input.required<string>();
  /** When its evidence is, by the log's clock. */
  readonly when = input.required<string>();
  readonly zoom = output();
  protected readonly glyphs = verdictGlyphs;
  protected readonly words = verdictWords;

  /** Half a width in the row's unit, in the person's scale. */
  protected half(width: number): string {
    const { unit } = this.row();
    const fahrenheit = unit === '°C' && this.units.scale() === 'F';
    return `${formatNumber(fahrenheit ? celsiusDifferenceToFahrenheit(width) : width, 3)} ${fahrenheit ? '°F' : unit}`;
  }
}
