import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';
import type { ReadingField } from '@calm-keel/core/fieldtest';
import { saidBand } from '@calm-keel/core/quantity';
import { Units } from '../data/units';
import { TestEntry } from './test-entry';

/** The fields of a step of a guided test, each with what is expected, and when it was read. */
@Component({
  selector: 'ck-test-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="fields">
      @for (f of fields(); track f.id) {
        <div class="field">
          <label [attr.for]="'ck-f-' + f.id"
            >{{ f.name }}
            @if (f.optional) {
              <small>if you have it</small>
            }
          </label>
          @if (f.choices; as choices) {
            <div class="pick" role="group" [attr.aria-label]="f.name">
              @for (c of choices; track c) {
                <button type="button" [class.on]="entry.typed()[f.id] === c" [attr.aria-pressed]="entry.typed()[f.id] === c" (click)="entry.type(f.id, c)">
                  {{ c }}
                </button>
              }
            </div>
          } @else {
            <div class="box" [class.bad]="entry.fit(f) === 'outside'">
              <input
                #i
                [class.n]="f.unit !== ''"
                type="text"
                [attr.inputmode]="f.unit === '' ? null : 'decimal'"
                autocomplete="off"
                [id]="'ck-f-' + f.id"
                [value]="entry.typed()[f.id] ?? ''"
                (input)="entry.type(f.id, i.value)"
                (keydown.enter)="entered.emit()"
              />
              @if (f.unit) {
                <i>{{ entry.unitOf(f) }}</i>
              }
            </div>
            @if (f.expected) {
              <small [class.out]="entry.fit(f) === 'outside'"
                >{{ entry.fit(f) === 'outside' ? 'outside: ' : entry.fit(f) === 'inside' ? 'as ' : '' }}{{ expectedOf(f) }}</small
              >
            }
          }
        </div>
      }
    </div>
    @if (entry.when()) {
      <div class="field when">
        <label for="ck-taken">Taken at <small>empty means now</small></label>
        <div class="box">
          <input #w id="ck-taken" class="n" type="datetime-local" step="1" [value]="entry.taken()" (input)="entry.setTaken(w.value)" />
        </div>
      </div>
    } @else {
      <p><button type="button" class="do" (click)="entry.askWhen()">Read earlier: enter when</button></p>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 10px;
    }
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
      gap: 12px 16px;
    }
    .field {
      label {
        font-size: 0.9375rem;
        font-weight: 560;
        display: block;
        margin-bottom: 3px;
      }
      small {
        font-size: 0.8125rem;
        color: var(--ck-ink-2);
        font-weight: 400;
      }
      .out {
        color: var(--ck-attention);
        font-weight: 600;
      }
      .box {
        min-height: 56px;
      }
      .box input {
        font-size: 1.625rem;
      }
    }
    .when {
      max-width: 330px;
      margin: 10px 0;
      .box input {
        font-size: 1.125rem;
      }
    }
    .pick {
      display: flex;
      gap: 6px;
      button {
        flex: 1;
        min-height: 56px;
        border: 1.5px solid var(--ck-ink);
        font-size: 1.0625rem;
        padding: 0 8px;
      }
      .on {
        background: var(--ck-ink);
        color: var(--ck-surface);
      }
    }
  `,
})
export class TestFields {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly units = inject(Units);
  protected readonly entry = inject(TestEntry);
  readonly fields = input.required<readonly ReadingField[]>();
  /** Enter was pressed in a field. */
  readonly entered = output();

  protected expectedOf(field: ReadingField): string {
    return field.expected ? `expected ${this.units.speak(saidBand(field.expected, field.unit, field.unit === 'V' ? 2 : 1))}` : '';
  }

  /** Empties the fields for the next reading, and begins at the first again. */
  begin(): void {
    this.entry.clear();
    // Typed and taken within one frame the page has drawn nothing in between, and would leave the old text standing.
    const fields = this.host.querySelectorAll<HTMLInputElement>('.fields input');
    for (const field of fields) field.value = '';
    if (document.activeElement instanceof HTMLInputElement) fields[0]?.focus();
  }
}
