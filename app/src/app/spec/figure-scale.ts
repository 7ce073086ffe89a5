import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { ScaleMarks } from './figure-rows';

/** A figure on the common scale of its group: what such a battery bears in grey, the band, the target, a trip, and what another revision says. */
@Component({
  selector: 'ck-figure-scale',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let d = marks();
    <svg width="128" height="26" aria-hidden="true">
      <path d="M8 13h112" stroke="var(--ck-rule-strong)" />
      @if (d.windowLow !== null && d.windowHigh !== null) {
        <rect [attr.x]="d.windowLow" y="7" [attr.width]="d.windowHigh - d.windowLow" height="12" fill="var(--ck-sunk)" stroke="var(--ck-rule)" />
      }
      @if (d.min !== null && d.max !== null) {
        <rect [attr.x]="d.min" y="7" [attr.width]="d.max - d.min" height="12" fill="var(--ck-band-absorb)" stroke="var(--ck-absorb)" />
      }
      @if (d.other !== null) {
        <path [attr.d]="'M' + d.other + ' 3v20'" stroke="var(--ck-attention)" stroke-width="1.6" stroke-dasharray="3 2" />
      }
      @if (d.trip) {
        <path
          [attr.d]="d.max !== null ? 'M' + d.max + ' 6l-6 3.5 6 3.5 -6 3.5 6 3.5z' : 'M' + (d.min ?? d.target) + ' 6l6 3.5 -6 3.5 6 3.5 -6 3.5z'"
          fill="var(--ck-stop)"
        />
      } @else if (d.kind === 'amps') {
        <path [attr.d]="'M8 13H' + (d.max ?? d.target ?? d.min)" stroke="var(--ck-ink)" stroke-width="2.4" />
        <path [attr.d]="'M' + (d.max ?? d.target ?? d.min) + ' 6v14'" stroke="var(--ck-ink)" stroke-width="2" />
      } @else {
        @if (d.target !== null) {
          <path [attr.d]="'M' + d.target + ' 4v18'" stroke="var(--ck-ink)" stroke-width="3" />
        }
        @if (d.min === null && d.max !== null) {
          <path [attr.d]="'M' + d.max + ' 4v18m-16 -17l5 5m0 -5l5 5m0 -5l5 5'" stroke="var(--ck-ink)" stroke-width="1.4" fill="none" />
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
  `,
})
export class FigureScale {
  readonly marks = input.required<ScaleMarks>();
}
