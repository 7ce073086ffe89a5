import { readdirSync, readFileSync } from 'node:fs';
import { cardSchema, type Card } from '../card';
import { sheetSchema, type Sheet } from '../sheet';

const read = <T>(folder: string, schema: { parse: (x: unknown) => T }): readonly T[] => {
  const at = new URL(`../../../library/${folder}/`, import.meta.url);
  return readdirSync(at).map((name) => schema.parse(JSON.parse(readFileSync(new URL(name, at), 'utf8'))));
};

/** The library as it ships. */
export const shipped: { readonly cards: readonly Card[]; readonly sheets: readonly Sheet[] } = {
  cards: read('cards', cardSchema),
  sheets: read('sheets', sheetSchema),
};
