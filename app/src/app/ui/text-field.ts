import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

let count = 0;

/** A line of text with its label above. It is handed on with each key, or once when it is left: what is not sound half typed. */
@Component({
  selector: 'ck-text-field',
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
      [maxLength]="max()"
      [attr.list]="suggestions().length > 0 ? id + '-list' : null"
      (input)="late() ? null : changed.emit(field.value)"
      (change)="late() ? changed.emit(field.value) : null"
    />
    @if (suggestions().length > 0) {
      <datalist [id]="id + '-list'">
        @for (s of suggestions(); track s) {
          <option [value]="s"></option>
        }
      </datalist>
    }
  `,
})
export class TextField {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly max = input(120);
  readonly numeric = input(false);
  /** What an empty line means. */
  readonly empty = input('');
  /** Handed on when it is left. */
  readonly late = input(false);
  /** What is usually meant; anything else can be typed. */
  readonly suggestions = input<readonly string[]>([]);
  readonly changed = output<string>();
  protected readonly id = `ck-text-${count++}`;
}
