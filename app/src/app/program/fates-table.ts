import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Fate } from '@calm-keel/core/runsheet';
import { RunWork } from '../data/run-work';
import { Units } from '../data/units';
import { RunRows } from './run-rows';

const fateWords: Readonly<Record<Fate['ends'], string>> = {
  set: 'Set',
  stands: 'Right',
  inherited: 'Inherited',
  left: 'Left',
  notUsed: 'Not used',
  open: 'Open',
};

/** How every setting of the job, or of one device, ends. */
@Component({
  selector: 'ck-fates-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech"><span role="heading" aria-level="2">How every setting ends</span><small>set, left because, inherited or not used</small></div>
    <table class="rows fates">
      <tbody>
        @for (f of rows(); track f.key) {
          <tr>
            @if (device() === null) {
              <td>{{ f.device }}</td>
            }
            <td>{{ f.label }}</td>
            <td class="n r">{{ f.text }}</td>
            <td>
              <b>{{ f.ends }}</b><span>{{ ', ' + units.speak(f.because) }}</span>
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    .fates {
      td {
        vertical-align: top;
      }
      span {
        color: var(--ck-ink-2);
        font-size: 0.8438rem;
      }
    }
  `,
})
export class FatesTable {
  protected readonly units = inject(Units);
  private readonly work = inject(RunWork);
  private readonly list = inject(RunRows);
  /** Only those of this device; null for all. */
  readonly device = input.required<string | null>();
  protected readonly rows = computed(() =>
    (this.work.sheet()?.fates ?? [])
      .filter((f) => this.device() === null || f.device === this.device())
      .map((f) => ({
        key: `${f.device}/${f.role}`,
        device: this.list.names().get(f.device) ?? '',
        label: f.label,
        text: f.text,
        ends: fateWords[f.ends],
        because: f.because,
      })),
  );
}
