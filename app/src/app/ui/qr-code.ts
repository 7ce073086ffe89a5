import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { encode } from 'uqr';

/** A text as a code that a phone reads, drawn as one path. */
@Component({
  selector: 'ck-qr-code',
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ':host { display: block } svg { display: block; width: 100%; height: auto }',
  template: `
    <svg [attr.viewBox]="'0 0 ' + code().size + ' ' + code().size" role="img" [attr.aria-label]="label()" shape-rendering="crispEdges">
      <rect [attr.width]="code().size" [attr.height]="code().size" fill="var(--ck-print-paper)" />
      <path [attr.d]="code().path" fill="var(--ck-print)" />
    </svg>
  `,
})
export class QrCode {
  readonly text = input.required<string>();
  readonly label = input.required<string>();
  protected readonly code = computed(() => qrPath(this.text()));
}

/** The dark squares of a code as one path, with the quiet border that readers want. */
export function qrPath(text: string): { readonly size: number; readonly path: string } {
  const { size, data } = encode(text, { ecc: 'M', border: 3 });
  const path = data.flatMap((row, y) => row.flatMap((dark, x) => (dark ? [`M${x} ${y}h1v1h-1z`] : []))).join('');
  return { size, path };
}
