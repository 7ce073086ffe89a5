import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { deviceUnitLabel, roleInfo, type Card, type Role } from '@calm-keel/core/card';
import type { Charger } from '@calm-keel/core/system';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { FoundFile } from './found-file';

/** What stood on a device when somebody came: every setting of its card, empty where it was not read. */
@Component({
  selector: 'ck-found',
  imports: [ChoiceField, FoundFile, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details [open]="openAtFirst()">
      <summary class="sech">
        <span role="heading" aria-level="2">As found on its display</span><small>{{ read() }} of {{ card().parameters.length }} read</small>
      </summary>
      <p class="quiet">Leave empty what was not read.</p>
      <div class="two">
        @for (f of fields(); track f.role) {
          @if (f.options) {
            <ck-choice-field [label]="f.label" [value]="$any(f.value) ?? ''" [options]="f.options" (changed)="changed.emit({ role: f.role, value: $event })" />
          } @else {
            <ck-number-field
              [label]="f.label"
              [unit]="f.unit"
              [optional]="true"
              [value]="$any(f.value)"
              [step]="f.step"
              (changed)="changed.emit({ role: f.role, value: $event })"
            />
          }
        }
      </div>
      <ck-found-file [device]="device()" [card]="card()" />
    </details>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
      align-items: end;
      padding-top: 6px;
    }
  `,
})
export class FoundFields {
  /** Its id in the job. */
  readonly device = input.required<string>();
  readonly card = input.required<Card>();
  readonly values = input.required<Charger['present']>();
  readonly changed = output<{ readonly role: Role; readonly value: number | string | undefined }>();
  protected readonly read = computed(() => this.card().parameters.filter((p) => this.values()[p.role] !== undefined).length);
  private opened: { readonly id: string; readonly open: boolean } | null = null;
  /** Folded where nothing was read yet; it does not fold or unfold while somebody types. */
  protected openAtFirst(): boolean {
    if (this.opened?.id !== this.card().id) this.opened = { id: this.card().id, open: this.read() > 0 };
    return this.opened.open;
  }
  protected readonly fields = computed(() =>
    this.card().parameters.map((p) => ({
      role: p.role,
      label: `${p.label} (${roleInfo[p.role].name})`,
      unit: p.unit === 'choice' ? '' : deviceUnitLabel(p),
      step: p.unit === 'choice' ? 1 : p.step,
      options: p.unit === 'choice' ? [{ value: '', words: 'not read' }, ...p.options.map((o) => ({ value: o.value, words: o.value }))] : null,
      value: this.values()[p.role],
    })),
  );
}
