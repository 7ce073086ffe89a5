import { plausibility, type EntryContext, type Figure, type FigureEntry, type FigureKey } from '../sheet';
import { boxesAround, surely, type Box, type PaperPage, type Word } from './page';
import { readValue, type Doubt } from './value';

/** A figure that a paper may give, waiting for a yes. */
export interface Candidate {
  readonly id: string;
  readonly key: FigureKey;
  readonly entry: FigureEntry;
  /** The value as it is printed. */
  readonly printed: string;
  /** What the paper calls it: the name of a row, or the sentence. */
  readonly quote: string;
  readonly page: number;
  readonly boxes: readonly Box[];
  /** Empty: nothing speaks against it. */
  readonly doubts: readonly Doubt[];
}

/**
 * A row that gives no figure, and why: what it sets is a charger’s and no figure of a sheet; its value cannot be read as what its name means; its name is not known.
 */
export interface LeftOut {
  readonly page: number;
  readonly y: number;
  readonly quote: string;
  readonly name: string;
  readonly value: string;
  readonly why: 'foreign' | 'unreadable' | 'unknown';
  /** What its name means, where that is known. */
  readonly key?: FigureKey;
}

/** What candidates are made with. */
export interface Making {
  readonly context: EntryContext;
  readonly page: PaperPage;
}

/** A figure as one of the sheet would stand; without a rank, which nobody has said of the paper yet. */
export const figureOfEntry = ({ assumed: _said, ...numbers }: FigureEntry): Figure => ({ ...numbers, rank: 'notSaid' });

/** A candidate from a value beside a name; null when the value cannot be read. */
export function candidateOf(
  key: FigureKey,
  printed: string,
  words: readonly Word[],
  quote: string,
  { context, page }: Making,
  doubts: readonly Doubt[] = [],
): Candidate | null {
  const read = readValue(key, printed, context);
  if (!read.ok) return null;
  const { entry } = read.value;
  const fits = plausibility(context.chemistry, key, figureOfEntry(entry), context.shape).plausible;
  return {
    id: '',
    key,
    entry,
    printed,
    quote: quote.slice(0, 400),
    page: page.number,
    boxes: boxesAround(words, page),
    doubts: [
      ...new Set([
        ...doubts,
        ...read.value.doubts,
        ...(fits ? [] : (['implausible'] as const)),
        ...(unclear(words, entry) ? (['unclear'] as const) : []),
        ...(halfRange(key, entry) ? (['weakName'] as const) : []),
      ]),
    ],
  };
}

/** Whether somebody should look at the digits: read from a picture, and not surely; or volts without a decimal point, which is what a picture loses first. */
const unclear = (words: readonly Word[], { unit, state }: FigureEntry): boolean =>
  words.some((w) => w.confidence !== undefined) &&
  (words.some((w) => (w.confidence ?? 100) < surely && /\d/.test(w.text)) ||
    (state === 'stated' && unit === 'V' && words.some((w) => [...w.text.matchAll(/\d+([.,]\d+)?/g)].some(([, behind]) => behind === undefined))));

/** One number for what is a range, without a word on which end it is: something beside it may have been lost. */
const halfRange = (key: FigureKey, { assumed }: FigureEntry): boolean =>
  (key === 'chargeTemperature' || key === 'compensationRange') && assumed.some((note) => note.startsWith('Read as “at'));
