import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { stepFigure, type Step } from '@calm-keel/core/settings';
import { Units } from '../data/units';

/** A worked sum: words left, figures right, one operation a line, a double rule under the value to set. */
@Component({
  selector: 'ck-derivation',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table>
      <caption>
        How it is worked out
      </caption>
      <tbody>
        @for (line of lines(); track $index) {
          <tr [class]="line.kind">
            @if (line.figure) {
              <td>{{ line.words }}</td>
              <td class="n">
                {{ line.figure }}<i>{{ line.unit }}</i>
              </td>
            } @else {
              <td colspan="2">{{ line.words }}</td>
            }
          </tr>
        }
      </tbody>
    </table>
    @for (source of sources(); track source) {
      <p>{{ source }}</p>
    }
  `,
  styles: `
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 0.8438rem;
    }
    caption {
      caption-side: top;
      color: inherit;
      text-align: left;
      font-weight: var(--ck-w-strong);
      font-size: 0.9062rem;
      padding: 2px 0 3px;
    }
    td {
      padding: 2.5px 0;
      vertical-align: top;
      line-height: 1.25;
      border-top: 1px solid var(--ck-rule);
    }
    td + td {
      text-align: right;
      padding-left: 8px;
      font-size: 0.875rem;
    }
    i {
      font-style: normal;
      font-family: var(--ck-font);
      font-weight: 450;
      margin-left: 0.22em;
    }
    tr:first-child td {
      border-top-color: var(--ck-rule-strong);
    }
    .subtotal td {
      border-top-color: var(--ck-ink);
    }
    .set td {
      border-top-color: var(--ck-ink);
      border-bottom: 3px double var(--ck-ink);
      font-weight: 680;
      font-size: 0.9375rem;
    }
    .after td {
      border-top: 0;
      padding-top: 5px;
    }
    .note td {
      color: var(--ck-ink-2);
    }
    p {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
      line-height: 1.35;
      margin-top: 4px;
    }
  `,
})
export class Derivation {
  private readonly units = inject(Units);
  readonly steps = input.required<readonly Step[]>();

  protected readonly lines = computed(() =>
    this.steps().map((step) => {
      const { figure, unit } = stepFigure(step, this.units.scale());
      return { kind: step.kind, words: this.units.speak(step.words), figure, unit };
    }),
  );
  protected readonly sources = computed(() => [...new Set(this.steps().flatMap((s) => (s.source ? [s.source] : [])))]);
}
