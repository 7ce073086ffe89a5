import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

let count = 0;

/** A line that is handed on when it is left, not with each key: for what is not sound half typed. */
@Component({
  selector: 'ck-entry-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="lbl" [attr.for]="id">{{ label() }}</label>
    <input
      #field
      class="plain"
      type="text"
      autocomplete="off"
      [class.n]="numeric()"
      [id]="id"
      [attr.inputmode]="numeric() ? 'decimal' : null"
      [placeholder]="empty()"
      [value]="value()"
      (change)="changed.emit(field.value)"
    />
  `,
})
export class EntryField {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly numeric = input(false);
  /** What an empty line means. */
  readonly empty = input('');
  readonly changed = output<string>();
  protected readonly id = `ck-entry-${count++}`;
}
