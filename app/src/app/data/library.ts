import { computed, inject, Injectable, resource } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { liveQuery } from 'dexie';
import { catchError, from, of } from 'rxjs';
import * as z from 'zod';
import { cardKindWords, cardSchema, type Card } from '@calm-keel/core/card';
import { sheetSchema, type Sheet } from '@calm-keel/core/sheet';
import { surveySchema } from '@calm-keel/core/survey';
import { DATABASE } from './job-book';
import { soundCards, soundSheets } from './rows';

const fetchJson = async (path: string): Promise<unknown> => {
  const response = await fetch(path);
  if (!response.ok) throw new Error(`${path}: ${response.status}`);
  return response.json();
};
const fetchAll = async (folder: 'cards' | 'sheets'): Promise<readonly unknown[]> => z.array(z.unknown()).parse(await fetchJson(`library/${folder}.json`));

const kinds = Object.keys(cardKindWords);
/** Solar first, companions last; by name within a kind. */
const byKind = (a: Card, b: Card): number =>
  kinds.indexOf(a.kind) - kinds.indexOf(b.kind) || `${a.maker} ${a.model} ${a.id}`.localeCompare(`${b.maker} ${b.model} ${b.id}`);
/** By name, the newest revision first. */
const byName = (a: Sheet, b: Sheet): number => `${a.maker} ${a.battery}`.localeCompare(`${b.maker} ${b.battery}`) || b.date.localeCompare(a.date);

/**
 * Cards and sheets to choose from: those that ship with the application, and this device's own. A job takes copies; nothing done here
 * ever alters a job.
 */
@Injectable({ providedIn: 'root' })
export class Library {
  private readonly db = inject(DATABASE);
  readonly shippedCards = resource({ defaultValue: [] as Card[], loader: async () => (await fetchAll('cards')).map((c) => cardSchema.parse(c)).sort(byKind) });
  readonly shippedSheets = resource({
    defaultValue: [] as Sheet[],
    loader: async () => (await fetchAll('sheets')).map((c) => sheetSchema.parse(c)).sort(byName),
  });
  readonly ownCards = toSignal(from(liveQuery(async () => soundCards(await this.db.cards.toArray()))).pipe(catchError(() => of([]))), { initialValue: [] });
  /** Surveys that are not finished. */
  readonly surveys = toSignal(
    from(liveQuery(async () => (await this.db.surveys.toArray()).filter(({ doc }) => surveySchema.safeParse(doc).success))).pipe(catchError(() => of([]))),
    { initialValue: [] },
  );
  readonly ownSheets = toSignal(from(liveQuery(async () => soundSheets(await this.db.sheets.toArray()))).pipe(catchError(() => of([]))), { initialValue: [] });

  /** Own items first; an own one with a shipped id stands in its place. */
  readonly cards = computed<readonly Card[]>(() => over(this.ownCards(), this.shippedCards.hasValue() ? this.shippedCards.value() : []));
  readonly sheets = computed<readonly Sheet[]>(() => over(this.ownSheets(), this.shippedSheets.hasValue() ? this.shippedSheets.value() : []));
  /** The shipped cards are on their way. */
  readonly reading = computed(() => this.shippedCards.isLoading());
  /** Everything that ships is there, cards and sheets. */
  readonly shipped = computed(() => {
    const [cards, sheets] = [this.shippedCards.hasValue() ? this.shippedCards.value() : [], this.shippedSheets.hasValue() ? this.shippedSheets.value() : []];
    return cards.length > 0 && sheets.length > 0 ? { cards, sheets } : null;
  });
  /** The shipped items could not be read. */
  readonly broken = computed(() => this.shippedCards.error() !== undefined || this.shippedSheets.error() !== undefined);

  readonly putSheet = (sheet: Sheet): Promise<unknown> => this.db.sheets.put(sheet);
  readonly putCard = (card: Card): Promise<unknown> => this.db.cards.put(card);
  readonly removeSheet = (id: string): Promise<unknown> => this.db.sheets.delete(id);
  readonly removeCard = (id: string): Promise<unknown> => this.db.cards.delete(id);
}

const over = <T extends { readonly id: string }>(own: readonly T[], all: readonly T[]): readonly T[] => [
  ...own,
  ...all.filter((item) => !own.some((o) => o.id === item.id)),
];
