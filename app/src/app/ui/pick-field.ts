import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { NgbTypeahead, type NgbTypeaheadSelectItemEvent } from '@ng-bootstrap/ng-bootstrap/typeahead';
import { map, merge, Subject, type Observable } from 'rxjs';

/** One of many that can be picked. */
export interface PickOption<T extends string = string> {
  readonly value: T;
  readonly words: string;
}

/** So many are shown at once; a longer list is found by typing on. */
const mostShown = 12;

let count = 0;

/** One of a long list, found by any part of its words; what was picked is handed on and the field is empty again. */
@Component({
  selector: 'ck-pick-field',
  imports: [NgbTypeahead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="lbl" [attr.for]="id">{{ label() }}</label>
    <input
      #field
      class="plain"
      type="text"
      autocomplete="off"
      [id]="id"
      [placeholder]="empty()"
      [ngbTypeahead]="find"
      [resultFormatter]="words"
      [inputFormatter]="words"
      [editable]="false"
      (focus)="opened.next(field.value)"
      (click)="opened.next(field.value)"
      (selectItem)="pick($event, field)"
    />
  `,
})
export class PickField<T extends string = string> {
  readonly label = input.required<string>();
  readonly options = input.required<readonly PickOption<T>[]>();
  readonly empty = input('type part of its name');
  readonly picked = output<T>();
  protected readonly id = `ck-pick-${count++}`;
  /** It opens as soon as it is come to, with all of them. */
  protected readonly opened = new Subject<string>();

  protected readonly words = (option: PickOption<T>): string => option.words;
  protected readonly find = (typed: Observable<string>): Observable<PickOption<T>[]> =>
    merge(typed, this.opened).pipe(
      map((text) => {
        const parts = text.toLowerCase().split(/\s+/);
        return this.options()
          .filter((o) => parts.every((part) => o.words.toLowerCase().includes(part)))
          .slice(0, mostShown);
      }),
    );

  protected pick(event: NgbTypeaheadSelectItemEvent<PickOption<T>>, field: HTMLInputElement): void {
    event.preventDefault();
    field.value = '';
    this.picked.emit(event.item.value);
  }
}
