import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { formatNumber, formatTimeOfDay } from '@calm-keel/core/quantity';
import { ViewSize } from '../data/view-size';
import { Axis } from '../ui/axis';
import { axis, pointsPath, ticksOf } from '../ui/scales';

const width = 640;
const height = 190;
/** Room for the numbers, also in the larger letters of a phone, and for half of the last time. */
const left = 58;
const right = 34;
const bottom = 30;
const top = 20;
/** Spacings of the times on the axis, minutes, and how many may stand there. */
const spacings = [5, 10, 30, 60, 120, 360, 720] as const;
const mostTimes = 5;
/** More points are not seen. */
const mostPoints = 400;

/** The bank’s volts over a stretch of time, over the band that absorb should be in where one is given. */
@Component({
  selector: 'ck-volts-line',
  imports: [Axis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawn(); as d) {
      <figure>
        <figcaption>{{ heading() }}</figcaption>
        <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="d.words">
          @if (d.band; as b) {
            <rect [attr.x]="left" [attr.y]="b.y" [attr.width]="width - left" [attr.height]="b.height" fill="var(--ck-absorb-wash)" />
            <text class="band" [attr.x]="left + 6" [attr.y]="b.y + 15">absorb by the sheet</text>
          }
          <g ckAxis side="left" [ticks]="d.volts" [at]="left" [grid]="width" [size]="size()"></g>
          <g ckAxis side="foot" [ticks]="d.times" [at]="height - bottom" [line]="[left, width]" [below]="bottom - 6" [size]="size()"></g>
          <path [attr.d]="d.path" fill="none" stroke="var(--ck-ink)" stroke-width="1.8" stroke-linejoin="round" />
        </svg>
      </figure>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    figure {
      margin: 0;
    }
    figcaption {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
    svg {
      width: 100%;
      height: auto;
      display: block;
    }
    text {
      font-size: 13px;
      fill: var(--ck-ink-2);
    }
    .band {
      fill: var(--ck-absorb);
    }
    @media (max-width: 767px) {
      text {
        font-size: 22px;
      }
    }
  `,
})
export class VoltsLine {
  private readonly view = inject(ViewSize);
  readonly heading = input.required<string>();
  /** Minutes since midnight, and V. */
  readonly points = input.required<readonly (readonly [number, number])[]>();
  /** The first and the last minute of the axis. */
  readonly span = input.required<readonly [number, number]>();
  readonly band = input<{ readonly min: number; readonly max: number } | null>(null);
  protected readonly width = width;
  protected readonly height = height;
  protected readonly left = left;
  protected readonly bottom = bottom;
  /** On a phone the drawing is half as wide, and its figures are written larger in it. */
  protected readonly size = computed(() => (this.view.phone() ? 22 : 13));

  protected readonly drawn = computed(() => {
    const points = this.points();
    const [first, last] = [points[0], points.at(-1)];
    if (!first || !last) return null;
    const band = this.band();
    const [from, to] = this.span();
    const volts = points.map(([, v]) => v);
    const [low, high] = [Math.min(...volts, ...(band ? [band.min] : [])), Math.max(...volts, ...(band ? [band.max] : []))];
    const x = axis([from, to], [left, width - right]);
    const y = axis([low - 0.1, high + 0.1], [height - bottom, top]).nice(4);
    const every = spacings.find((s) => (to - from) / s <= mostTimes) ?? 720;
    const thin = Math.ceil(points.length / mostPoints);
    return {
      path: pointsPath(points.filter((_, i) => i % thin === 0 || i === points.length - 1).map(([at, v]) => [x(at), y(v)])),
      band: band && { y: y(band.max), height: Math.max(2, y(band.min) - y(band.max)) },
      volts: y.ticks(4).map((v) => ({ at: y(v), words: formatNumber(v, 1) })),
      times: ticksOf(x, every, (t) => formatTimeOfDay(t > 1440 ? t % 1440 : t)),
      words: `From ${formatNumber(Math.min(...volts), 2)} to ${formatNumber(Math.max(...volts), 2)} V, at last ${formatNumber(last[1], 2)} V${band ? `; the sheet’s absorb is ${formatNumber(band.min, 1)} to ${formatNumber(band.max, 1)} V` : ''}.`,
    };
  });
}
