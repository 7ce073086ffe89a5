import { computed, inject, Injectable, resource } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { liveQuery } from 'dexie';
import { catchError, from, of } from 'rxjs';
import { cardSchema, sheetSchema, type Card, type Sheet } from '@calm-keel/core';
import { DATABASE } from './job-book';

/** Shipped cards and sheets, by file name. Adding one is one line here and the file in library/. */
const cardFiles = ['varrow-s45', 'varrow-s45-b', 'varrow-p15', 'tessick-d30', 'murrel-ar-2', 'hadrin-h80', 'ostrel-w12', 'quern-r9', 'tessick-m1', 'isk-t1'];
const sheetFiles = ['pellow-lb-25-rev-d', 'pellow-lb-25-rev-c', 'dunmere-t6-210-rev-5', 'dunmere-gx-110-rev-2', 'corvane-n14-rev-1'];

const fetchJson = async (path: string): Promise<unknown> => {
  const response = await fetch(path);
  if (!response.ok) throw new Error(`${path}: ${response.status}`);
  return response.json();
};
const fetchAll = (folder: string, files: readonly string[]): Promise<unknown[]> =>
  Promise.all(files.map((name) => fetchJson(`library/${folder}/${name}.json`)));

/**
 * Cards and sheets to choose from: those that ship with the application, and this device's own. A job takes copies; nothing done here
 * ever alters a job.
 */
@Injectable({ providedIn: 'root' })
export class Library {
  private readonly db = inject(DATABASE);
  readonly shippedCards = resource({ defaultValue: [] as Card[], loader: async () => (await fetchAll('cards', cardFiles)).map((c) => cardSchema.parse(c)) });
  readonly shippedSheets = resource({
    defaultValue: [] as Sheet[],
    loader: async () => (await fetchAll('sheets', sheetFiles)).map((c) => sheetSchema.parse(c)),
  });
  readonly ownCards = toSignal(from(liveQuery(() => this.db.cards.toArray())).pipe(catchError(() => of([]))), { initialValue: [] });
  readonly ownSheets = toSignal(from(liveQuery(() => this.db.sheets.toArray())).pipe(catchError(() => of([]))), { initialValue: [] });

  /** Own items first; an own one with a shipped id stands in its place. */
  readonly cards = computed<readonly Card[]>(() => over(this.ownCards(), this.shippedCards.hasValue() ? this.shippedCards.value() : []));
  readonly sheets = computed<readonly Sheet[]>(() => over(this.ownSheets(), this.shippedSheets.hasValue() ? this.shippedSheets.value() : []));
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
