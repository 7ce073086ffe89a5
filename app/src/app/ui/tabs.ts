import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { NgbNav, NgbNavItem, NgbNavLinkBase, NgbNavLinkButton, type NgbNavChangeEvent } from '@ng-bootstrap/ng-bootstrap/nav';

/** One of the views that a row of tabs leads to. */
export interface Tab {
  readonly id: string;
  readonly words: string;
  /** The key that leads there too. */
  readonly key?: string;
}

let count = 0;

/** A row of tabs and, projected below it, what the chosen one shows. The arrow keys go along the row. */
@Component({
  selector: 'ck-tabs',
  imports: [NgbNav, NgbNavItem, NgbNavLinkBase, NgbNavLinkButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div ngbNav [class]="look()" [class.even]="even()" [activeId]="active()" [animation]="false" [attr.aria-label]="label()" (navChange)="choose($event)">
      @for (t of tabs(); track t.id) {
        <ng-container [ngbNavItem]="t.id" [domId]="own + t.id">
          <button type="button" ngbNavLink [attr.aria-keyshortcuts]="t.key ?? null">{{ t.words }}</button>
        </ng-container>
      }
    </div>
    <div role="tabpanel" [id]="chosenId() + '-panel'" [attr.aria-labelledby]="chosenId()"><ng-content /></div>
  `,
  styles: `
    :host {
      display: block;
    }
    .choices {
      margin-bottom: 8px;
    }
    .even {
      display: grid;
      grid-auto-columns: 1fr;
      grid-auto-flow: column;
    }
    @media (max-width: 767px) {
      /* One row that moves, rather than a wall of them above the work. */
      .choices:not(.even) {
        flex-wrap: nowrap;
        overflow-x: auto;
        padding: 5px;
        margin: -5px -5px 3px;
        button {
          white-space: nowrap;
        }
      }
    }
  `,
})
export class Tabs<T extends string = string> {
  readonly label = input.required<string>();
  readonly tabs = input.required<readonly (Tab & { readonly id: T })[]>();
  readonly active = input.required<T>();
  /** Filled like a switch, or underlined like a register. */
  readonly look = input<'choices' | 'tabs'>('choices');
  /** All of the same width. */
  readonly even = input(false);
  readonly chosen = output<T>();
  protected readonly own = `ck-tab-${count++}-`;
  protected readonly chosenId = computed(() => this.own + this.active());

  /** What is shown is said from outside: by the address, or by what the page holds. */
  protected choose(event: NgbNavChangeEvent<T>): void {
    event.preventDefault();
    this.chosen.emit(event.nextId);
  }
}
