import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { formatNumber, type Band } from '@calm-keel/core/quantity';
import { axis } from './scales';

/** A value with its ± on a number line against its allowed band. */
@Component({
  selector: 'ck-band-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawing(); as d) {
      <svg [attr.viewBox]="'0 0 ' + width() + ' ' + height()" [attr.width]="width()" [attr.height]="height()" aria-hidden="true">
        <path [attr.d]="'M0 12H' + width()" stroke="var(--ck-rule-strong)" stroke-dasharray="3 3" />
        <rect [attr.x]="d.left" y="6" [attr.width]="d.right - d.left" height="12" [attr.fill]="tone()" />
        @if (band().min !== undefined) {
          <path [attr.d]="'M' + d.left + ' 2v20'" stroke="var(--ck-ink-2)" stroke-width="1.5" />
        }
        @if (band().max !== undefined) {
          <path [attr.d]="'M' + d.right + ' 2v20'" stroke="var(--ck-ink-2)" stroke-width="1.5" />
        }
        @if (d.low !== d.high) {
          <path [attr.d]="'M' + d.low + ' 12H' + d.high + 'M' + d.low + ' 8v8M' + d.high + ' 8v8'" stroke="var(--ck-ink)" stroke-width="1.3" />
        }
        <path [attr.d]="'M' + d.at + ' 1v22'" [attr.stroke]="mark()" stroke-width="3" />
        @if (labels()) {
          @if (band().min !== undefined) {
            <text class="n" [attr.x]="d.left" y="37" font-size="12" text-anchor="middle">{{ d.min }}</text>
          }
          @if (band().max !== undefined) {
            <text class="n" [attr.x]="d.right" y="37" font-size="12" text-anchor="middle">{{ d.max }}</text>
          }
        }
      </svg>
    }
  `,
  styles: ':host { display: block; line-height: 0 } svg { max-width: 100%; overflow: visible }',
})
export class BandLine {
  readonly value = input.required<number>();
  readonly uncertainty = input(0);
  readonly band = input.required<Band>();
  readonly digits = input(1);
  readonly width = input(120);
  readonly labels = input(false);
  readonly tone = input('var(--ck-rule-faint)');
  readonly mark = input('var(--ck-ink)');

  protected readonly height = computed(() => (this.labels() ? 40 : 24));
  protected readonly drawing = computed(() => {
    const { min, max } = this.band();
    const value = this.value();
    const u = this.uncertainty();
    if (min === undefined && max === undefined) return null;
    const ends = [min, max, value - u, value + u].filter((n) => n !== undefined);
    const low = Math.min(...ends);
    const high = Math.max(...ends);
    const room = (high - low || Math.abs(value) * 0.01 || 1) * 0.18;
    const width = this.width();
    const x = axis([low - room, high + room], [0, width]);
    return {
      left: min === undefined ? 0 : x(min),
      right: max === undefined ? width : x(max),
      at: x(value),
      low: x(value - u),
      high: x(value + u),
      min: min === undefined ? '' : formatNumber(min, this.digits()),
      max: max === undefined ? '' : formatNumber(max, this.digits()),
    };
  });
}
