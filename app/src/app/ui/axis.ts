import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Tick } from './scales';

/**
 * The axis of a drawing: its line, its ticks and their figures, on the left or at the foot. Where `grid` is said, a hairline goes from each tick across.
 * @example `<g ckAxis side="left" [ticks]="d.volts" [at]="52" [grid]="640" />`
 */
@Component({
  // An element of its own name would be nothing inside an SVG.
  // eslint-disable-next-line @angular-eslint/component-selector
  selector: 'g[ckAxis]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (line(); as reach) {
      <svg:path
        [attr.d]="side() === 'left' ? 'M' + at() + ' ' + reach[0] + 'V' + reach[1] : 'M' + reach[0] + ' ' + at() + 'H' + reach[1]"
        stroke="var(--ck-ink)"
        stroke-width="1.5"
      />
    }
    @for (t of ticks(); track $index) {
      @if (side() === 'left') {
        @if (grid() !== null) {
          <svg:path [attr.d]="'M' + at() + ' ' + t.at + 'H' + grid()" stroke="var(--ck-rule)" />
        }
        <svg:text class="n" [attr.x]="at() - 6" [attr.y]="t.at + 4" text-anchor="end" [attr.font-size]="size()" fill="var(--ck-ink)">{{ t.words }}</svg:text>
      } @else {
        @if (grid() !== null) {
          <svg:path [attr.d]="'M' + t.at + ' ' + at() + 'V' + grid()" stroke="var(--ck-rule)" />
        }
        @if (nib() > 0) {
          <svg:path [attr.d]="'M' + t.at + ' ' + at() + 'v' + nib()" stroke="var(--ck-ink)" />
        }
        <svg:text
          class="n"
          [attr.x]="t.at"
          [attr.y]="at() + below()"
          [attr.text-anchor]="tuck() && $first ? 'start' : tuck() && $last ? 'end' : 'middle'"
          [attr.font-size]="size()"
          fill="var(--ck-ink)"
        >
          {{ t.words }}
        </svg:text>
      }
    }
  `,
})
export class Axis {
  readonly side = input.required<'left' | 'foot'>();
  readonly ticks = input.required<readonly Tick[]>();
  /** Where the axis is, px: from the left for one on the left, from above for one at the foot. */
  readonly at = input.required<number>();
  /** From where to where its line goes, px; none where it has no line. */
  readonly line = input<readonly [number, number] | null>(null);
  /** How far hairlines go across, px; none where they would only disturb. */
  readonly grid = input<number | null>(null);
  /** Length of the mark at a tick, px. */
  readonly nib = input(0);
  /** How far below the line the figures are written, px. */
  readonly below = input(18);
  /** The first and the last figure stay within the axis. */
  readonly tuck = input(false);
  /** Size of the figures, px of the drawing. */
  readonly size = input(12.5);
}
