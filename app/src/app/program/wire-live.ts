import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { stages } from '@calm-keel/core/charger';
import { formatNumber, formatQuantity, formatTimeOfDay } from '@calm-keel/core/quantity';
import type { LiveState } from '../data/device-link';
import { Units } from '../data/units';
import { stageLook } from '../ui/stages';

/** What a device tells now, a line each: faint when it is old. */
@Component({
  selector: 'ck-wire-live',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <dl [class.old]="old()">
      @for (line of lines(); track line.name) {
        <div>
          <dt>{{ line.name }}</dt>
          <dd class="n">{{ line.value }}</dd>
        </div>
      }
    </dl>
  `,
  styles: `
    dl div {
      display: flex;
      justify-content: space-between;
      padding: 3px 0;
      border-top: 1px solid var(--ck-rule);
      font-size: 0.875rem;
    }
    dt {
      font-weight: 400;
    }
    dl.old dd {
      color: var(--ck-ink-3);
      font-weight: 400;
    }
  `,
})
export class WireLive {
  private readonly units = inject(Units);
  readonly state = input.required<LiveState>();
  readonly old = input.required<boolean>();
  protected readonly lines = computed(() => {
    const live = this.state().live;
    const list: { name: string; value: string }[] = [];
    const add = (name: string, value: number | null | undefined, unit: string, digits: number): void => {
      if (value !== undefined) list.push({ name, value: value === null ? 'no reading' : formatQuantity(value, unit, digits) });
    };
    const stage = typeof live.stage === 'number' ? stages[live.stage] : undefined;
    if (stage) list.push({ name: 'Stage', value: stageLook[stage].words });
    add('Battery, as it measures', live.volts, 'V', 2);
    add('Its output', live.amps, 'A', 1);
    add('Into the bank', live.bankAmps, 'A', 1);
    add('Charge', live.charge, '%', 0);
    if (live.celsius !== undefined)
      list.push({ name: 'Battery sensor', value: live.celsius === null ? 'no reading' : this.units.temperature(live.celsius, 1) });
    add('Its input', live.inputVolts, 'V', 2);
    if (typeof live.clockMinutes === 'number')
      list.push({
        name: 'Its clock',
        value: formatTimeOfDay(live.clockMinutes),
      });
    if (live.alarm) list.push({ name: 'Alarm', value: `code ${formatNumber(live.alarm, 0)}` });
    return list;
  });
}
