import { countFrom, fromWord, type CountPlace } from '../card';
import { parseNumber } from '../quantity';
import type { Failure, Frame, Master, Table } from './master';

/** The words of a range, by their register; what the device does not have is left out. */
export type Words = ReadonlyMap<number, number>;

/** Registers read in one question while a range is looked through. */
const block = 16;
/** Between two questions, ms: a device has other work. */
const restMs = 20;
/** The code of a device that has no such register. */
const noSuchRegister = 2;

/**
 * Reads a range of registers, slowly and only reading. Where a device refuses a block because one of its registers is missing, halves of it are read, down
 * to single ones.
 *
 * @param stop asked before every question; true ends it with what was read so far
 * @returns why, where the device fell silent or refused otherwise
 */
export async function readRange(
  master: Master,
  { from, count, table }: { readonly from: number; readonly count: number; readonly table: Table },
  pause: (ms: number) => Promise<void>,
  stop: () => boolean = () => false,
): Promise<{ readonly words: Words; readonly failure: Failure | null }> {
  const words = new Map<number, number>();
  const open: { from: number; count: number }[] = [];
  for (let at = from; at < from + count; at += block) open.push({ from: at, count: Math.min(block, from + count - at) });
  for (let run = open.shift(); run && !stop(); run = open.shift()) {
    const read: Frame<readonly number[]> = await master.read(run.from, run.count, table);
    if (read.ok) read.value.forEach((word, i) => words.set(run.from + i, word));
    else if (read.failure.kind === 'silent' || read.failure.code !== noSuchRegister) return { words, failure: read.failure };
    else if (run.count > 1) {
      const half = Math.ceil(run.count / 2);
      open.unshift({ from: run.from, count: half }, { from: run.from + half, count: run.count - half });
    }
    await pause(restMs);
  }
  return { words, failure: null };
}

/** A register that could hold what a display shows, how its words make the number, and what one count of it would be. */
export interface Candidate extends CountPlace {
  readonly scale: number;
  /** What it holds. */
  readonly raw: number;
}

/** The ways in which words can make a number, the plainest first. */
const ways: readonly Omit<CountPlace, 'register'>[] = [
  {},
  { form: 'uint16' },
  { form: 'int32' },
  { form: 'int32', order: 'lowFirst' },
  { form: 'uint32' },
  { form: 'uint32', order: 'lowFirst' },
  { form: 'float32' },
  { form: 'float32', order: 'lowFirst' },
];
/** Floats nearer to nought than this are two other numbers beside each other, not a reading. */
const leastFloat = 1e-6;

/**
 * What words make of a number at a place; null where a plainer way makes the same number of them: of two words only what needs both, without a
 * sign only what a sign would change.
 */
function needed(at: CountPlace, words: Words): number | null {
  const raw = countFrom(at, (r) => words.get(r));
  if (raw === null || raw === 0) return null;
  const { form, order, register } = at;
  if (form === undefined) return raw;
  if (form === 'uint16') return raw > 32_767 ? raw : null;
  if (form === 'float32') return Math.abs(raw) >= leastFloat ? raw : null;
  const signed = countFrom({ ...at, form: 'int32' }, (r) => words.get(r));
  if (form === 'uint32' && signed === raw) return null;
  const low = words.get(order === 'lowFirst' ? register : register + 1) ?? 0;
  return raw === low || raw === fromWord(low) ? null : raw;
}

/** What one count can be, the likeliest first. */
const scales = [0.1, 0.01, 1, 0.001, 10] as const;

/** Digits behind the mark of a number as somebody read it. */
const decimalsOf = (text: string): number => /[.,](\d+)\s*$/.exec(text.trim())?.[1]?.length ?? 0;

/** A number as somebody read it off a display; null for what is none. */
export function shownNumber(text: string): number | null {
  const read = parseNumber(text);
  return read.ok ? read.value : null;
}

/** Whether a count could stand behind what is shown: the display may round it or cut it off, and shows nothing finer than it holds. A float holds any. */
function fits({ form }: Pick<CountPlace, 'form'>, raw: number, scale: number, shown: number, decimals: number): boolean {
  const step = 10 ** -decimals;
  const off = raw * scale - shown;
  if (form !== 'float32' && scale > step * (1 + 1e-9)) return Math.abs(off) < 1e-9;
  // Rounded it lies within half a step, cut off within a whole one on the far side from nought.
  const cut = shown >= 0 ? off >= -1e-9 && off < step - 1e-9 : off <= 1e-9 && off > -step + 1e-9;
  return cut || Math.abs(off) <= step / 2 + 1e-9;
}

/**
 * Registers that could hold what the display shows, with every scaling that fits. Nought is in too many registers to tell anything: it gives none.
 *
 * @param shown as it was read: “28.4” could be 28.35 to 28.49
 */
export function candidatesFor(words: Words, shown: string): readonly Candidate[] {
  const value = shownNumber(shown);
  if (value === null || value === 0) return [];
  const decimals = decimalsOf(shown);
  return [...words.keys()].flatMap((register) =>
    ways.flatMap((way): Candidate[] => {
      const at = { register, ...way };
      const raw = needed(at, words);
      if (raw === null) return [];
      // A float is the number itself.
      return (way.form === 'float32' ? [1] : scales).flatMap((scale) => (fits(at, raw, scale, value, decimals) ? [{ ...at, scale, raw }] : []));
    }),
  );
}

/** Of the candidates those that still fit after the value was changed, or has moved. One that stood still while the display moved is none. */
export function stillFitting(candidates: readonly Candidate[], words: Words, shown: string): readonly Candidate[] {
  const value = shownNumber(shown);
  if (value === null) return [];
  const decimals = decimalsOf(shown);
  return candidates.flatMap((candidate) => {
    const { scale, raw: before } = candidate;
    const raw = countFrom(candidate, (r) => words.get(r));
    if (raw === null) return [];
    const moved = Math.abs(before * scale - value) >= 10 ** -decimals;
    return fits(candidate, raw, scale, value, decimals) && (raw !== before || !moved) ? [{ ...candidate, raw }] : [];
  });
}
