import { nominalCellVolts, type Chemistry } from '../sheet';
import { boxesAround, surely, type Box, type PaperPage } from './page';
import type { Line } from './lines';

/** Something a paper says of its battery or of itself, with where it stands. */
export interface PaperFact<T> {
  readonly value: T;
  readonly quote: string;
  readonly page: number;
  readonly boxes: readonly Box[];
  /** It was read from a picture, and not clearly: a digit is doubtful, or the volts have no decimal point, which is what a picture loses first. */
  readonly unclear?: true;
}

/** What a paper says besides figures. Missing is what it does not say. */
export interface PaperFacts {
  readonly chemistry?: PaperFact<Chemistry>;
  readonly nominalVolts?: PaperFact<number>;
  readonly capacityAh?: PaperFact<number>;
  readonly cells?: PaperFact<number>;
  readonly revision?: PaperFact<string>;
  readonly date?: PaperFact<string>;
  readonly title?: PaperFact<string>;
}

const chemistries: readonly (readonly [RegExp, Chemistry])[] = [
  [/lifepo\s?4|\blfp\b|lithium iron|eisenphosphat|fer.?phosphate|fosfato de hierro/, 'lfp'],
  [/\bnmc\b|nickel.?mangan/, 'nmc'],
  [/\bgel\b/, 'gel'],
  [/\bagm\b|absorbent glass/, 'agm'],
  [/flooded|vented|wet cell|liquid electrolyte|geschlossen|ouverte|nassbatterie/, 'flooded'],
];

const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const toNumber = (text: string): number => Number(text.replace(',', '.'));

/** Dates as the sheet notes them: 2026-03 or 2026-03-14. */
function datesIn(text: string): readonly string[] {
  const iso = [...text.matchAll(/\b((?:19|20)\d{2})-(0[1-9]|1[0-2])(?:-(0[1-9]|[12]\d|3[01]))?\b/g)].map(([all]) => all);
  const slash = [...text.matchAll(/\b(0?[1-9]|1[0-2])[/.]((?:19|20)\d{2})\b/g)].map(([, month = '', year = '']) => `${year}-${month.padStart(2, '0')}`);
  const named = [...text.matchAll(new RegExp(String.raw`\b(${months.join('|')})[a-z]*\.?,?\s+((?:19|20)\d{2})\b`, 'gi'))].map(
    ([, month = '', year = '']) => `${year}-${String(months.indexOf(month.toLowerCase()) + 1).padStart(2, '0')}`,
  );
  return [...iso, ...slash, ...named];
}

/** What the lines of a paper say of battery and document. Two different answers to one question are none. */
export function factsOf(pages: readonly PaperPage[], lines: readonly Line[]): PaperFacts {
  const found: { [K in keyof PaperFacts]?: PaperFacts[K][] } = {};
  const add = <K extends keyof PaperFacts>(key: K, value: NonNullable<PaperFacts[K]>['value'], line: Line): void => {
    const page = pages.find((p) => p.number === line.page);
    if (!page) return;
    const words = line.cells.flatMap((c) => c.words);
    const pictured = words.some((w) => w.confidence !== undefined);
    const doubtful = words.some((w) => (w.confidence ?? 100) < surely && /\d/.test(w.text)) || (key === 'nominalVolts' && Number.isInteger(value));
    const fact = {
      value,
      quote: textOf(line).slice(0, 200),
      page: line.page,
      boxes: boxesAround(words, page),
      ...(pictured && doubtful ? { unclear: true as const } : {}),
    };
    (found as Record<string, unknown[]>)[key] = [...((found[key] as unknown[] | undefined) ?? []), fact];
  };
  for (const line of lines) {
    const text = textOf(line);
    const plain = text.toLowerCase();
    for (const [pattern, value] of chemistries) if (pattern.test(plain)) add('chemistry', value, line);
    const revision = /\b(?:rev(?:ision)?|issue|edition|version|ausgabe|indice|edici[oó]n|release)\b\.?:?\s*([a-z]|\d+(?:\.\d+)*)\b/i.exec(text);
    if (revision?.[1]) add('revision', revision[1].toUpperCase(), line);
    for (const date of datesIn(text)) add('date', date, line);
    // Volts and capacity beside each other, or with their name, are those of the battery.
    const pair = /(\d+(?:[.,]\d+)?)\s*v(?:olts?|dc)?\b[\s,/·x×–-]*(?:and |und |et |y )?(\d+(?:[.,]\d+)?)\s*a\.?h\b/i.exec(text);
    if (pair) {
      add('nominalVolts', toNumber(pair[1] ?? ''), line);
      add('capacityAh', toNumber(pair[2] ?? ''), line);
    } else {
      const volts = /(?:nominal volt\w*|nennspannung|tension nominale|tensi[oó]n nominal)\D{0,12}(\d+(?:[.,]\d+)?)\s*v?\b/i.exec(text);
      const named = /(\d+(?:[.,]\d+)?)\s*v(?:olts?)?[ -]*(?:\w+ )?(?:batter|monobloc|block|pack|module|bater[ií]a)/i.exec(text);
      if (named && !volts && !/\bper\b|\beach\b/i.test(text)) add('nominalVolts', toNumber(named[1] ?? ''), line);
      if (volts && line.cells.length <= 2) add('nominalVolts', toNumber(volts[1] ?? ''), line);
      const capacity = /(?:capacity|nennkapazit[äa]t|capacit[ée]|capacidad)\D{0,20}(\d+(?:[.,]\d+)?)\s*a\.?h\b/i.exec(text);
      if (capacity && line.cells.length <= 2) add('capacityAh', toNumber(capacity[1] ?? ''), line);
    }
    const cells = /\b(\d{1,3})\s*(?:cells in series|s\d?p?\b(?=.*cell)|zellen in reihe|cellules en série|celdas en serie)/i.exec(text);
    if (cells) add('cells', Number(cells[1]), line);
  }
  const [first] = [...lines]
    .filter((l) => l.page === 1 && !/^\d+(\.\d+)*\.?\s/.test(textOf(l)) && /\p{L}{3}/u.test(textOf(l)))
    .sort((a, b) => b.size - a.size || a.y0 - b.y0);
  if (first && textOf(first).length >= 3) add('title', textOf(first).slice(0, 80), first);
  return Object.fromEntries(
    (Object.keys(found) as (keyof PaperFacts)[]).flatMap((key) => {
      const list = (found[key] ?? []) as PaperFact<unknown>[];
      const [one] = list;
      const alike = list.every((f) => f.value === one?.value);
      return one && (alike || key === 'title') ? [[key, one]] : [];
    }),
  );
}

/** The words of a line, its cells one behind the other. */
export const textOf = (line: Line): string => line.cells.map((c) => c.text).join(' ');

/** Cells in series of a battery of so many nominal volts, where that comes out whole: an NMC cell may be counted at 3.6 or 3.7 V. */
export function cellsFrom(chemistry: Chemistry, nominalVolts: number): number | null {
  const cells = Math.round(nominalVolts / nominalCellVolts[chemistry]);
  return cells >= 1 && Math.abs(nominalVolts / cells - nominalCellVolts[chemistry]) < 0.06 * nominalCellVolts[chemistry] ? cells : null;
}
