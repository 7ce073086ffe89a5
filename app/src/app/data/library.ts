import { Injectable, resource } from '@angular/core';
import { cardSchema, sheetSchema, type Card, type Sheet } from '@calm-keel/core';

/** Shipped cards and sheets, by file name. Adding one is one line here and the file in library/. */
const cardFiles = ['varrow-s45', 'varrow-p15'];
const sheetFiles = ['pellow-lb-25-rev-d', 'dunmere-t6-210-rev-5'];

const fetchJson = async (path: string): Promise<unknown> => {
  const response = await fetch(path);
  if (!response.ok) throw new Error(`${path}: ${response.status}`);
  return response.json();
};

/** The cards and sheets that ship with the application, fetched when first wanted. */
@Injectable({ providedIn: 'root' })
export class Library {
  readonly cards = resource({
    defaultValue: [] as Card[],
    loader: () => Promise.all(cardFiles.map(async (name) => cardSchema.parse(await fetchJson(`library/cards/${name}.json`)))),
  });
  readonly sheets = resource({
    defaultValue: [] as Sheet[],
    loader: () => Promise.all(sheetFiles.map(async (name) => sheetSchema.parse(await fetchJson(`library/sheets/${name}.json`)))),
  });
}
