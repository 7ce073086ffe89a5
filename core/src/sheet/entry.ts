import { bad, fahrenheitToCelsius, good, outsideBy, tidy, type Result } from '../quantity';
import { basisWords, type Basis, type Figure, type FigureUnit } from './figure';
import { plausibleWindow } from './plausible';
import { countsPer, shownUnit } from './print';
import { cellsOf, type BankShape } from './scale';
import { figureInfo, isLithium, type Chemistry, type FigureKey } from './sheet';

/** What a typed figure was understood as. */
export interface FigureEntry extends Pick<Figure, 'state' | 'unit' | 'basis'> {
  readonly min?: number;
  readonly target?: number;
  readonly max?: number;
  /** What was taken for granted, each in a sentence a person can contradict. */
  readonly assumed: readonly string[];
}

/** What the reader knows before it reads. */
export interface EntryContext {
  readonly chemistry: Chemistry;
  readonly shape: BankShape;
  /** What numbers without a word on it are counted for. */
  readonly basis: Basis;
}

const states: readonly (readonly [RegExp, Figure['state']])[] = [
  [/^(not|none) (permitted|allowed)$|^(never|prohibited|forbidden|do not)$/, 'notPermitted'],
  [/^not (needed|required|used|necessary)$|^(none|n\/?a|no)$/, 'notNeeded'],
];

const basisPhrases: readonly (readonly [RegExp, Basis])[] = [
  [/(?:\/|\b(?:per|a|each|any|on any)\b)\s*cells?\b/g, 'cell'],
  [/(?:\/|\bper\b)\s*12\s*v(?:olts?)?(?:\s*(?:block|battery))?\b|(?:\/|\bper\b|\bfor\b)\s*6[- ]cells?\b|(?:\/|\bper\b)\s*blocks?\b/g, 'block'],
  [/(?:\/|\bper\b|\ba\b|\beach\b)\s*(?:battery|batteries|units?|modules?|packs?|monobloc)\b|\beach\b/g, 'unit'],
  [/(?:\/|\bper\b|\bfor\b|\bof\b)\s*(?:the\s*)?(?:whole\s*)?(?:bank|system)\b|\btotal\b/g, 'bank'],
];

/** Unit words, longest first; `scale` is core units in one. */
const units: readonly { readonly word: RegExp; readonly unit: FigureUnit | '%'; readonly scale: number; readonly fahrenheit?: 'reading' | 'difference' }[] = [
  { word: /^min(?:utes?)?\s*(?:\/|per)\s*100\s*ah\b/, unit: 's/Ah', scale: 0.6 },
  { word: /^mv\s*(?:\/|per)\s*(?:°\s*|deg\.?\s*)?f\b/, unit: 'V/°C', scale: 0.0018 },
  { word: /^mv\s*(?:\/|per)\s*(?:°\s*|deg\.?\s*)?[ck]\b/, unit: 'V/°C', scale: 0.001 },
  { word: /^v\s*(?:\/|per)\s*(?:°\s*|deg\.?\s*)?[ck]\b/, unit: 'V/°C', scale: 1 },
  { word: /^(?:°|deg\.?)\s*f\s*(?:\/|per|an|a)\s*h(?:our)?\b/, unit: '°C/h', scale: 5 / 9 },
  { word: /^(?:(?:°|deg\.?)\s*c|k)\s*(?:\/|per|an|a)\s*h(?:our)?\b/, unit: '°C/h', scale: 1 },
  { word: /^(?:°|deg\.?)\s*f\b/, unit: '°C', scale: 1, fahrenheit: 'reading' },
  { word: /^(?:°|deg\.?)\s*c\b/, unit: '°C', scale: 1 },
  { word: /^mv(?:olts?)?\b/, unit: 'V', scale: 0.001 },
  { word: /^v(?:olts?|dc)?\b/, unit: 'V', scale: 1 },
  { word: /^ma(?:mps?)?\b/, unit: 'A', scale: 0.001 },
  { word: /^a(?:mps?|mperes?)?\b/, unit: 'A', scale: 1 },
  { word: /^c(?:\d+)?\b/, unit: 'C', scale: 1 },
  { word: /^(?:%|percent)(?:\s*of\s*(?:rated\s*)?capacity)?/, unit: '%', scale: 1 },
  { word: /^h(?:(?:ou)?rs?)?\b/, unit: 's', scale: 3600 },
  { word: /^min(?:ute)?s?\b/, unit: 's', scale: 60 },
  { word: /^s(?:ec(?:ond)?s?)?\b/, unit: 's', scale: 1 },
  { word: /^d(?:ays?)?\b/, unit: 'd', scale: 1 },
  { word: /^w(?:ee)?ks?\b/, unit: 'd', scale: 7 },
  { word: /^(?:batter(?:y|ies)|units?|strings?|pcs)\b/, unit: 'count', scale: 1 },
];

