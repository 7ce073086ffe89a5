import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Mark } from '../data/stations';

/** Names of the status glyphs. A glyph never stands without its word. */
export type GlyphName = Mark;

/** One status glyph; its colour and shape come from the shared definitions. */
@Component({
  selector: 'ck-glyph',
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ':host { display: inline-flex; flex: none; vertical-align: -2px }',
  template: `<svg [attr.width]="size()" [attr.height]="size()" aria-hidden="true"><use [attr.href]="'#g-' + name()" /></svg>`,
})
export class Glyph {
  readonly name = input.required<GlyphName>();
  readonly size = input(16);
}
