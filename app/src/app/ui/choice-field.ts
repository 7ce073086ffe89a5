import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

let count = 0;

/** One of a few words. */
@Component({
  selector: 'ck-choice-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="lbl" [attr.for]="id">{{ label() }}</label>
    <select #field class="plain" [id]="id" (change)="changed.emit(field.value)">
      @for (option of options(); track option.value) {
        <option [value]="option.value" [selected]="option.value === value()">{{ option.words }}</option>
      }
    </select>
  `,
})
export class ChoiceField {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly options = input.required<readonly { readonly value: string; readonly words: string }[]>();
  readonly changed = output<string>();
  protected readonly id = `ck-choice-${count++}`;
}
