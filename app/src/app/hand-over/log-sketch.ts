import { ChangeDetectionStrategy, Component, computed, inject, input, resource } from '@angular/core';
import type { Job } from '@calm-keel/core/job';
import { drawnLog, longestStep, type DrawnLog } from '@calm-keel/core/proof';
import { formatClock, formatDate, formatNumber } from '@calm-keel/core/quantity';
import type { Plan } from '@calm-keel/core/settings';
import { figureOnBank, statedFigure } from '@calm-keel/core/sheet';
import { JobBook } from '../data/job-book';
import { Axis } from '../ui/axis';
import { axis, tracePath, type Tick } from '../ui/scales';

const width = 720;
const left = 52;
const right = 712;
const volts = { top: 8, bottom: 138 } as const;
const amps = { top: 156, bottom: 206 } as const;
/** Points of a drawn trace: more than paper shows. */
const points = 2000;
/** Room for one charger in the key, px. */
const keyWidth = 130;
const dashes = ['', '5 3', '1.5 2.5', '7 3 1.5 3'] as const;

/** What is drawn of a log on paper. */
interface Sketch {
  readonly bands: readonly { readonly y: number; readonly h: number; readonly fill: string; readonly name: string; readonly at: number }[];
  readonly trace: string;
  readonly currents: readonly { readonly d: string; readonly dash: string; readonly name: string; readonly keyX: number }[];
  readonly times: readonly Tick[];
  readonly volts: readonly Tick[];
  readonly amps: readonly Tick[];
}

/** A log small enough for paper: bank volts over the maker's bands, the charge current of each charger below. */
export function sketchLog(plan: Plan, view: DrawnLog, offsetMinutes: number | null): Sketch {
  const from = view.volts.time[0] ?? 0;
  const to = view.volts.time.at(-1) ?? from + 1;
  const x = axis([from, to], [left, right]);
  const bands = (['absorbVoltage', 'floatVoltage'] as const).flatMap((key) => {
    const figure = statedFigure(plan.input.sheet, key);
    const { min, max } = figure ? figureOnBank(figure, plan.facts.shape).band : {};
    return min !== undefined && max !== undefined ? [{ key, min, max }] : [];
  });
  const seen = view.volts.value.filter(Number.isFinite);
  const low = Math.min(...seen, ...bands.map((b) => b.min)) - 0.15;
  const high = Math.max(...seen, ...bands.map((b) => b.max)) + 0.15;
  const y = axis([low, high], [volts.bottom, volts.top]);
  const flow = Math.max(1, ...view.chargers.flatMap((c) => c.amps.value.filter(Number.isFinite)));
  const yA = axis([0, flow], [amps.bottom, amps.top]).clamp(true);
  const names = new Map(plan.input.system.chargers.map((c) => [c.id, c.name]));
  const days = to - from > 36 * 3600;
  return {
    bands: bands.map((b) => ({
      y: y(b.max),
      h: Math.max(1, y(b.min) - y(b.max)),
      fill: b.key === 'absorbVoltage' ? 'var(--ck-band-absorb)' : 'var(--ck-band-float)',
      name: b.key === 'absorbVoltage' ? 'absorb band' : 'float band',
      at: (y(b.max) + y(b.min)) / 2 + 3.5,
    })),
    trace: tracePath(view.volts, x, y),
    currents: view.chargers.map((c, i) => ({
      d: tracePath(c.amps, x, yA),
      dash: dashes[i % dashes.length] ?? '',
      name: names.get(c.id) ?? c.id,
      keyX: left + 6 + i * keyWidth,
    })),
    times: [0, 0.25, 0.5, 0.75, 1].map((share) => {
      const t = from + share * (to - from);
      return { at: x(t), words: days ? formatDate(t, offsetMinutes) : formatClock(t, offsetMinutes) };
    }),
    volts: [low + 0.15, (low + high) / 2, high - 0.15].map((v) => ({ at: y(v), words: formatNumber(v, 1) })),
    amps: [0, flow].map((v) => ({ at: yA(v), words: formatNumber(v, 0) })),
  };
}

/** The plot of a log as a report prints it. */
@Component({
  selector: 'ck-log-sketch',
  imports: [Axis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (sketch(); as s) {
      <svg [attr.width]="width" height="226" [attr.viewBox]="'0 0 ' + width + ' 226'" [attr.data-log]="log()" aria-hidden="true">
        @for (b of s.bands; track b.name) {
          <rect [attr.x]="left" [attr.y]="b.y" [attr.width]="right - left" [attr.height]="b.h" [attr.fill]="b.fill" />
          <text [attr.x]="left + 4" [attr.y]="b.at" font-size="10" fill="var(--ck-ink-2)">{{ b.name }}</text>
        }
        <path [attr.d]="frame" fill="none" stroke="var(--ck-ink)" stroke-width="1" />
        <g ckAxis side="left" [ticks]="s.volts" [at]="left" [size]="10"></g>
        <g ckAxis side="left" [ticks]="s.amps" [at]="left" [size]="10"></g>
        <text x="4" [attr.y]="volts.top + 10" font-size="10" fill="var(--ck-ink-2)">V</text>
        <text x="4" [attr.y]="amps.top + 10" font-size="10" fill="var(--ck-ink-2)">A</text>
        <path [attr.d]="s.trace" fill="none" stroke="var(--ck-ink)" stroke-width="1.3" />
        @for (c of s.currents; track c.name) {
          <path [attr.d]="c.d" fill="none" stroke="var(--ck-ink)" stroke-width="1" [attr.stroke-dasharray]="c.dash || null" />
        }
        @for (c of s.currents; track c.name) {
          <path [attr.d]="'M' + c.keyX + ' 149h24'" stroke="var(--ck-ink)" [attr.stroke-dasharray]="c.dash || null" />
          <text [attr.x]="c.keyX + 29" y="152.5" font-size="10" fill="var(--ck-ink)">{{ c.name }}</text>
        }
        <g ckAxis side="foot" [ticks]="s.times" [at]="amps.bottom" [below]="15" [tuck]="true" [size]="10"></g>
      </svg>
    } @else if (view.error()) {
      <p class="quiet">The samples of this log are not on this device, so it cannot be drawn.</p>
    } @else {
      <p class="quiet" role="status">Drawing the log.</p>
    }
  `,
  styles: `
    svg {
      max-width: 100%;
      height: auto;
      display: block;
    }
  `,
})
export class LogSketch {
  private readonly book = inject(JobBook);
  readonly job = input.required<Job>();
  readonly plan = input.required<Plan>();
  readonly log = input.required<string>();
  protected readonly width = width;
  protected readonly left = left;
  protected readonly right = right;
  protected readonly volts = volts;
  protected readonly amps = amps;
  protected readonly frame = `M${left} ${volts.top}V${volts.bottom}H${right}M${left} ${amps.top}V${amps.bottom}H${right}`;

  protected readonly view = resource({
    params: () => {
      const entry = this.job().logs.find((l) => l.id === this.log());
      return entry ? { job: this.job().id, log: entry.id } : undefined;
    },
    loader: async ({ params: { job, log } }) => {
      const row = await this.book.getLog(job, log);
      if (!row) throw new Error('the samples are not on this device');
      return { drawn: drawnLog(row.log, points, longestStep(row.report)), offset: row.log.offsetMinutes };
    },
  });
  protected readonly sketch = computed(() => (this.view.hasValue() ? sketchLog(this.plan(), this.view.value().drawn, this.view.value().offset) : null));
}
