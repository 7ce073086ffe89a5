import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** A button that asks for one file. */
@Component({
  selector: 'ck-file-button',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="ghost"
      >{{ words() }}<input #picker class="visually-hidden" type="file" [attr.aria-label]="label()" [accept]="accept()" (change)="choose(picker)"
    /></label>
  `,
  styles: `
    label {
      display: inline-flex;
      align-items: center;
      cursor: pointer;
    }
    label:focus-within {
      outline: 3px solid var(--ck-focus);
      outline-offset: 2px;
    }
  `,
})
export class FileButton {
  readonly words = input.required<string>();
  /** What the field is called to those who do not see the button. */
  readonly label = input.required<string>();
  /** Endings that are offered. */
  readonly accept = input.required<string>();
  readonly chosen = output<File>();

  protected choose(picker: HTMLInputElement): void {
    const file = picker.files?.[0];
    // The same file can be chosen again.
    if (file) this.chosen.emit(file);
    picker.value = '';
  }
}
