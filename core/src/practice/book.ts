import * as z from 'zod';
import { shortText } from '../sheet';
import { exerciseSchema } from './exercise';
import { faultCodes, faultCodeSchema, type FaultCode } from './faults';
import type { Bench } from './bench';
import type { Judged } from './judge';

/** One exercise that was judged: a line of the book of practice. */
export const practisedSchema = z.object({
  id: z.string().min(1).max(80),
  /** Initials of the person, never a name; empty where nobody gave any. */
  by: shortText(8).default(''),
  /** ISO time at which it was judged. */
  at: z.iso.datetime(),
  exercise: exerciseSchema,
  passed: z.boolean(),
  /** Kinds of faults that were named, shown and put right, and those that were not. */
  solved: z.array(faultCodeSchema).max(3),
  missed: z.array(faultCodeSchema).max(3),
  /** Kinds that were said and were not there. */
  wrong: z.array(faultCodeSchema).max(40),
  hazards: z.array(z.enum(['cutUnderSun', 'secondMeaning', 'factoryReset'])).max(200),
  hints: z.int().min(0).max(100),
  steps: z.int().min(0).max(100_000),
  seconds: z.number().min(0).max(1e8),
});
export type Practised = z.infer<typeof practisedSchema>;

/** The book as a file. */
export const bookSchema = z.object({ format: z.literal('calm-keel/practice'), version: z.literal(1), entries: z.array(practisedSchema).max(20_000) });

/** The line of the book for an exercise. */
export function practisedOf(bench: Bench, judged: Judged, { id, by, at }: Pick<Practised, 'id' | 'by' | 'at'>): Practised {
  const solved = judged.faults.filter((f) => f.named && f.shown === true && f.cured).map((f) => f.code);
  return {
    id,
    by,
    at,
    exercise: bench.exercise,
    passed: judged.passed,
    solved,
    missed: judged.faults.map((f) => f.code).filter((code) => !solved.includes(code)),
    wrong: [...new Set(judged.wrong.map((w) => w.code))],
    hazards: judged.hazards.map((h) => h.code),
    hints: judged.hints,
    steps: judged.steps,
    seconds: judged.seconds,
  };
}

/** How somebody stands with a kind of fault. */
export interface KindRecord {
  readonly code: FaultCode;
  readonly met: number;
  readonly solved: number;
  /** Claim of something that it was not. */
  readonly mistaken: number;
  /** How the last one went; null while none was met. */
  readonly last: boolean | null;
}

/** How somebody stands with every kind, those that go wrong most first, those never met last. */
export function standings(book: readonly Practised[]): readonly KindRecord[] {
  const list = faultCodes.map((code): KindRecord => {
    const met = book.filter((b) => b.solved.includes(code) || b.missed.includes(code)).sort((a, b) => a.at.localeCompare(b.at));
    return {
      code,
      met: met.length,
      solved: met.filter((b) => b.solved.includes(code)).length,
      mistaken: book.filter((b) => b.wrong.includes(code)).length,
      last: met.at(-1)?.solved.includes(code) ?? null,
    };
  });
  return list.sort((a, b) => b.met - b.solved + b.mistaken - (a.met - a.solved + a.mistaken) || b.met - a.met);
}

/** How much a kind is wanted next: missed last time most, then mistaken for another, then never met, then known. */
export const wantedWeights = { missedLast: 8, mistaken: 4, neverMet: 2, known: 1 } as const;

/** What the book says of how much each kind should come next. */
export function weightsOf(book: readonly Practised[]): (code: FaultCode) => number {
  const by = new Map(standings(book).map((s) => [s.code, s]));
  return (code) => {
    const s = by.get(code);
    if (!s || s.met === 0) return s && s.mistaken > 0 ? wantedWeights.mistaken : wantedWeights.neverMet;
    if (s.last === false) return wantedWeights.missedLast;
    return s.mistaken > 0 ? wantedWeights.mistaken : wantedWeights.known;
  };
}

/** How many faults the next exercise has: one until five were solved in a row, then two, then three. */
export function faultsNext(book: readonly Practised[]): number {
  const finds = book.filter((b) => b.exercise.kind === 'find').sort((a, b) => a.at.localeCompare(b.at));
  const row = finds.length - 1 - finds.findLastIndex((b) => !b.passed);
  return row >= 10 ? 3 : row >= 5 ? 2 : 1;
}
