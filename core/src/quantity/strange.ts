import * as z from 'zod';
import { isRecord } from './record';
import type { Problem } from './result';

/** A name in a file that this program does not know, held as it stood: where, and its value as JSON. */
export const asideSchema = z.object({ place: z.string().min(1).max(400), json: z.string().max(20_000) });
export type Aside = z.infer<typeof asideSchema>;
/** Of one document. More than these make it a file of another kind. */
export const mostAside = 200;

/**
 * Names that a document gives and that were not read from it: a slip in writing, or something of a later version. Reading by a schema drops them without a word.
 *
 * @param given the document as it came
 * @param read what its schema made of it
 * @example strangeIn({ figures: { float: { mots: 27 } } }, { figures: { float: {} } }) // [{ place: 'figures › float › mots', json: '27' }]
 */
export function strangeIn(given: unknown, read: unknown, path: readonly string[] = []): readonly Aside[] {
  if (Array.isArray(given) && Array.isArray(read)) return given.flatMap((item, i) => strangeIn(item, read[i], [...path, String(i + 1)]));
  if (!isRecord(given) || !isRecord(read)) return [];
  return Object.entries(given).flatMap(([key, value]) =>
    Object.hasOwn(read, key) || value === undefined
      ? strangeIn(value, read[key], [...path, key])
      : [{ place: [...path, key].join(' › '), json: JSON.stringify(value) }],
  );
}

/** The same as something that is wrong with a file. */
export const strangeProblem = ({ place }: Aside): Problem => ({
  code: 'strange-name',
  text: `“${place}” is not a name this program knows, so it was not read. Look for a slip in writing.`,
  place,
});

/** The same as a sentence for whoever brought the file in and has it held. */
export const strangeWords = (aside: Aside): string =>
  `${strangeProblem(aside).text} It is held aside as it is: ${aside.json.length > 80 ? `${aside.json.slice(0, 77)}…` : aside.json}.`;

/**
 * A document as its schema reads it, with what it does not know held in its `aside`; null when there is more of that, or more in it, than can be held.
 *
 * @param from the document as it came
 */
export function withAside<T extends { readonly aside?: readonly Aside[] | undefined }>(from: unknown, read: T): T | null {
  const strange = strangeIn(from, read);
  if (strange.length === 0) return read;
  const aside = [...(read.aside ?? []).filter((a) => !strange.some((s) => s.place === a.place)), ...strange];
  return z.array(asideSchema).max(mostAside).safeParse(aside).success ? { ...read, aside } : null;
}
