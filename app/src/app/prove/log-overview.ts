import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, input, output, viewChild } from '@angular/core';
import type { Trace } from '@calm-keel/core/proof';
import { brushX, type D3BrushEvent } from 'd3-brush';
import { select } from 'd3-selection';
import { axis, tracePath } from '../ui/scales';
import { shortest, type Stretch } from './log-window';

const height = 44;

/** A long log whole, small, with the stretch in view marked on it: pulled along, pulled longer at its ends, or drawn anew. */
@Component({
  selector: 'ck-log-overview',
  changeDetection: ChangeDetectionStrategy.OnPush,
  // What is done here by hand, the buttons and keys of the stretch do too.
  host: { 'aria-hidden': 'true' },
  template: `
    <svg [attr.width]="width()" [attr.height]="height">
      <text x="0" [attr.y]="height / 2 + 4" font-size="12.5" fill="var(--ck-ink-2)">Whole log</text>
      <rect
        [attr.x]="left()"
        y="0.5"
        [attr.width]="width() - left() - right()"
        [attr.height]="height - 1"
        fill="var(--ck-paper)"
        stroke="var(--ck-rule-strong)"
      />
      @for (d of nights(); track $index) {
        <path [attr.d]="'M' + d + ' 1V' + (height - 1)" stroke="var(--ck-rule)" class="night" />
      }
      <path [attr.d]="path()" fill="none" stroke="var(--ck-ink)" stroke-width="1.2" />
      <g #brush class="brush"></g>
    </svg>
  `,
  styleUrl: './log-overview.scss',
})
export class LogOverview {
  readonly trace = input.required<Trace>();
  readonly whole = input.required<Stretch>();
  readonly window = input.required<Stretch>();
  readonly days = input.required<readonly Stretch[]>();
  readonly width = input.required<number>();
  readonly left = input(0);
  readonly right = input(0);
  /** The stretch that is asked for; null for the whole log. */
  readonly changed = output<Stretch | null>();

  protected readonly height = height;
  private readonly group = viewChild.required<ElementRef<SVGGElement>>('brush');
  private readonly x = computed(() => axis([this.whole().from, this.whole().to], [this.left(), this.width() - this.right()]));
  protected readonly nights = computed(() =>
    this.days()
      .map((d) => d.from)
      .filter((t) => t > this.whole().from)
      .map((t) => this.x()(t)),
  );
  protected readonly path = computed(() => {
    const values = this.trace().value.filter(Number.isFinite);
    return tracePath(this.trace(), this.x(), axis([Math.min(...values), Math.max(...values)], [height - 4, 4]));
  });

  constructor() {
    afterRenderEffect(() => {
      const [from, to] = [this.left(), this.width() - this.right()];
      const { from: first, to: last } = this.window();
      const all = first <= this.whole().from && last >= this.whole().to;
      const brush = brushX<unknown>()
        .extent([
          [from, 0],
          [to, height],
        ])
        .handleSize(14)
        .on('end', (event: D3BrushEvent<unknown>) => {
          // What this page marks itself is nobody’s wish.
          if (event.sourceEvent) this.changed.emit(this.asked(event.selection as [number, number] | null));
        });
      select(this.group().nativeElement)
        .call(brush)
        .call(brush.move, all ? null : [this.x()(first), this.x()(last)]);
    });
  }

  /** The stretch between two places, no shorter than can be looked at; null where that is the whole. */
  private asked(places: readonly [number, number] | null): Stretch | null {
    if (!places) return null;
    const { from, to } = this.whole();
    const [a, b] = places.map((p) => this.x().invert(p)) as [number, number];
    const width = Math.max(shortest, b - a);
    if (width >= to - from) return null;
    const start = Math.min(Math.max(from, (a + b - width) / 2), to - width);
    return { from: start, to: start + width };
  }
}
