import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, Injector, output, signal } from '@angular/core';
import { cardKindWords, isSource, type Card } from '@calm-keel/core/card';
import { suitabilityOf, type Suitability } from '@calm-keel/core/job';
import { JobStore, today } from '../data/job-store';
import { Library } from '../data/library';
import { Speech } from '../data/speech';
import { Glyph, type GlyphName } from '../ui/glyph';
import { ChoosePanel } from './choose-panel';
import { QuickCard } from './quick-card';

const glyphs: Readonly<Record<Suitability['does'], GlyphName>> = { no: 'stop', look: 'attention', yes: 'done', open: 'notyet' };
const doesWords = { no: '', look: '', yes: 'Nothing is against it', open: 'Nothing known is against it' } as const;

/** The shelf of devices: searched by what a person knows of theirs, with a way on for one that is not there. */
@Component({
  selector: 'ck-shelf',
  imports: [ChoosePanel, Glyph, QuickCard],
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
        <button type="button" class="ghost" [attr.aria-expanded]="choosing()" (click)="choosing.set(!choosing())">Choose before you buy</button>
      </div>
      @if (choosing()) {
        <ck-choose />
      }
      @for (shelf of shelves(); track shelf.name) {
        <div class="shelf" [class.marked]="marks().size > 0" role="group" [attr.aria-label]="shelf.name">
          @for (card of shelf.cards; track card.id) {
            <button type="button" class="ghost" (click)="chosen.emit(card)">
              {{ card.maker }} {{ card.model }}{{ card.describes.menuRevision === 'b' ? ' b' : ''
              }}<small>{{ kindWords[card.kind] }}{{ card.ratings.outputA > 0 ? ', ' + card.ratings.outputA + ' A' : '' }}</small>
              @if (marks().get(card.id); as mark) {
                <span class="mark"><ck-glyph [name]="mark.glyph" [size]="13" /> {{ mark.words }}</span>
              }
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
    .shelf.marked {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(280px, 100%), 1fr));
    }
    .mark {
      display: block;
      padding-top: 3px;
      font-weight: 400;
      font-size: 0.8125rem;
      line-height: 1.35;
    }
  `,
})
export class ShelfPanel {
  protected readonly library = inject(Library);
  private readonly store = inject(JobStore);
  private readonly speech = inject(Speech);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  readonly chosen = output<Card>();
  protected readonly kindWords = cardKindWords;
  protected readonly sought = signal('');
  protected readonly quick = signal(false);

  /** Ratings are worked out, and each card carries how it would do. */
  protected readonly choosing = signal(false);
  private readonly suits = computed<readonly Suitability[]>(() => {
    const job = this.choosing() ? this.store.job() : null;
    return job ? suitabilityOf(job, this.library.cards(), today()) : [];
  });
  /** How each card would do, and the first thing against it. */
  protected readonly marks = computed(
    () =>
      new Map(
        this.suits().map(({ card, does, findings, on }) => {
          const [worst, ...more] = this.speech.findings(
            findings.filter((f) => f.severity !== 'note'),
            on,
          );
          const others = more.length === 0 ? '' : ` And ${more.length} more.`;
          return [card.id, { glyph: glyphs[does], words: worst ? `${worst.text}${others}` : doesWords[does] }] as const;
        }),
      ),
  );

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
