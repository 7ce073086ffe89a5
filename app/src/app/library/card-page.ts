import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { cardQuirks, cardSchema, saidAnew, unknownWords, unknownsOf, type Card } from '@calm-keel/core/card';
import { problemsOf } from '@calm-keel/core/job';
import { capital, type Problem } from '@calm-keel/core/quantity';
import type { Sheet } from '@calm-keel/core/sheet';
import { surveyEnglish } from '@calm-keel/core/words';
import { Glyph } from '../ui/glyph';
import type { CardEdit } from './card-edit';
import { CardDictated } from './card-dictated';
import { CardHabits } from './card-habits';
import { CardKeys } from './card-keys';
import { CardLines } from './card-lines';
import { CardPlate } from './card-plate';
import { CardRules } from './card-rules';
import { CardSettings } from './card-settings';
import { CardSiblings } from './card-siblings';
import { RegistersPanel } from './registers-panel';

/** Of what is not known, what no question finds out. */
const besides = ['ranges', 'settings', 'input', 'displayAccuracy'] as const;

/**
 * A card as a data sheet: its plate, its settings and what each would hold, what it does by itself, its keys, what it forces. On a card of one's own every
 * part is changed where it is. A change that would make the card contradict itself is not saved, and the reason is at its head until it is mended.
 */
@Component({
  selector: 'ck-card-page',
  imports: [Glyph, CardDictated, CardHabits, CardKeys, CardLines, CardPlate, CardRules, CardSettings, CardSiblings, RegistersPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './card-page.html',
  styleUrl: './card-page.scss',
})
export class CardPage {
  readonly card = input.required<Card>();
  /** Every card and sheet of the library. */
  readonly cards = input.required<readonly Card[]>();
  readonly sheets = input.required<readonly Sheet[]>();
  readonly editable = input.required<boolean>();
  readonly changed = output<Card>();

  /** What is shown: the card with edits that are not sound yet. */
  protected readonly draft = linkedSignal<Card, Card>({ source: () => this.card(), computation: (card) => card });
  /** Another card begins with everything closed; a change of this one does not. */
  private readonly id = computed(() => this.card().id);
  protected readonly problems = linkedSignal<string, readonly Problem[]>({ source: this.id, computation: () => [] });
  /** Earlier states of the card, for undo. */
  private readonly before = linkedSignal<string, readonly { readonly label: string; readonly card: Card }[]>({
    source: this.id,
    computation: () => [],
  });
  protected readonly undoable = computed(() => (this.problems().length > 0 ? 'what was typed last' : this.before().at(-1)?.label));

  protected readonly quirks = computed(() => cardQuirks(this.card(), { unknowns: false }));
  protected readonly unknown = computed(() =>
    unknownsOf(this.card())
      .filter((what) => besides.some((b) => b === what))
      .map((what) => ({
        what: capital(unknownWords[what]),
        costs: what === 'displayAccuracy' ? surveyEnglish.costs.display : (surveyEnglish.costs[what] ?? ''),
      })),
  );

  protected edit({ label, card: next }: CardEdit): void {
    const read = cardSchema.safeParse(next);
    if (!read.success) {
      this.problems.set(problemsOf(read.error, 'card'));
      this.draft.set(next as Card);
      return;
    }
    this.problems.set([]);
    // Typed by hand: nobody says from where.
    const card: Card = { ...read.data, parameters: saidAnew(this.card().parameters, read.data.parameters, () => null) };
    const was = { label, card: this.card() };
    // What is typed key by key is one change.
    this.before.update((list) => (list.at(-1)?.label === label ? list : [...list, was].slice(-50)));
    this.draft.set(card);
    this.changed.emit(card);
  }

  /** Takes the last change back; what was not sound yet first. */
  protected undo(): void {
    if (this.problems().length > 0) {
      this.problems.set([]);
      this.draft.set(this.card());
      return;
    }
    const last = this.before().at(-1);
    if (!last) return;
    this.before.update((list) => list.slice(0, -1));
    this.draft.set(last.card);
    this.changed.emit(last.card);
  }
}
