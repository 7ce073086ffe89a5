import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { roleInfo, type Role } from '@calm-keel/core/card';
import { devicesOf, presentOrFactory, type Plan, keyedText, onDisplayText } from '@calm-keel/core/settings';
import { Moves } from '../ui/moves';

/** Factory, last visit, as found and target beside each other; by default only what differs. */
@Component({
  selector: 'ck-difference-table',
  imports: [Moves],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="all"><input #all type="checkbox" [checked]="everything()" (change)="everything.set(all.checked)" /> Also what needs no change</label>
    <div class="scroll" ckMoves="What differs">
      <table class="rows">
        <thead>
          <tr>
            <th scope="col">Setting</th>
            <th scope="col" class="r">Factory</th>
            <th scope="col" class="r">Last visit</th>
            <th scope="col" class="r">As found</th>
            <th scope="col" class="r">Target</th>
            <th scope="col">What it takes</th>
          </tr>
        </thead>
        @for (group of groups(); track group.id) {
          <tbody>
            <tr class="who">
              <th colspan="6" scope="rowgroup">
                {{ group.name }} <small>{{ group.words }}</small>
              </th>
            </tr>
            @for (row of group.rows; track row.role) {
              <tr (click)="chosen.emit({ charger: group.id, role: row.role })">
                <td>
                  <button type="button" (click)="chosen.emit({ charger: group.id, role: row.role }); $event.stopPropagation()">{{ row.name }}</button>
                </td>
                <td class="n r dim">{{ row.factory }}</td>
                <td class="n r" [class.moved]="row.moved">{{ row.visit }}</td>
                <td class="n r" [class.moved]="row.moved">{{ row.found }}</td>
                <td class="n r set">{{ row.target }}</td>
                <td>{{ row.takes }}</td>
              </tr>
            } @empty {
              <tr>
                <td colspan="6">Nothing to change.</td>
              </tr>
            }
          </tbody>
        }
      </table>
    </div>
  `,
  styleUrl: './table.scss',
})
export class DifferenceTable {
  readonly plan = input.required<Plan>();
  readonly chosen = output<{ charger: string; role: Role }>();
  protected readonly everything = signal(false);

  protected readonly groups = computed(() => {
    const plan = this.plan();
    return devicesOf(plan.input).map((d) => {
      const all = plan.settings
        .filter((s) => s.charger === d.id && !s.inherited)
        .map((s) => {
          const { [s.role]: _found, ...others } = d.present;
          const factory = presentOrFactory(plan.input, { ...d, present: others }, s.role);
          const visit = d.lastVisit?.values[s.role];
          const stands = s.present ?? factory;
          const change = s.value !== null && stands !== s.value;
          // Between the visits somebody, or something, changed it.
          const moved = visit !== undefined && s.present !== undefined && visit !== s.present;
          return {
            role: s.role,
            name: roleInfo[s.role].name,
            factory: onDisplayText(s, factory),
            visit: onDisplayText(s, visit),
            found: onDisplayText(s, s.present),
            target: keyedText(s),
            change,
            moved,
            takes: [
              s.value === null ? 'left as it is' : change ? (s.present === undefined ? 'read it, then set' : 'set') : 'is so already',
              ...(moved ? ['changed since last visit'] : []),
            ].join(', '),
          };
        });
      const changes = all.filter((r) => r.change).length;
      const since = all.filter((r) => r.moved).length;
      return {
        id: d.id,
        name: d.name,
        rows: this.everything() ? all : all.filter((r) => r.change || r.moved),
        words: `${changes} to change${d.lastVisit ? `, ${since} moved since ${d.lastVisit.date}` : ''}`,
      };
    });
  });
}
