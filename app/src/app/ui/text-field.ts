import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

let count = 0;

/** A line of text with its label above. */
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
      [id]="id"
      [value]="value()"
      [maxLength]="max()"
      [attr.list]="suggestions().length > 0 ? id + '-list' : null"
      (input)="changed.emit(field.value)"
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
  /** What is usually meant; anything else can be typed. */
  readonly suggestions = input<readonly string[]>([]);
  readonly changed = output<string>();
  protected readonly id = `ck-text-${count++}`;
}
