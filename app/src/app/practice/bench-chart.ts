import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { formatNumber, type BenchSample } from '@calm-keel/core';
import { BenchSession, clock } from './bench-session';

const width = 640;
const height = 190;
const left = 44;
const bottom = 24;
/** Longest stretch drawn, s. */
const longest = 6 * 3600;

/** The bank’s volts since somebody arrived, over the band that absorb should be in. */
@Component({
  selector: 'ck-bench-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawn(); as d) {
      <figure>
        <figcaption>Volts at the bank since you arrived</figcaption>
        <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="d.words">
          @if (d.band; as b) {
            <rect [attr.x]="left" [attr.y]="b.y" [attr.width]="width - left" [attr.height]="b.height" fill="var(--ck-absorb-wash)" />
            <text [attr.x]="left + 6" [attr.y]="b.y + 15" fill="var(--ck-absorb)">absorb by the sheet</text>
          }
          @for (t of d.volts; track t.y) {
            <text [attr.x]="left - 6" [attr.y]="t.y + 4" text-anchor="end">{{ t.words }}</text>
          }
          @for (t of d.times; track t.x) {
            <text [attr.x]="t.x" [attr.y]="height - 6" text-anchor="middle">{{ t.words }}</text>
          }
          <path [attr.d]="'M' + left + ' ' + (height - bottom) + 'H' + width" stroke="var(--ck-ink)" />
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
      margin: 18px 0 0;
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
    text[fill] {
      fill: var(--ck-absorb);
    }
    @media (max-width: 767px) {
      text {
        font-size: 22px;
      }
    }
  `,
})
export class BenchChart {
  private readonly session = inject(BenchSession);
  protected readonly width = width;
  protected readonly height = height;
  protected readonly left = left;
  protected readonly bottom = bottom;

  protected readonly drawn = computed(() => {
    const { bench } = this.session.now();
    if (!bench) return null;
    const now = bench.seconds();
    const samples = bench.samples().filter((s) => s.at >= now - longest);
    const first = samples[0];
    if (!first) return null;
    const band = absorbBand(bench);
    const inView = samples.map((s) => s.volts);
    const [low, high] = [Math.min(...inView, ...(band ? [band.min] : [])), Math.max(...inView, ...(band ? [band.max] : []))];
    const y = scaleLinear([low - 0.1, high + 0.1], [height - bottom, 8]).nice(4);
    const from = first.at;
    const x = scaleLinear([from, Math.max(now, from + 1800)], [left, width - 16]);
    const startMinute = bench.arrivedMinute;
    const draw = line<BenchSample>(
      (s) => x(s.at),
      (s) => y(s.volts),
    );
    return {
      path: draw(thin(samples)) ?? '',
      band: band && { y: y(band.max), height: Math.max(2, y(band.min) - y(band.max)) },
      volts: y.ticks(4).map((v) => ({ y: y(v), words: formatNumber(v, 1) })),
      times: x.ticks(5).map((t) => ({ x: x(t), words: clock((startMinute + t / 60 + 1440) % 1440) })),
      words: `From ${formatNumber(first.volts, 2)} V to ${formatNumber(samples.at(-1)?.volts ?? NaN, 2)} V${band ? `; the sheet’s absorb is ${formatNumber(band.min, 1)} to ${formatNumber(band.max, 1)} V` : ''}.`,
    };
  });
}

/** The band of the first charger’s absorb by the sheet on the wall. */
function absorbBand(bench: NonNullable<ReturnType<BenchSession['now']>['bench']>): { min: number; max: number } | null {
  const band = bench.wall().settings.find((s) => s.role === 'absorbVoltage' && s.band)?.band;
  return band?.min != null && band.max != null ? { min: band.min, max: band.max } : null;
}

/** At most some hundred points: more are not seen. */
const thin = (samples: readonly BenchSample[]): BenchSample[] => {
  const every = Math.ceil(samples.length / 400);
  return samples.filter((_, i) => i % every === 0 || i === samples.length - 1);
};
