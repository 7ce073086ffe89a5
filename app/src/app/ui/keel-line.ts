import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Station } from '../data/stations';

const depthOf = { proved: 11, done: 11, attention: 5, stop: 5, inconclusive: 5, note: 5, notyet: 1 } as const;

/** The hull: a straight top edge, deep where work is done, shallow where it is open, a line where it has not begun. */
@Component({
  selector: 'ck-keel-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ':host { display: block } svg { display: block; width: 100%; overflow: visible }',
  template: `
    <svg [attr.height]="height()" [attr.viewBox]="'0 0 ' + width() + ' ' + height()" [attr.preserveAspectRatio]="'none'" aria-hidden="true">
      <path [attr.d]="hull()" fill="var(--ck-ink)" />
    </svg>
  `,
})
export class KeelLine {
  readonly stations = input.required<readonly Station[]>();
  /** Where each station stands, px from the left. */
  readonly places = input.required<readonly number[]>();
  readonly width = input.required<number>();
  readonly height = input(24);

  protected readonly hull = computed(() => {
    const places = this.places();
    const depths = this.stations().map((s) => depthOf[s.state]);
    const top = 6;
    const ease = (t: number): number => t * t * (3 - 2 * t);
    const at = (x: number): number => {
      const right = places.findIndex((p) => p >= x);
      if (right === 0) return 1 + ((depths[0] ?? 1) - 1) * ease(Math.max(0, Math.min(1, x / Math.max(1, places[0] ?? 1))));
      if (right === -1) {
        const last = places.at(-1) ?? 0;
        return 1 + ((depths.at(-1) ?? 1) - 1) * ease(Math.max(0, 1 - (x - last) / 60));
      }
      const a = places[right - 1] ?? 0;
      const b = places[right] ?? a + 1;
      const t = Math.max(0, Math.min(1, (x - a - (b - a) * 0.45) / ((b - a) * 0.5)));
      return (depths[right - 1] ?? 1) + ((depths[right] ?? 1) - (depths[right - 1] ?? 1)) * ease(t);
    };
    const points: string[] = [];
    for (let x = this.width(); x >= 0; x -= 6) points.push(`L${x} ${(top + at(x)).toFixed(2)}`);
    return `M0 ${top}H${this.width()}${points.join('')}Z`;
  });
}