type Token =
  | { readonly kind: 'number'; readonly value: number; readonly sign: '' | '-' | '+' }
  | { readonly kind: 'unit'; readonly unit: FigureUnit | '%'; readonly scale: number; readonly fahrenheit: boolean; readonly text: string }
  | { readonly kind: 'range' | 'plusMinus' | 'rate' | 'break' }
  | { readonly kind: 'mark'; readonly end: 'min' | 'target' | 'max' };

const marks: readonly (readonly [RegExp, 'min' | 'target' | 'max'])[] = [
  [/^(?:at most|no more than|not above|maximum|max\.?|up to|below|≤|<=?)/, 'max'],
  [/^(?:at least|no less than|not below|minimum|min\.?(?=$|[\s,;)])|above|from|≥|>=?)/, 'min'],
  [/^(?:target|nominal|nom\.?|typical|typ\.?|aim|about|approx\.?|every|to|for|=)/, 'target'],
];

/** What a person may write for a unit of this figure. */
const offered = (key: FigureKey): string => {
  const words = {
    V: 'V',
    A: 'A',
    C: 'C',
    s: 'min or h',
    's/Ah': 'min/100 Ah',
    d: 'days',
    '°C': '°C or °F',
    '°C/h': '°C/h',
    'V/°C': 'mV/°C',
    '%': '%',
    count: 'no unit',
  };
  return figureInfo[key].units.map((unit) => words[unit]).join(', or ');
};

function tokens(text: string, key: FigureKey): Result<readonly Token[]> {
  const list: Token[] = [];
  let rest = text;
  while (rest !== '') {
    const skip = /^(?:\s+|[,;()\s]+|and\b|or\b)/.exec(rest);
    if (skip) {
      if (/[^\s]/.test(skip[0])) list.push({ kind: 'break' });
      rest = rest.slice(skip[0].length);
      continue;
    }
    const [last, before] = list
      .filter((t) => t.kind !== 'break')
      .slice(-2)
      .reverse();
    // A dash between two numbers is a range; before a lone one it is a sign.
    const range = /^(?:–|—|\.\.\.?|…|to\b|-)\s*(?=[-−+]?\s*[\d.,]*\d)/.exec(rest);
    if (range && list.at(-1)?.kind !== 'break' && (last?.kind === 'number' || (last?.kind === 'unit' && before?.kind === 'number'))) {
      list.push({ kind: 'range' });
      rest = rest.slice(range[0].length);
      continue;
    }
    const plusMinus = /^(?:±|\+\/-|\+-)\s*/.exec(rest);
    if (plusMinus) {
      list.push({ kind: 'plusMinus' });
      rest = rest.slice(plusMinus[0].length);
      continue;
    }
    const rate = /^c\s*\/\s*(?=\d)/.exec(rest);
    if (rate) {
      list.push({ kind: 'rate' });
      rest = rest.slice(rate[0].length);
      continue;
    }
    const number = /^([-−+]?)\s*(\d+(?:[.,]\d+)?|[.,]\d+)/.exec(rest);
    if (number) {
      const value = Number((number[2] ?? '').replace(',', '.'));
      list.push({ kind: 'number', value, sign: number[1] === '' ? '' : number[1] === '+' ? '+' : '-' });
      rest = rest.slice(number[0].length);
      continue;
    }
    // "min" is a unit behind a number and "least" before one.
    const unit = list.at(-1)?.kind === 'number' ? units.find(({ word }) => word.test(rest)) : undefined;
    if (unit) {
      const word = unit.word.exec(rest)?.[0] ?? '';
      list.push({ kind: 'unit', unit: unit.unit, scale: unit.scale, fahrenheit: unit.fahrenheit !== undefined, text: word });
      rest = rest.slice(word.length);
      continue;
    }
    const mark = marks.find(([word]) => word.test(rest));
    if (mark) {
      list.push({ kind: 'mark', end: mark[1] });
      rest = rest.slice(mark[0].exec(rest)?.[0].length ?? 1);
      continue;
    }
    const word = /^\S+/.exec(rest)?.[0] ?? rest;
    return bad('figure-unreadable', `“${word.slice(0, 30)}” is not understood here. Write numbers with ${offered(key)}, such as ${example(key)}.`);
  }
  return good(list);
}

