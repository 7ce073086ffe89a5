import { figureInfo, type Chemistry, type FigureKey, type FigureUnit } from '../sheet';
import { languages, type ForeignTerm, type HeadKind } from './terms';

/** What a name on a paper means. */
export type NameMeaning =
  | { readonly kind: 'figure'; readonly key: FigureKey; readonly weak: boolean }
  /** A setting of some charger that is no figure of a sheet. */
  | { readonly kind: 'foreign'; readonly term: ForeignTerm };

/** A name as the vocabularies have it. */
export const plainName = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[’‘]/g, "'")
    .replace(/[\u00a0\s]+/g, ' ')
    .replace(/[•–—\-*]\s+/g, '')
    .replace(/\s*[:=]\s*$/, '')
    .trim();

/** Whether a figure can be meant: its chemistry has it, and it can be counted in one of these units. */
type Fits = (key: FigureKey) => boolean;
const fitting =
  (chemistry: Chemistry, units: readonly FigureUnit[] | null): Fits =>
  (key) =>
    (figureInfo[key].chemistries as readonly string[]).includes(chemistry) &&
    (units === null || figureInfo[key].units.some((unit) => (units as readonly string[]).includes(unit)));
const byName = new Map(Object.entries(figureInfo).map(([key, { name }]) => [name.toLowerCase(), key as FigureKey]));

/**
 * What a name in a table, a list or a plain line means; null for a name no language knows. Our own names come first, then what only sounds like a figure.
 *
 * @param units that the value beside it is written in; null where it has none
 * @example meaningOf('High voltage disconnect', 'lfp') // { kind: 'foreign', term: 'highVoltageDisconnect' }
 */
export function meaningOf(name: string, chemistry: Chemistry, units: readonly FigureUnit[] | null = null): NameMeaning | null {
  const fits = fitting(chemistry, units);
  const plain = plainName(name);
  const exact = byName.get(plain);
  if (exact && fits(exact)) return { kind: 'figure', key: exact, weak: false };
  for (const { foreign } of languages) {
    const hit = foreign.find(([pattern]) => pattern.test(plain));
    if (hit) return { kind: 'foreign', term: hit[1] };
  }
  for (const { figures } of languages) {
    const hit = figures.find(([pattern, key]) => fits(key) && pattern.test(plain));
    if (hit) return { kind: 'figure', key: hit[1], weak: hit[2] === 'weak' };
  }
  return null;
}

/** What a piece of a sentence means: a turn of words first, then a name. */
export function meaningIn(piece: string, chemistry: Chemistry, units: readonly FigureUnit[] | null = null): NameMeaning | null {
  const fits = fitting(chemistry, units);
  const plain = plainName(piece);
  for (const { prose } of languages) {
    const hit = prose.find(([pattern, key]) => fits(key) && pattern.test(plain));
    if (hit) return { kind: 'figure', key: hit[1], weak: false };
  }
  return meaningOf(piece, chemistry, units);
}

const unitWords: readonly (readonly [RegExp, readonly FigureUnit[]])[] = [
  [/m?v\s*(?:\/|per|je|pro|par|por)\s*°?\s*[ckf]\b/, ['V/°C']],
  [/(?:°\s*[cf]|k)\s*\/\s*h/, ['°C/h']],
  [/\d\s*(?:°|º|deg)\s*[cf]?|\d\s*℃/, ['°C']],
  [/min(?:utes?)?\s*\/\s*100\s*ah/, ['s/Ah']],
  [/\d\s*(?:v|volts?|vdc|vpc|mv)\b/, ['V']],
  [/\d\s*(?:a|amps?|amperes?)\b/, ['A']],
  [/\d\s*(?:c|ca|c\d+)\b|\bc\s*\/\s*\d/, ['C']],
  [/\d\s*(?:h|hrs?|hours?|std|stunden?|heures?|horas?|min|minut\w*)\b/, ['s']],
  [/\d\s*(?:days?|weeks?|tagen?|tage|jours?|d[ií]as?)(?![\p{L}])/u, ['d']],
  [/\d\s*%/, ['%', 'C']],
];

/** The units a value is written in; null where it is a word, or a number without one. */
export function unitsOf(value: string): readonly FigureUnit[] | null {
  const plain = value
    .toLowerCase()
    .replace(/\(?\s*(?:at|@|bei|à)\s*[-−+]?\d+(?:[.,]\d+)?\s*°\s*[cf]\s*\)?/g, ' ')
    .trim();
  return unitWords.find(([pattern]) => pattern.test(plain))?.[1] ?? null;
}

/** What the head of a column says. */
export function headOf(text: string): HeadKind | null {
  const plain = plainName(text.replace(/\s*[([].*$/, ''));
  if (plain === '') return null;
  for (const { heads } of languages) for (const kind of Object.keys(heads) as HeadKind[]) if (heads[kind]?.test(plain)) return kind;
  return null;
}
