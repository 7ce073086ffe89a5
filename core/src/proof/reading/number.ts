const tens = [1, 10, 100, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12];

/**
 * A number as loggers write it. The usual kind, a few digits with one decimal mark, is read digit by digit, which is exact: both the digits and the
 * power of ten are whole numbers below 2⁵³. Anything else (exponents, units behind it, thousands, typographic minus) goes the long way.
 *
 * @param comma the decimal mark is a comma
 * @returns NaN for an empty field, null for what is no number
 */
export function readNumber(text: string, comma: boolean): number | null {
  const n = text.length;
  if (n === 0) return NaN;
  const mark = comma ? 44 : 46;
  let i = 0;
  const negative = text.charCodeAt(0) === 45;
  if (negative) i = 1;
  let whole = 0;
  let decimals = -1;
  let digits = 0;
  for (; i < n; i++) {
    const c = text.charCodeAt(i);
    if (c >= 48 && c <= 57) {
      whole = whole * 10 + (c - 48);
      digits++;
      if (decimals >= 0) decimals++;
    } else if (c === mark && decimals < 0) decimals = 0;
    else return slowNumber(text, comma);
  }
  if (digits === 0 || digits > 15) return slowNumber(text, comma);
  const value = decimals > 0 ? whole / (tens[decimals] ?? 10 ** decimals) : whole;
  // A “−0.0” of the file is a plain 0.
  return negative && value !== 0 ? -value : value;
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