/** A figure of this kind as it may be typed. */
export function example(key: FigureKey): string {
  const { units: can, lone } = figureInfo[key];
  const first = can[0];
  if (first === 'V') return lone === 'max' ? '“at most 3.65 V/cell”' : lone === 'min' ? '“at least 2.6 V/cell”' : '“28.1 V (28.0–28.4)” or “2.45 V/cell”';
  if (first === 's') return key === 'absorbTime' ? '“40 min”, “2 h” or “20 min/100 Ah”' : '“3 h”';
  if (!(can as readonly string[]).includes('C') && first === 'A') return '“200 A”';
  if (first === 'C' || first === 'A') return '“0.04 C”, “C/20” or “20 A”';
  if (first === '°C') return lone === 'min' ? '“0–45 °C”' : '“25 °C”';
  if (first === 'V/°C') return '“−3.5 mV/°C/cell” or “−24 mV/°C per 12 V”';
  if (first === '°C/h') return '“5 °C/h”';
  if (first === 'd') return '“90 days”';
  if (first === '%') return '“50 %”';
  return '“4”';
}

/**
 * Reads a figure as people type or paste it: "28.1 V (28.0–28.4)", "3.68 V/cell", "−24 mV/°C per 12 V", "C/20", "1 h 20 min", "at most 26.4",
 * "39 °F", "not permitted". Decimal point or comma. Numbers come back in the figure's core unit, on the basis they were written for.
 * What was not written is assumed, and every assumption is said.
 *
 * @returns null for an empty text: the figure is not on the sheet
 * @throws never; what cannot be read is a sentence with an example
 */
