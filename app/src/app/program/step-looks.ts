import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { Look } from '@calm-keel/core/runsheet';
import { StepEntry } from './step-entry';

/** The entries of a menu that a step looks at: what each shows, and, when it is read back, what it must read. */
@Component({
  selector: 'ck-step-looks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="looks">
      <thead>
        <tr>
          <th scope="col">Entry</th>
          @if (readBack()) {
            <th scope="col" class="r">Must read</th>
          }
          <th scope="col">{{ readBack() ? 'Reads something else' : 'Shows' }}</th>
        </tr>
      </thead>
      <tbody>
        @for (look of looks(); track look.role) {
          <tr [class.odd]="entry.isOdd(look)">
            <td>{{ look.label }}</td>
            @if (readBack()) {
              <td class="n r">{{ look.text }}</td>
            }
            <td>
              @if (look.choices.length > 0) {
                <select #sel class="plain" [attr.aria-label]="look.label + ', as shown'" (change)="entry.see(look.role, sel.value)">
                  <option value=""></option>
                  @for (choice of look.choices; track choice) {
                    <option [value]="choice" [selected]="entry.seen().get(look.role) === choice">{{ choice }}</option>
                  }
                </select>
              } @else {
                <span class="box" [class.bad]="entry.problemOf(look)"
                  ><input
                    #inp
                    class="n"
                    type="text"
                    inputmode="decimal"
                    autocomplete="off"
                    [attr.aria-label]="look.label + ', as shown'"
                    [value]="entry.seen().get(look.role) ?? ''"
                    (input)="entry.see(look.role, inp.value)"
                  /><i>{{ look.unit }}</i></span
                >
                @if (entry.problemOf(look); as why) {
                  <span class="wrong" role="alert">{{ why }}</span>
                }
              }
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styleUrl: './step-looks.scss',
})
export class StepLooks {
  protected readonly entry = inject(StepEntry);
  readonly looks = input.required<readonly Look[]>();
  /** Whether it is read back after a save, or read off for the first time. */
  readonly readBack = input.required<boolean>();
}
