import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { roleInfo, type Role } from '@calm-keel/core/card';
import {
  deviceName,
  devicesOf,
  type Plan,
  type Setting,
  allowedText,
  atBatteryText,
  deviationText,
  wantedText,
  fateWords,
  coreText,
  keyedText,
  onDisplayText,
} from '@calm-keel/core/settings';
import { Units } from '../data/units';
import { Moves } from '../ui/moves';

/** Every setting of every device, a row each: wanted, held, what it makes, and what became of it. */
@Component({
  selector: 'ck-settings-table',
  imports: [Moves],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="scroll" ckMoves="Settings as a table">
      <table class="rows">
        <thead>
          <tr>
            <th scope="col">Setting</th>
            <th scope="col" class="r">Wanted</th>
            <th scope="col" class="r">Set</th>
            <th scope="col" class="r">At the battery</th>
            <th scope="col" class="r">Off by</th>
            <th scope="col">Allowed</th>
            <th scope="col" class="r">As found</th>
          </tr>
        </thead>
        @for (group of groups(); track group.id) {
          <tbody>
            <tr class="who">
              <th colspan="7" scope="rowgroup">
                {{ group.name }} <small>{{ group.count }}</small>
              </th>
            </tr>
            @for (row of group.rows; track row.s.role) {
              <tr [class.sel]="row.s.charger === charger() && row.s.role === role()" (click)="chosen.emit({ charger: row.s.charger, role: row.s.role })">
                <td>
                  <button type="button" (click)="chosen.emit({ charger: row.s.charger, role: row.s.role }); $event.stopPropagation()">{{ row.name }}</button>
                  <small>{{ row.s.label }}</small>
                </td>
                <td class="n r">{{ row.exact }}</td>
                <td class="n r set">{{ row.keyed }}</td>
                <td class="n r">{{ row.real }}</td>
                <td class="n r">{{ row.off }}</td>
                <td>
                  {{ row.allowed }}
                  @if (row.fate) {
                    <span [class]="row.s.within === 'outside' ? 't-stop' : row.s.override ? 't-attention' : 't-note'">{{ row.fate }}</span>
                  }
                </td>
                <td class="n r">{{ row.found }}</td>
              </tr>
            }
          </tbody>
        }
      </table>
    </div>
  `,
  styleUrl: './table.scss',
})
export class SettingsTable {
  private readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly charger = input<string | null>(null);
  readonly role = input<Role | null>(null);
  readonly chosen = output<{ charger: string; role: Role }>();

  protected readonly groups = computed(() => {
    const plan = this.plan();
    const name = (id: string): string => deviceName(plan.input, id);
    return devicesOf(plan.input).map((d) => {
      const rows = plan.settings.filter((s) => s.charger === d.id).map((s) => this.row(s, name));
      const set = rows.filter((r) => r.s.value !== null && !r.s.inherited).length;
      return { id: d.id, name: d.name, rows, count: `${set} to set, ${rows.length - set} left, inherited or not used` };
    });
  });

  private row(s: Setting, name: (id: string) => string) {
    return {
      s,
      name: roleInfo[s.role].name,
      exact: wantedText(s, this.units),
      keyed: keyedText(s),
      real: s.off ? 'off' : atBatteryText(s, this.units),
      off: this.offBy(s),
      allowed: allowedText(s, this.units),
      fate: fateWords(s, name),
      found: onDisplayText(s, s.present),
    };
  }

  /** The deviation, with the tolerance that judges it where no band does. */
  private offBy(s: Setting): string {
    const off = deviationText(s, this.units);
    return off === '' || off === '0' || s.tolerance === null
      ? off
      : `${off} of ${roleInfo[s.role].unit === '°C' ? this.units.difference(s.tolerance) : coreText(s, s.tolerance, this.units)}`;
  }
}