export function readFigure(key: FigureKey, text: string, context: EntryContext): Result<FigureEntry | null> {
  const info = figureInfo[key];
  const plain = text
    .toLowerCase()
    .replace(/[\u00a0\s]+/g, ' ')
    .replace(/−/g, '-')
    .replace(/º/g, '°')
    .replace(/["“”]/g, '')
    .trim();
  if (plain === '') return good(null);
  const unitOf = info.units[0];
  const state = states.find(([words]) => words.test(plain));
  if (state) return good({ state: state[1], unit: unitOf, basis: context.basis, assumed: [] });

  let basis: Basis | null = null;
  let bare = plain;
  for (const [phrase, meant] of basisPhrases) {
    if (!phrase.test(bare)) continue;
    phrase.lastIndex = 0;
    if (basis !== null && basis !== meant)
      return bad('figure-two-bases', 'This says two things about what it is counted for. Write one: per cell, per battery, per 12 V, or for the bank.');
    basis = meant;
    bare = bare.replace(phrase, ' ');
  }
  for (const [phrase] of basisPhrases) phrase.lastIndex = 0;

  const read = tokens(bare.replace(/\s+/g, ' ').trim(), key);
  if (!read.ok) return read;
  const amounts = amountsOf(read.value, key);
  if (!amounts.ok) return amounts;
  const { min, target, max, unit, signed } = amounts.value;

  const assumed: string[] = [];
  if (!amounts.value.unitWritten && unit !== 'count') assumed.push(`No unit is written; read as ${shownUnit[unit].text}.`);
  if (!amounts.value.marked && info.lone !== 'target') assumed.push(`Read as “at ${info.lone === 'max' ? 'most' : 'least'}”.`);
  let sign = 1;
  if (key === 'compensationSlope' && !isLithium(context.chemistry) && !signed && (target ?? min ?? max ?? 0) > 0) {
    sign = -1;
    assumed.push('Read as minus: the voltage of a lead bank is lowered as it warms. Write + if the sheet really says so.');
  }
  const numbers = [min, target, max].map((n) => (n === undefined ? undefined : n * sign));
  const counted = countsPer(unit) ? basisFor(key, numbers, basis, context, assumed) : (basis ?? context.basis);
  const [least, aim, most] = sign < 0 ? [numbers[2], numbers[1], numbers[0]] : numbers;
  const order = [least, aim, most].filter((n) => n !== undefined);
  if (order.some((n, i) => i > 0 && n < (order[i - 1] ?? n)))
    return bad(
      'figure-reversed',
      least !== undefined && most !== undefined && least > most
        ? 'The band is written with its greater end first. Write the lesser one first, as in 28.0–28.4.'
        : 'The value to aim at lies outside its own band. Check the three numbers against the document.',
    );
  return good({
    state: 'stated',
    unit,
    basis: counted,
    ...(least === undefined ? {} : { min: least }),
    ...(aim === undefined ? {} : { target: aim }),
    ...(most === undefined ? {} : { max: most }),
    assumed,
  });
}

/** The basis written, else the one given, else the only one on which the numbers make sense. */
function basisFor(key: FigureKey, numbers: readonly (number | undefined)[], written: Basis | null, context: EntryContext, assumed: string[]): Basis {
  if (written) return written;
  const window = plausibleWindow(context.chemistry, key);
  const values = numbers.filter((n) => n !== undefined);
  const fits = (basis: Basis): boolean => window === undefined || values.every((v) => outsideBy(window, v / cellsOf(basis, context.shape)) === 0);
  if (fits(context.basis)) return context.basis;
  const only = (['cell', 'unit', 'bank', 'block'] as const).find(fits);
  if (!only) return context.basis;
  assumed.push(`Not said what it is counted for; read ${basisWords[only]}, which is what these numbers fit.`);
  return only;
}

type UnitToken = Extract<Token, { kind: 'unit' }>;

/** One number with what stands around it. */
interface Amount {
  readonly raw: number;
  readonly unit: UnitToken | null;
  readonly role: 'min' | 'target' | 'max' | 'plusMinus' | null;
  /** A dash or “to” joins it to the next one. */
  readonly rangeTo: boolean;
  /** Nothing but a space stands between it and the one before. */
  readonly joined: boolean;
}

const capacity: UnitToken = { kind: 'unit', unit: 'C', scale: 1, fahrenheit: false, text: 'C' };

/** Numbers with their units, marks and dashes. */
function collect(list: readonly Token[]): { readonly amounts: readonly Amount[]; readonly signed: boolean } {
  const amounts: Amount[] = [];
  const change = (by: Partial<Amount>): void => {
    const last = amounts.pop();
    if (last) amounts.push({ ...last, ...by });
  };
  let mark: Amount['role'] = null;
  let rate = false;
  let broke = false;
  list.forEach((token, i) => {
    const last = amounts.at(-1);
    if (token.kind === 'break') broke = true;
    else if (token.kind === 'plusMinus') mark = 'plusMinus';
    else if (token.kind === 'rate') rate = true;
    else if (token.kind === 'range') change({ rangeTo: true });
    else if (token.kind === 'unit') change({ unit: token });
    else if (token.kind === 'mark') {
      // "max 28.4" stands before its number, "28.4 V max" behind it.
      const behind = last?.role === null && amounts.at(-2)?.rangeTo !== true && list[i + 1]?.kind !== 'number';
      if (behind) change({ role: token.end });
      else mark = token.end;
    } else if (token.kind === 'number') {
      const value = token.sign === '-' ? -token.value : token.value;
      const joined = !broke && mark === null && last?.rangeTo === false;
      amounts.push({ raw: rate ? 1 / value : value, unit: rate ? capacity : null, role: mark, rangeTo: false, joined });
      mark = null;
      rate = false;
      broke = false;
    }
  });
  return { amounts: merged(amounts), signed: list.some((t) => t.kind === 'number' && t.sign !== '') };
}

/** "1 h 20 min" is one time of two pieces, the greater first. */
function merged(amounts: readonly Amount[]): readonly Amount[] {
  return amounts.reduce<readonly Amount[]>((done, amount) => {
    const last = done.at(-1);
    const pieces = amount.joined && last?.unit?.unit === 's' && amount.unit?.unit === 's' && last.unit.scale > amount.unit.scale;
    return pieces && last.unit && amount.unit
      ? [...done.slice(0, -1), { ...last, raw: last.raw + (amount.raw * amount.unit.scale) / last.unit.scale }]
      : [...done, amount];
  }, []);
}

interface Amounts {
  readonly min?: number;
  readonly target?: number;
  readonly max?: number;
  readonly unit: FigureUnit;
  readonly unitWritten: boolean;
  /** A plus or a minus was written. */
  readonly signed: boolean;
  /** Which end of the band a number is was written, or can be seen. */
  readonly marked: boolean;
}

/** Puts numbers, ranges and marks together. A unit holds for every number without one of its own. */
function amountsOf(list: readonly Token[], key: FigureKey): Result<Amounts> {
  const info = figureInfo[key];
  const can: readonly FigureUnit[] = info.units;
  const { amounts, signed } = collect(list);
  if (amounts.length === 0) return bad('figure-no-number', `There is no number here. Write ${example(key)}, “not permitted” or “not needed”.`);
  if (amounts.some((a) => !Number.isFinite(a.raw))) return bad('figure-rate', 'C/0 is no current. Write the hours, as in C/20.');

  const percent = (token: UnitToken): boolean => token.unit === '%' && can.includes('C');
  const unitOf = (token: UnitToken): FigureUnit => (percent(token) ? 'C' : token.unit);
  const written = amounts.flatMap((a) => a.unit ?? []);
  const foreign = written.find((token) => !can.includes(unitOf(token)));
  if (foreign) return bad('figure-unit', `“${foreign.text.trim()}” is no unit of ${info.name.toLowerCase()}. Write ${offered(key)}, such as ${example(key)}.`);
  const common = written[0];
  const unit = common ? unitOf(common) : can[0];
  if (unit === undefined || written.some((token) => unitOf(token) !== unit))
    return bad('figure-two-units', 'This mixes two units. Write the figure in one of them.');

  const scaleOf = (a: Amount): number => {
    const token = a.unit ?? common;
    return token ? (percent(token) ? 0.01 : token.scale) : shownUnit[unit].scale;
  };
  const fahrenheit = (a: Amount): boolean => (a.unit ?? common)?.fahrenheit ?? false;
  const value = (a: Amount): number => tidy(fahrenheit(a) ? fahrenheitToCelsius(a.raw) : a.raw * scaleOf(a));

  const out: { min?: number; target?: number; max?: number } = {};
  const put = (end: 'min' | 'target' | 'max', n: number): boolean => {
    if (out[end] !== undefined) return false;
    out[end] = n;
    return true;
  };
  for (let i = 0; i < amounts.length; i++) {
    const a = amounts[i];
    const next = amounts[i + 1];
    if (!a) continue;
    let fine: boolean;
    if (a.role === 'plusMinus') {
      if (out.target === undefined) return bad('figure-plus-minus', 'A ± needs a value before it, as in 28.2 ± 0.2 V.');
      const half = fahrenheit(a) ? (a.raw * 5) / 9 : a.raw * scaleOf(a);
      fine = put('min', tidy(out.target - half)) && put('max', tidy(out.target + half));
    } else if (a.rangeTo && next) {
      fine = put('min', value(a)) && put('max', value(next));
      i++;
    } else fine = put(a.role ?? (amounts.length === 1 ? info.lone : 'target'), value(a));
    if (!fine) return bad('figure-too-many', 'There are more numbers here than a figure has. Write a value and its band, as in 28.1 V (28.0–28.4).');
  }
  return good({ ...out, unit, unitWritten: common !== undefined, signed, marked: amounts.length > 1 || amounts[0]?.role !== null });
}
