import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { SvgDefs } from './ui/svg-defs';

/** The root: shared drawing definitions, then the page. */
@Component({
  selector: 'ck-root',
  imports: [RouterOutlet, SvgDefs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ck-svg-defs /><router-outlet />`,
})
export class App {}
