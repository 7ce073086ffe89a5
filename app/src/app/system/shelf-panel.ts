import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, Injector, output, signal } from '@angular/core';
import { cardKindWords, isSource, type Card } from '@calm-keel/core/card';
import { Library } from '../data/library';
import { QuickCard } from './quick-card';

/** The shelf of devices: searched by what a person knows of theirs, with a way on for one that is not there. */
@Component({
  selector: 'ck-shelf',
  imports: [QuickCard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (quick()) {
      <ck-quick-card (made)="chosen.emit($event)" (closed)="back()" />
    } @else {
      <div class="find">
        <span>
          <label class="lbl" for="shelf-search">Search maker, model or kind</label>
          <input
            #field
            id="shelf-search"
            class="plain"
            type="search"
            autocomplete="off"
            maxlength="60"
            [value]="sought()"
            (input)="sought.set(field.value)"
            (keydown.enter)="takeFirst()"
          />
        </span>
        <button type="button" class="ghost" (click)="quick.set(true)">Mine is not listed</button>
      </div>
      @for (shelf of shelves(); track shelf.name) {
        <div class="shelf" role="group" [attr.aria-label]="shelf.name">
          @for (card of shelf.cards; track card.id) {
            <button type="button" class="ghost" (click)="chosen.emit(card)">
              {{ card.maker }} {{ card.model }}{{ card.describes.menuRevision === 'b' ? ' b' : ''
              }}<small>{{ kindWords[card.kind] }}{{ card.ratings.outputA > 0 ? ', ' + card.ratings.outputA + ' A' : '' }}</small>
            </button>
          }
        </div>
      }
      @if (library.broken()) {
        <p class="wrong">The library could not be read. Reload the page.</p>
      } @else if (found() === 0 && sought().trim() !== '') {
        <p class="quiet" role="status">No card matches “{{ sought().trim() }}”. Press “Mine is not listed”: its plate is enough to begin.</p>
      }
    }
  `,
  styles: `
    .find {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 12px;
      align-items: end;
      padding-bottom: 8px;
    }
    .find span {
      flex: 1 1 220px;
      max-width: 360px;
    }
    .shelf {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      padding: 4px 0 12px;
    }
    .shelf:empty {
      display: none;
    }
    .shelf small {
      display: block;
      font-weight: 400;
      font-size: 0.7812rem;
      color: var(--ck-ink-2);
    }
    .shelf .ghost {
      display: block;
      text-align: left;
    }
  `,
})
export class ShelfPanel {
  protected readonly library = inject(Library);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  readonly chosen = output<Card>();
  protected readonly kindWords = cardKindWords;
  protected readonly sought = signal('');
  protected readonly quick = signal(false);

  private readonly matching = computed(() => {
    const words = this.sought()
      .toLowerCase()
      .split(/\s+/)
      .filter((word) => word !== '');
    return this.library.cards().filter((c) => {
      const text = `${c.maker} ${c.model} ${cardKindWords[c.kind]} ${c.ratings.outputA} A`.toLowerCase();
      return words.every((word) => text.includes(word));
    });
  });
  protected readonly found = computed(() => this.matching().length);
  /** Sources by kind; companions stand apart. */
  protected readonly shelves = computed(() => [
    { name: 'Chargers', cards: this.matching().filter((c) => isSource(c.kind)) },
    { name: 'Companions', cards: this.matching().filter((c) => !isSource(c.kind)) },
  ]);

  constructor() {
    this.focusSearch();
  }

  /** The search has the focus as soon as it is there. */
  private focusSearch(): void {
    afterNextRender(
      () => {
        this.host.nativeElement.querySelector<HTMLInputElement>('#shelf-search')?.focus();
      },
      { injector: this.injector },
    );
  }

  /** Enter takes the first that matches what was typed; with nothing typed it takes none. */
  protected takeFirst(): void {
    const first = this.shelves().flatMap((s) => s.cards)[0];
    if (first && this.sought().trim() !== '') this.chosen.emit(first);
  }

  protected back(): void {
    this.quick.set(false);
    this.focusSearch();
  }
}
