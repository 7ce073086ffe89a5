import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Job } from '@calm-keel/core/job';
import { labelOf, writeLabel } from '@calm-keel/core/report';
import { devicesOf, type Plan } from '@calm-keel/core/settings';
import { today } from '../data/job-store';
import { QrCode } from '../ui/qr-code';

/** Labels for the lids of the chargers: what is set, when, by which sheet, and a code that holds the same. */
@Component({
  selector: 'ck-labels-panel',
  imports: [QrCode],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="lead">
      One label for each lid. Its code holds the settings as plain text: any phone shows them, without this job, and
      <b>Compare a charger with its label</b> on the Jobs page checks what the display shows against it.
    </p>
    <div class="labels">
      @for (label of labels(); track label.id) {
        <section class="label" [attr.aria-label]="'Label of ' + label.device">
          <header>
            <b>{{ label.device }}</b><span>{{ label.model }}</span>
          </header>
          <dl>
            @for (line of label.lines; track line.label) {
              <div>
                <dt>{{ line.label }}</dt>
                <dd class="n">{{ line.value }}</dd>
              </div>
            }
          </dl>
          <ck-qr-code [text]="label.text" [label]="'Code of the settings of ' + label.device" />
          <footer>{{ label.site }}. {{ label.by }}. {{ label.date }}, {{ label.state }}.</footer>
        </section>
      } @empty {
        <p class="quiet">No charger with a card is entered yet, so there is nothing to put on a label.</p>
      }
    </div>
  `,
  styles: `
    .lead {
      max-width: 72ch;
      padding: 4px 0 12px;
      color: var(--ck-ink-2);
      font-size: 0.875rem;
    }
    .labels {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(330px, 100%), 1fr));
      gap: 16px;
    }
    .label {
      border: 1.5px solid var(--ck-ink);
      background: var(--ck-print-paper);
      padding: 8px 10px;
      display: grid;
      grid-template-columns: minmax(0, 1fr) 150px;
      grid-template-rows: auto 1fr auto;
      gap: 4px 10px;
      font-size: 0.8125rem;
      break-inside: avoid;
      color: var(--ck-print);
    }
    header {
      grid-column: 1 / -1;
      display: flex;
      justify-content: space-between;
      gap: 10px;
      border-bottom: 1px solid var(--ck-print);
      font-size: 0.875rem;
      b {
        font-weight: 640;
      }
    }
    dl {
      margin: 0;
    }
    dl div {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      border-bottom: 0.5px solid var(--ck-rule-mid);
      line-height: 1.45;
    }
    dt {
      font-weight: 400;
      flex: 1 1 45%;
      overflow-wrap: break-word;
      min-width: 0;
    }
    dd {
      margin: 0;
      font-weight: 620;
      text-align: right;
      white-space: normal;
    }
    footer {
      grid-column: 1 / -1;
      font-size: 0.75rem;
    }
    @media (max-width: 767px) {
      .labels {
        grid-template-columns: 1fr;
      }
    }
    @media print {
      .lead {
        display: none;
      }
      .labels {
        grid-template-columns: 1fr 1fr;
        gap: 6mm;
      }
      .label {
        font-size: 8.5pt;
      }
      footer {
        font-size: 7.5pt;
      }
    }
  `,
})
export class LabelsPanel {
  readonly job = input.required<Job>();
  readonly plan = input.required<Plan>();
  protected readonly labels = computed(() =>
    devicesOf(this.plan().input).flatMap((d) => {
      const label = labelOf(this.job(), this.plan(), d.id, today());
      return label ? [{ ...label, id: d.id, text: writeLabel(label) }] : [];
    }),
  );
}
