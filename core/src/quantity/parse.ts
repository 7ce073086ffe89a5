import { awgArea } from './gauge';
import { fahrenheitToCelsius } from './temperature';
import { bad, good, type Result } from './result';

/**
 * Reads a number as people type it: decimal point or comma, a true minus or a hyphen, spaces around.
 * Refuses thousands separators, because "1,234" means two things.
 *
 * @returns the number, or a sentence that says what could not be read
 * @example parseNumber('28,1') // { ok: true, value: 28.1 }
 */
export function parseNumber(text: string): Result<number> {
  const plain = text.trim().replace(/[−–]/g, '-');
  if (plain === '') return bad('number-empty', 'Nothing is entered here. Type a number.');
  if (!/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(plain)) return bad('number-unreadable', `“${text.trim()}” is not a number. Type digits with one point or comma.`);
  const value = Number(plain.replace(',', '.'));
  return Number.isFinite(value) && Math.abs(value) < 1e12 ? good(value) : bad('number-too-large', `“${text.trim()}” is too large to be a real figure.`);
}

type Convert = (value: number) => number;
const times =
  (factor: number): Convert =>
  (value) =>
    value * factor;

/** For each unit a field may have: the other ways to write it, and what one of them is in the field's own. */
const written: Readonly<Record<string, readonly (readonly [RegExp, Convert])[]>> = {
  V: [
    [/^v(olts?)?$/, times(1)],
    [/^mv$/, times(0.001)],
    [/^kv$/, times(1000)],
  ],
  A: [
    [/^a(mps?)?$/, times(1)],
    [/^ma$/, times(0.001)],
    [/^ka$/, times(1000)],
  ],
  Ah: [
    [/^ah$/, times(1)],
    [/^mah$/, times(0.001)],
  ],
  W: [
    [/^w(atts?)?$/, times(1)],
    [/^kw$/, times(1000)],
  ],
  min: [
    [/^min(utes?)?$/, times(1)],
    [/^h((ou)?rs?)?$/, times(60)],
    [/^s(ec(onds?)?)?$/, times(1 / 60)],
  ],
  h: [
    [/^h((ou)?rs?)?$/, times(1)],
    [/^min(utes?)?$/, times(1 / 60)],
  ],
  s: [
    [/^s(ec(onds?)?)?$/, times(1)],
    [/^min(utes?)?$/, times(60)],
  ],
  days: [
    [/^d(ays?)?$/, times(1)],
    [/^w(ee)?ks?$/, times(7)],
  ],
  d: [
    [/^d(ays?)?$/, times(1)],
    [/^w(ee)?ks?$/, times(7)],
  ],
  m: [
    [/^m(et(er|re)s?)?$/, times(1)],
    [/^cm$/, times(0.01)],
    [/^mm$/, times(0.001)],
    [/^(ft|feet|foot)$/, times(0.3048)],
  ],
  'mm²': [
    [/^(mm2|mm²|mm\^2|sq\.?mm)$/, times(1)],
    [/^awg$/, awgArea],
  ],
  mΩ: [
    [/^(mω|mohm|milliohms?)$/, times(1)],
    [/^(ω|ohms?)$/, times(1000)],
  ],
  '%': [[/^(%|percent)$/, times(1)]],
  '%/°C': [[/^(%\/°?[ck])$/, times(1)]],
  C: [
    [/^c\d*$/, times(1)],
    [/^%$/, times(0.01)],
  ],
  '°': [[/^(°|deg(rees?)?)$/, times(1)]],
  '°C': [
    [/^°?c$|^deg\.? ?c$/, times(1)],
    [/^°?f$|^deg\.? ?f$/, fahrenheitToCelsius],
  ],
  '°C difference': [
    [/^°?[ck]$|^deg\.? ?c$/, times(1)],
    [/^°?f$|^deg\.? ?f$/, times(5 / 9)],
  ],
};

/**
 * Reads a number with or without a unit, for a field that has one: "28.1", "28,1 V", "2 h" in a field of minutes, "6 AWG" in one of mm², "39 °F"
 * in one of °C. Without a unit the number is in the field's own.
 *
 * @param unit of the field, as it stands in it
 * @returns the value in the field's unit; a unit that does not fit comes back as a sentence naming the one that does
 */
export function parseQuantity(text: string, unit: string): Result<number> {
  const plain = text.replace(/\u00a0/g, ' ').trim();
  const match = /^([+\-−–]?\s*[\d.,]+)\s*([^\d\s.,+\-−–][^\d]*\d{0,2})$/.exec(plain);
  const [, number, word] = match ?? [];
  if (number === undefined || word === undefined) return parseNumber(text);
  const read = parseNumber(number.replace(/\s/g, ''));
  if (!read.ok) return read;
  const key = word.trim().toLowerCase();
  const found = (written[unit] ?? []).find(([pattern]) => pattern.test(key));
  if (!found && key !== unit.toLowerCase())
    return bad(
      'unit-unfit',
      `“${word.trim()}” does not fit here.${unit === '' ? ' Type the number alone.' : ` This is in ${unit.replace(' difference', '')}.`}`,
    );
  return good(found ? found[1](read.value) : read.value);
}
