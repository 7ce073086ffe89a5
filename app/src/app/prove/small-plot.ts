import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Units } from '../data/units';
import { axis, pointsPath } from '../ui/scales';

/** One reading of a small plot. */
export interface SmallPoint {
  readonly at: number;
  readonly volts: number;
  readonly celsius: number;
}

const width = 320;
const height = 120;

/** Volts, and sensor temperature beneath, over the time of a test: small enough for a phone, drawn from the readings alone. */
@Component({
  selector: 'ck-small-plot',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawn(); as d) {
      <svg [attr.viewBox]="'0 0 ' + w + ' ' + h" role="img" [attr.aria-label]="d.words">
        @for (lane of d.lanes; track lane.unit) {
          <text x="0" [attr.y]="lane.top + 11" font-size="11.5" fill="var(--ck-ink-2)">{{ lane.high }} {{ lane.unit }}</text>
          <text x="0" [attr.y]="lane.bottom" font-size="11.5" fill="var(--ck-ink-2)">{{ lane.low }}</text>
          <path [attr.d]="'M52 ' + lane.bottom + 'H' + w" stroke="var(--ck-rule-strong)" />
          <path [attr.d]="lane.path" fill="none" stroke="var(--ck-ink)" stroke-width="1.8" [attr.stroke-dasharray]="lane.dash" />
          @for (p of lane.dots; track $index) {
            <circle [attr.cx]="p.x" [attr.cy]="p.y" r="2.6" fill="var(--ck-ink)" />
          }
        }
      </svg>
    }
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: auto;
      max-width: 380px;
    }
  `,
})
export class SmallPlot {
  private readonly units = inject(Units);
  readonly points = input.required<readonly SmallPoint[]>();
  protected readonly w = width;
  protected readonly h = height;
  protected readonly drawn = computed(() => {
    const points = this.points();
    const first = points[0];
    const last = points.at(-1);
    if (!first || !last || points.length < 2) return null;
    const x = axis([first.at, last.at], [54, width - 6]);
    const lane = (pick: (p: SmallPoint) => number, unit: string, top: number, bottom: number, digits: number, least: number, dash: string) => {
      const known = points.filter((p) => Number.isFinite(pick(p)));
      if (known.length < 2) return [];
      const values = known.map(pick);
      const middle = (Math.min(...values) + Math.max(...values)) / 2;
      const half = Math.max(least, (Math.max(...values) - Math.min(...values)) / 2);
      const y = axis([middle - half, middle + half], [bottom - 3, top + 5]);
      return [
        {
          unit,
          top,
          bottom,
          dash,
          high: (middle + half).toFixed(digits),
          low: (middle - half).toFixed(digits),
          path: pointsPath(known.map((p) => [x(p.at), y(pick(p))])),
          dots: known.length <= 60 ? known.map((p) => ({ x: x(p.at), y: y(pick(p)) })) : [],
        },
      ];
    };
    const warm = points.some((p) => Number.isFinite(p.celsius));
    const lanes = [
      ...lane((p) => p.volts, 'V', 0, warm ? 72 : height - 4, 2, 0.05, ''),
      ...(warm ? lane((p) => this.units.number(p.celsius), this.units.label(), 78, height - 2, 0, 1, '4 3') : []),
    ];
    return lanes.length === 0 ? null : { lanes, words: `${points.length} readings, volts from ${first.volts.toFixed(2)} to ${last.volts.toFixed(2)}` };
  });
}
