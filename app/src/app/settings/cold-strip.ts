import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { formatNumber } from '@calm-keel/core/quantity';
import type { Plan } from '@calm-keel/core/settings';
import { Units } from '../data/units';
import { Axis } from '../ui/axis';
import { axis, pointsPath, ticksOf } from '../ui/scales';

/** The line of no current, px. */
const foot = 88;

/** Allowed charge current as a stair against battery temperature, with the chosen charger's cutoff and resume. */
@Component({
  selector: 'ck-cold-strip',
  imports: [Axis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawing(); as d) {
      <div class="head">
        <h2>Cold and heat</h2>
        <p>{{ d.words }}</p>
      </div>
      <svg [attr.width]="width()" height="112" [attr.viewBox]="'0 0 ' + width() + ' 112'" role="img" [attr.aria-label]="d.words">
        <rect [attr.x]="d.left" y="14" [attr.width]="d.right - d.left" height="74" fill="var(--ck-surface)" />
        @if (d.cutoffX > d.left) {
          <rect [attr.x]="d.left" y="14" [attr.width]="d.cutoffX - d.left" height="74" fill="url(#band-cold)" />
        }
        @if (d.hotX < d.right) {
          <rect [attr.x]="d.hotX" y="14" [attr.width]="d.right - d.hotX" height="74" fill="url(#out)" />
        }
        <path [attr.d]="d.area" fill="var(--ck-done-wash)" opacity=".8" />
        <path [attr.d]="d.stair" fill="none" stroke="var(--ck-ink)" stroke-width="2" />
        @for (stair of d.stairs; track stair.x) {
          <text class="n halo" [attr.x]="stair.x" [attr.y]="stair.y - 4" font-size="12.5" font-weight="600" fill="var(--ck-ink)">{{ stair.text }}</text>
        }
        @if (d.cutoff !== null) {
          <path [attr.d]="'M' + d.cutoffX + ' 14V88'" stroke="var(--ck-cold)" stroke-width="2" />
          <text class="halo" [attr.x]="d.cutoffX - 5" y="29" font-size="12.5" font-weight="620" text-anchor="end" fill="var(--ck-cold)">stop</text>
          <text class="n halo" [attr.x]="d.cutoffX - 5" y="44" font-size="12.5" font-weight="620" text-anchor="end" fill="var(--ck-cold)">{{ d.cutoff }}</text>
        }
        @if (d.resumeX !== null) {
          <path [attr.d]="'M' + d.resumeX + ' 14V88'" stroke="var(--ck-cold)" stroke-width="1.3" stroke-dasharray="4 3" />
        }
        <path [attr.d]="'M' + d.lowX + ' 10V88m-5 -80h10l-5 7z'" stroke="var(--ck-ink)" stroke-width="1.4" fill="var(--ck-ink)" />
        @if (width() >= 480) {
          <text class="halo" [attr.x]="d.lowX - 6" y="60" font-size="12.5" font-weight="600" text-anchor="end" fill="var(--ck-ink)">bank low</text>
          <text class="n halo" [attr.x]="d.lowX - 6" y="75" font-size="12.5" font-weight="600" text-anchor="end" fill="var(--ck-ink)">{{ d.low }}</text>
        }
        <g ckAxis side="foot" [ticks]="d.ticks" [at]="foot" [line]="[d.left, d.right]" [nib]="4" [below]="17"></g>
        <text [attr.x]="d.right + 6" y="105" font-size="12.5" fill="var(--ck-ink-2)">{{ units.label() }}</text>
      </svg>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .halo {
      paint-order: stroke;
      stroke: var(--ck-surface);
      stroke-width: 4px;
      stroke-linejoin: round;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 2px 10px;
      margin: 7px 0 2px;
    }
    h2 {
      font-size: 0.9375rem;
      font-weight: var(--ck-w-strong);
    }
    p {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
  `,
})
export class ColdStrip {
  protected readonly foot = foot;
  protected readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly charger = input<string | null>(null);
  readonly width = input.required<number>();

  protected readonly drawing = computed(() => {
    const plan = this.plan();
    const { stairs } = plan;
    const first = stairs[0];
    const last = stairs.at(-1);
    if (!first || !last || !Number.isFinite(last.amps)) return null;
    const { bankLowC } = plan.input.system.site;
    const charger = this.charger();
    const cutoff = charger === null ? null : (plan.setting(charger, 'lowTempCutoff')?.trueValue ?? null);
    const resume = charger === null ? null : (plan.setting(charger, 'lowTempResume')?.trueValue ?? null);
    const low = Math.min(bankLowC, first.fromC) - 8;
    const high = last.toC + 8;
    const left = 46;
    const right = this.width() - 50;
    const x = axis([low, high], [left, right]);
    const most = Math.max(...stairs.map((s) => s.amps));
    const y = axis([0, most], [foot, foot - 56]);
    const stair = pointsPath([
      [x(first.fromC), foot],
      ...stairs.flatMap((s): [number, number][] => [
        [x(s.fromC), y(s.amps)],
        [x(s.toC), y(s.amps)],
      ]),
      [x(last.toC), foot],
    ]);
    const name = plan.input.system.chargers.find((c) => c.id === charger)?.name;
    const t = (c: number): string => this.units.temperature(c);
    const step = high - low > 70 ? 20 : 10;
    return {
      left,
      right,
      cutoff: cutoff === null ? null : t(cutoff),
      cutoffX: x(cutoff ?? first.fromC),
      resumeX: resume === null ? null : x(resume),
      hotX: x(last.toC),
      lowX: x(bankLowC),
      low: t(bankLowC),
      stair,
      area: `${stair}Z`,
      stairs: stairs.map((s) => ({ x: x(s.fromC) + 5, y: y(s.amps) < 30 ? y(s.amps) + 18 : y(s.amps), text: `${formatNumber(s.amps, 0)} A` })),
      ticks: ticksOf(x, step, (c) => this.units.degrees(c)),
      words: `Current the sheet allows at battery temperature; the bank falls to ${t(bankLowC)}.${cutoff !== null && name ? ` ${name} stops at ${t(cutoff)}${resume === null ? '' : `, resumes at ${t(resume)}`}.` : ''}`,
    };
  });
}
