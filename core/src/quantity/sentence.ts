import type { Band } from './band';
import { formatBand, formatQuantity, formatTemperature, formatTemperatureDifference, type TemperatureScale } from './format';

/** A temperature within a sentence, °C: spoken in the scale of whoever reads it. */
export interface Warmth {
  readonly celsius: number;
  readonly digits: number;
  /** A difference, and no reading. */
  readonly by?: true;
}

/** A sentence whose temperatures are still numbers; without any it is its text. */
export type Sentence = string | readonly (string | Warmth)[];

/** A temperature for a sentence, °C. */
export const warmth = (celsius: number, digits = 1): Warmth => ({ celsius, digits });

/** A difference of temperatures for a sentence, °C. */
export const warmthBy = (difference: number, digits = 1): Warmth => ({ celsius: difference, digits, by: true });

const isWarmth = (part: unknown): part is Warmth => typeof part === 'object' && part !== null && 'celsius' in part;

/** Whether something that was stored, or came from elsewhere, is a sentence. */
export const isSentence = (value: unknown): value is Sentence =>
  typeof value === 'string' ||
  (Array.isArray(value) &&
    value.every(
      (part) =>
        typeof part === 'string' ||
        (isWarmth(part) && typeof part.celsius === 'number' && Number.isInteger(part.digits) && part.digits >= 0 && part.digits < 10),
    ));

/**
 * A sentence put together from text, numbers, temperatures and other sentences.
 *
 * @example speak(said`It stopped at ${warmth(5, 0)}.`, 'F') // "It stopped at 41 °F."
 */
export function said(texts: TemplateStringsArray, ...parts: readonly (Sentence | Warmth | number)[]): Sentence {
  const list: (string | Warmth)[] = [];
  const add = (part: string | Warmth): void => {
    const last = list.at(-1);
    if (typeof part === 'string' && typeof last === 'string') list[list.length - 1] = last + part;
    else if (part !== '') list.push(part);
  };
  texts.forEach((text, k) => {
    add(text);
    const part = parts[k];
    if (part === undefined) return;
    if (typeof part === 'number') add(String(part));
    else if (typeof part === 'string' || isWarmth(part)) add(part);
    else part.forEach(add);
  });
  return list.every((part) => typeof part === 'string') ? list.join('') : list;
}

/** A sentence as it is read, in the scale its reader has chosen. */
export const speak = (sentence: Sentence, scale: TemperatureScale): string =>
  typeof sentence === 'string'
    ? sentence
    : sentence
        .map((part) =>
          typeof part === 'string'
            ? part
            : part.by
              ? formatTemperatureDifference(part.celsius, scale, part.digits)
              : formatTemperature(part.celsius, scale, part.digits),
        )
        .join('');

/** A value for a sentence: a temperature stays a number. */
export const saidQuantity = (value: number, unit: string, digits: number): Sentence | Warmth =>
  unit === '°C' ? warmth(value, digits) : formatQuantity(value, unit, digits);

/** By how much, for a sentence: a difference of temperatures stays a number. */
export const saidBy = (value: number, unit: string, digits: number): Sentence | Warmth =>
  unit === '°C' ? warmthBy(value, digits) : formatQuantity(value, unit, digits);

/** A band for a sentence: "28.0–28.4 V", "at least 5 °C", "2.0 °C to 8.0 °C". */
export function saidBand(band: Band, unit: string, digits: number): Sentence {
  const { min, max } = band;
  if (unit !== '°C' || (min === undefined && max === undefined)) return formatBand(band, unit, digits);
  if (min === undefined) return said`at most ${warmth(max ?? NaN, digits)}`;
  return max === undefined ? said`at least ${warmth(min, digits)}` : said`${warmth(min, digits)} to ${warmth(max, digits)}`;
}
