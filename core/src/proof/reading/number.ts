const tens = [1, 10, 100, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12];

/** Where the number that was looked at last ends. */
export const looked = { end: 0 };

/**
 * The number that stands at a place of a text, up to a letter or the end, where it is of the usual kind: a few digits with one decimal mark. Read digit by
 * digit, which is exact: both the digits and the power of ten are whole numbers below 2⁵³. Where it ends is left in `looked`.
 *
 * @param bytes the text as it stands in its file, UTF-8
 * @param mark character code of the decimal mark
 * @param stop character code of what ends it
 * @returns NaN where nothing stands there, Infinity where it is written in another way
 */
export function plainNumber(bytes: Uint8Array, from: number, to: number, mark: number, stop: number): number {
  let i = from;
  const negative = i < to && bytes[i] === 45;
  if (negative) i++;
  let whole = 0;
  let decimals = -1;
  let digits = 0;
  for (; i < to; i++) {
    const c = bytes[i] ?? 0;
    if (c >= 48 && c <= 57) {
      whole = whole * 10 + (c - 48);
      digits++;
      if (decimals >= 0) decimals++;
    } else if (c === stop) break;
    else if (c === mark && decimals < 0) decimals = 0;
    else return Infinity;
  }
  looked.end = i;
  if (i === from) return NaN;
  if (digits === 0 || digits > 15) return Infinity;
  const value = decimals > 0 ? whole / (tens[decimals] ?? 10 ** decimals) : whole;
  return negative ? -value : value;
}

/** Character code of a decimal mark. */
export const markOf = (comma: boolean): number => (comma ? 44 : 46);

/**
 * A number as loggers write it, also with an exponent, a unit behind it, thousands, a typographic minus.
 *
 * @param comma the decimal mark is a comma
 * @returns NaN for an empty field, null for what is no number
 */
export function readNumber(text: string, comma: boolean): number | null {
  if (text === '') return NaN;
  const plain = comma ? /^-?\d{1,15}(,\d{0,9})?$/ : /^-?\d{1,15}(\.\d{0,9})?$/;
  return plain.test(text) ? Number(comma ? text.replace(',', '.') : text) + 0 : slowNumber(text, comma);
}

/** The unusual ways of writing a number. */
function slowNumber(text: string, comma: boolean): number | null {
  let plain = text.trim().replace(/^\u2212/, '-');
  if (plain === '' || /^(nan|n\/?a|null|none|-{1,3}|—|\?)$/i.test(plain)) return NaN;
  // A unit behind the number says what the column's head says, or what a person reads there.
  plain = plain.replace(/\s*(?:[mk]?[VAW]|Ah|°?[CF]|%)$/, '');
  if (comma) plain = plain.replace(/[.\s\u00a0'](?=\d{3}(\D|$))/g, '').replace(',', '.');
  else plain = plain.replace(/[,\s\u00a0'](?=\d{3}(\D|$))/g, '');
  if (!/^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/.test(plain)) return null;
  const value = Number(plain);
  return Number.isFinite(value) ? value + 0 : null;
}
