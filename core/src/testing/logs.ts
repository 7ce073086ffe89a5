import Papa from 'papaparse';
import { readFileSync } from 'node:fs';
import { createLogReader, feederOf, guessMapping, type Log, type LogReport, type Mapping } from '../proof';
import type { Problem, Result } from '../quantity';
import { ownProbe } from '../system';

/** Splits text into rows the way page and shell do. */
export const splitRows = (text: string, separator: string): string[][] => Papa.parse<string[]>(text, { delimiter: separator }).data;

/** Reads text the way page and shell do: guesses what it holds, or takes it as told. */
export function readCsv(
  text: string,
  chargers: readonly string[],
  {
    mapping,
    nominalVolts = 25.6,
    names = {},
  }: { mapping?: (guessed: Mapping) => Mapping; nominalVolts?: number; names?: Readonly<Record<string, string>> } = {},
): Result<{ log: Log; report: LogReport }> {
  const guess = guessMapping(text.slice(0, 65_536), splitRows, { chargers: chargers.map((id) => ({ id, name: names[id] ?? id })), nominalVolts });
  if (!guess.ok) return guess;
  const used = mapping ? mapping(guess.value.mapping) : guess.value.mapping;
  return readByText(text, used);
}

/** Reads a table from its text, in pieces of `size` bytes, the way page and shell do. */
export function readByText(text: string, mapping: Mapping, size = 65_536): Result<{ log: Log; report: LogReport }> {
  const reader = createLogReader(mapping);
  const feeder = feederOf(mapping, reader);
  let problem: Problem | null = null;
  const bytes = new TextEncoder().encode(text);
  for (let at = 0; at < bytes.length && !problem; at += size) problem = feeder.push(bytes.subarray(at, at + size));
  if (feeder.strange) return readByFields(text, mapping);
  problem ??= feeder.end();
  return problem ? { ok: false, problems: [problem] } : reader.finish();
}

/** Reads the same from its fields, as the parser of tables makes them. */
export function readByFields(text: string, mapping: Mapping): Result<{ log: Log; report: LogReport }> {
  const reader = createLogReader(mapping);
  const problem = reader.take(splitRows(text, mapping.separator));
  return problem ? { ok: false, problems: [problem] } : reader.finish();
}

/** A demo log; of the launch's two solar chargers when no others are named. */
export function demoLog(name: string, chargers: readonly string[] = ['fore', 'aft']): { log: Log; report: LogReport } {
  const read = readCsv(readFileSync(new URL(`../../../demo/logs/${name}.csv`, import.meta.url), 'utf8'), chargers);
  if (!read.ok) throw new Error(read.problems[0]?.text);
  return read.value;
}

/** One sample of a made-up day. */
export interface Sample {
  readonly volts: number;
  readonly amps: number;
  readonly celsius?: number;
  readonly array?: number;
  readonly net?: number;
  /** Light on the array, W/m²; the log has the column where the first sample has it. */
  readonly light?: number;
}

/** A log of one charger, "aft", from a function of seconds. */
export function madeLog(seconds: number, step: number, at: (second: number) => Sample): { log: Log; report: LogReport } {
  const count = Math.floor(seconds / step) + 1;
  const start = 1_781_400_000;
  const time = Float64Array.from({ length: count }, (_, i) => start + i * step);
  const samples = Array.from({ length: count }, (_, i) => at(i * step));
  const column = (pick: (s: Sample) => number): Float32Array => Float32Array.from(samples, pick);
  return {
    log: {
      time,
      offsetMinutes: 0,
      bankVolts: column((s) => s.volts),
      bankAmps: column((s) => s.net ?? s.amps),
      batteryC: column((s) => s.celsius ?? 15),
      batterySensor: ownProbe,
      ...(samples[0]?.light === undefined ? {} : { irradiance: column((s) => s.light ?? NaN) }),
      chargers: { aft: { amps: column((s) => s.amps), arrayVolts: column((s) => s.array ?? 70) } },
    },
    report: { rows: count, skipped: 0, firstSkipped: [], intervalSeconds: step, gaps: [], notes: [] },
  };
}
