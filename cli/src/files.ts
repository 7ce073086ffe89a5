import { createReadStream, openSync, readSync, closeSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import Papa from 'papaparse';
import { basename } from 'node:path';
import {
  bad,
  createLogReader,
  good,
  guessMapping,
  jsonFeeder,
  sniffLog,
  type Guess,
  type Log,
  type LogContext,
  type LogReader,
  type LogReport,
  type Mapping,
  type Problem,
  type Result,
} from '@calm-keel/core';

/** Reads a whole file, or says in a sentence why not. */
export function readBytes(path: string): Result<Uint8Array> {
  try {
    if (statSync(path).isDirectory()) return bad('file-is-folder', `${path} is a folder. Name a file.`, path);
    return good(readFileSync(path));
  } catch (error) {
    const missing = (error as NodeJS.ErrnoException).code === 'ENOENT';
    return bad('file-unreadable', missing ? `There is no file ${path}.` : `${path} cannot be read: ${(error as Error).message}.`, path);
  }
}

/** The first 64 kB of a file as text, and whether that is all of it. */
function headOf(path: string): Result<{ head: string; whole: boolean }> {
  try {
    const { size } = statSync(path);
    const file = openSync(path, 'r');
    const buffer = Buffer.alloc(sniffBytes);
    const read = readSync(file, buffer, 0, buffer.length, 0);
    closeSync(file);
    return good({ head: buffer.subarray(0, read).toString('utf8'), whole: size <= sniffBytes });
  } catch (error) {
    return bad('file-unreadable', `${path} cannot be read: ${(error as Error).message}.`, path);
  }
}

const sniffBytes = 65_536;
const split = (text: string, separator: string): string[][] => Papa.parse<string[]>(text, { delimiter: separator }).data;

/** Guesses what the columns of a file mean. */
export function guessFile(path: string, context: LogContext): Result<Guess> {
  const read = headOf(path);
  if (!read.ok) return read;
  const strange = sniffLog(read.value.head, read.value.whole);
  return strange ? { ok: false, problems: [{ ...strange, place: path }] } : guessMapping(read.value.head, split, { ...context, fileName: basename(path) });
}

/** Streams a log through the core's reader; memory stays bounded by the columns kept. */
export async function readLogFile(path: string, context: LogContext, mapping?: Mapping): Promise<Result<{ log: Log; report: LogReport }>> {
  let used = mapping;
  if (!used) {
    const guess = guessFile(path, context);
    if (!guess.ok) return guess;
    used = guess.value.mapping;
  }
  const reader = createLogReader(used);
  if (used.kind === 'jsonLines') return readJsonLines(path, used, reader);
  const { separator } = used;
  return new Promise((resolve) => {
    let stopped: Problem | null = null;
    Papa.parse<string[]>(createReadStream(path, 'utf8'), {
      delimiter: separator,
      chunk: ({ data }, parser) => {
        stopped = reader.take(data);
        if (stopped) parser.abort();
      },
      complete: () => {
        if (stopped) resolve({ ok: false, problems: [stopped] });
        else resolve(reader.finish());
      },
      error: (error) => {
        resolve(bad('file-unreadable', `${path} cannot be read: ${error.message}.`, path));
      },
    });
  });
}

async function readJsonLines(path: string, mapping: Mapping, reader: LogReader): Promise<Result<{ log: Log; report: LogReport }>> {
  const feeder = jsonFeeder(
    mapping.columns.map((c) => c.header),
    (rows) => reader.take(rows),
  );
  try {
    for await (const text of createReadStream(path, 'utf8')) {
      const problem = feeder.push(String(text));
      if (problem) return { ok: false, problems: [problem] };
    }
  } catch (error) {
    return bad('file-unreadable', `${path} cannot be read: ${(error as Error).message}.`, path);
  }
  const last = feeder.end();
  return last ? { ok: false, problems: [last] } : reader.finish();
}

/** Reads log text that came in a bundle. */
export function readLogText(text: string, context: LogContext): Result<{ log: Log; report: LogReport }> {
  const guess = guessMapping(text.slice(0, sniffBytes), split, context);
  if (!guess.ok) return guess;
  const reader = createLogReader(guess.value.mapping);
  const problem = reader.take(split(text, guess.value.mapping.separator));
  return problem ? { ok: false, problems: [problem] } : reader.finish();
}

/** Writes a file whole, or says in a sentence why not. */
export function writeText(path: string, text: string): Result<null> {
  try {
    writeFileSync(path, text);
    return good(null);
  } catch (error) {
    return bad('file-unwritable', `${path} cannot be written: ${(error as Error).message}. Name another place.`, path);
  }
}
