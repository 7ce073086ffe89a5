import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { Axis } from '../ui/axis';
import { axis, tracePath, type Tick } from '../ui/scales';
import { laneShares, plotMargins, type Figure, type Lanes } from './lanes';
import type { Stretch } from './log-window';

/** The picture of a log: what is seen first, and all that a thumb needs. */
@Component({
  selector: 'ck-log-picture',
  imports: [Axis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawn(); as d) {
      <svg [attr.width]="width()" [attr.height]="height()" (click)="choose($event)">
        <defs>
          @for (lane of d.lanes; track lane.name) {
            <clipPath [id]="'lane-' + lane.name">
              <rect [attr.x]="left" [attr.y]="lane.top" [attr.width]="d.right - left" [attr.height]="lane.bottom - lane.top" />
            </clipPath>
          }
        </defs>
        @for (g of d.gaps; track $index) {
          <rect [attr.x]="g.x" [attr.y]="top" [attr.width]="g.w" [attr.height]="d.foot - top" fill="var(--ck-rule-strong)" fill-opacity="0.22" />
        }
        @if (d.evidence; as e) {
          <rect
            [attr.x]="e.x"
            [attr.y]="top"
            [attr.width]="e.w"
            [attr.height]="d.foot - top"
            fill="var(--ck-copper)"
            fill-opacity="0.14"
            stroke="var(--ck-copper)"
            stroke-width="1.5"
          />
        }
        <g ckAxis side="foot" [ticks]="d.times" [at]="d.foot" [grid]="top" [below]="18"></g>
        <g clip-path="url(#lane-volts)">
          @for (b of d.bands; track b.name) {
            <rect
              [attr.x]="left"
              [attr.y]="b.y"
              [attr.width]="d.right - left"
              [attr.height]="b.h"
              [attr.fill]="'var(--ck-' + b.look.fill + ')'"
              [attr.fill-opacity]="b.look.opacity"
            />
            <path
              [attr.d]="'M' + left + ' ' + b.y + 'H' + d.right + 'M' + left + ' ' + (b.y + b.h) + 'H' + d.right"
              [attr.stroke]="'var(--ck-' + b.look.edge + ')'"
            />
          }
          @if (d.recharge !== null) {
            <path [attr.d]="'M' + left + ' ' + d.recharge + 'H' + d.right" stroke="var(--ck-ink-2)" stroke-width="1.2" stroke-dasharray="2 3" />
          }
          <path [attr.d]="d.volts" fill="none" stroke="var(--ck-ink)" stroke-width="1.8" stroke-linejoin="round" />
          @if (d.above) {
            <path [attr.d]="d.above" fill="none" stroke="var(--ck-stop)" stroke-width="3.4" stroke-linejoin="round" />
          }
        </g>
        @for (b of d.bands; track b.name) {
          <text [attr.x]="left + 3" [attr.y]="b.y + b.h / 2 + 4.3" font-size="12.5" [attr.fill]="'var(--ck-' + b.look.edge + ')'" class="over">
            {{ b.name }}
          </text>
        }
        <g clip-path="url(#lane-amps)">
          @if (d.nought !== null) {
            <path [attr.d]="'M' + left + ' ' + d.nought + 'H' + d.right" stroke="var(--ck-rule-strong)" />
          }
          @for (f of d.flows; track f.id) {
            <path [attr.d]="f.path" fill="none" stroke="var(--ck-ink)" stroke-width="1.4" [attr.stroke-dasharray]="f.dash || null" stroke-linejoin="round" />
          }
        </g>
        @if (lanes().key) {
          <text [attr.x]="d.right - 3" [attr.y]="d.lanes[1].top + 14" text-anchor="end" font-size="12.5" fill="var(--ck-ink-2)" class="over">
            {{ lanes().key }}
          </text>
        }
        <g clip-path="url(#lane-battery)">
          @if (d.least !== null) {
            <rect [attr.x]="left" [attr.y]="d.least" [attr.width]="d.right - left" [attr.height]="height()" fill="var(--ck-tx-cold)" fill-opacity="0.25" />
            <path [attr.d]="'M' + left + ' ' + d.least + 'H' + d.right" stroke="var(--ck-cold)" />
          }
          @if (d.warmth) {
            <path [attr.d]="d.warmth" fill="none" stroke="var(--ck-ink)" stroke-width="1.8" stroke-linejoin="round" />
          }
        </g>
        @for (lane of d.lanes; track lane.name) {
          <rect
            [attr.x]="left"
            [attr.y]="lane.top"
            [attr.width]="d.right - left"
            [attr.height]="lane.bottom - lane.top"
            fill="none"
            stroke="var(--ck-ink)"
            stroke-width="1.5"
          />
          <g ckAxis side="left" [ticks]="lane.ticks" [at]="left"></g>
        }
        @for (o of d.odd; track $index) {
          <path [attr.d]="'M' + (o.x - 6) + ' ' + (o.y - 5) + 'h12l-6 10z'" fill="var(--ck-attention-wash)" stroke="var(--ck-attention)" stroke-width="1.6">
            <title>{{ o.title }}</title>
          </path>
        }
        @if (d.chosen !== null) {
          <path [attr.d]="'M' + d.chosen + ' ' + top + 'V' + d.foot" stroke="var(--ck-copper)" stroke-width="2" />
        }
      </svg>
    }
  `,
  styles: `
    :host,
    svg {
      display: block;
    }
    svg {
      cursor: pointer;
    }
    /* Words over lines. */
    .over {
      paint-order: stroke;
      stroke: var(--ck-surface);
      stroke-width: 4px;
    }
  `,
})
export class LogPicture {
  readonly lanes = input.required<Lanes>();
  readonly width = input.required<number>();
  readonly height = input.required<number>();
  /** A moment of the log that was pressed, s since 1970. */
  readonly pressed = output<number>();

  protected readonly left = plotMargins.left;
  protected readonly top = plotMargins.top;
  private readonly x = computed(() => axis([this.lanes().window.from, this.lanes().window.to], [this.left, this.width() - plotMargins.right]));

  protected readonly drawn = computed(() => {
    const lanes = this.lanes();
    const foot = this.height() - plotMargins.bottom;
    const right = this.width() - plotMargins.right;
    const x = this.x();
    const seen = x.copy().clamp(true);
    const lane = (name: keyof typeof laneShares) => {
      const [low, high] = laneShares[name];
      const [bottom, top] = [foot - low * (foot - this.top), foot - high * (foot - this.top)];
      const y = axis(lanes[name].range, [bottom, top]);
      return { name, top, bottom, y, ticks: ticks(lanes[name].figures, y) };
    };
    const [volts, amps, battery] = [lane('volts'), lane('amps'), lane('battery')] as const;
    const span = ({ from, to }: Stretch) => ({ x: seen(from), w: Math.max(1, seen(to) - seen(from)) });
    const within = (at: number): boolean => at >= lanes.window.from && at <= lanes.window.to;
    const { evidence, chosenAt, gaps } = lanes.marks;
    return {
      foot,
      right,
      lanes: [volts, amps, battery] as const,
      times: ticks(lanes.times, x),
      bands: lanes.bands.map((b) => ({ name: b.name, look: b.look, y: volts.y(b.max), h: volts.y(b.min) - volts.y(b.max) })),
      recharge: lanes.recharge === undefined ? null : volts.y(lanes.recharge),
      volts: tracePath(lanes.trace, x, volts.y),
      above: lanes.above && tracePath(lanes.above, x, volts.y),
      nought: lanes.amps.range[0] < 0 ? amps.y(0) : null,
      flows: lanes.flows.map((f) => ({ id: f.id, dash: f.line.dash, path: tracePath(f.amps, x, amps.y) })),
      least: lanes.least === undefined ? null : battery.y(lanes.least),
      warmth: lanes.warmth && tracePath(lanes.warmth, x, battery.y),
      gaps: gaps.filter((g) => g.to > lanes.window.from && g.from < lanes.window.to).map(span),
      evidence: evidence && evidence.to >= lanes.window.from && evidence.from <= lanes.window.to ? span(evidence) : null,
      odd: lanes.odd.filter((o) => within(o.at)).map((o) => ({ x: x(o.at), y: volts.y(o.volts), title: o.title })),
      chosen: chosenAt !== null && within(chosenAt) ? x(chosenAt) : null,
    };
  });

  protected choose(event: MouseEvent): void {
    const at = this.x().invert(event.clientX - (event.currentTarget as Element).getBoundingClientRect().left);
    const { from, to } = this.lanes().window;
    if (at >= from && at <= to) this.pressed.emit(at);
  }
}

/** Figures where they stand on an axis. */
const ticks = (figures: readonly Figure[], place: (value: number) => number): Tick[] => figures.map((f) => ({ at: place(f.value), words: f.words }));
