import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Units } from '../data/units';

/** The choice between °C and °F. */
@Component({
  selector: 'ck-scale-switch',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'group', 'aria-label': 'Temperature unit' },
  template: `
    <button type="button" [class.on]="units.scale() === 'C'" [attr.aria-pressed]="units.scale() === 'C'" (click)="units.choose('C')">°C</button>
    <button type="button" [class.on]="units.scale() === 'F'" [attr.aria-pressed]="units.scale() === 'F'" (click)="units.choose('F')">°F</button>
  `,
  styles: `
    :host {
      display: flex;
      flex: none;
      border: var(--ck-edge);
      border-radius: var(--ck-radius);
      height: 30px;
      background: var(--ck-surface);
      color: var(--ck-ink);
    }
    button {
      width: 38px;
      font-size: 0.875rem;
      color: var(--ck-ink-2);
    }
    .on {
      background: var(--ck-ink);
      color: var(--ck-on-dark);
      font-weight: 600;
    }
  `,
})
export class ScaleSwitch {
  protected readonly units = inject(Units);
}
