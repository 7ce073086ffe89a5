import { createReadStream, openSync, readSync, closeSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import Papa from 'papaparse';
import { basename } from 'node:path';
import {
  bad,
  byMake,
  createLogReader,
  good,
  guessMapping,
  jsonFeeder,
  jsonRows,
  mappingFor,
  mergeLogs,
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
import { isPacked, openFile } from '@calm-keel/core/files';

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

/** Whether a file is a spreadsheet, a zip or another that has to be opened first; a file that is not there is none. */
function packed(path: string): boolean {
  try {
    const file = openSync(path, 'r');
    const head = new Uint8Array(8);
    readSync(file, head, 0, 8, 0);
    closeSync(file);
    return isPacked(head);
  } catch {
    return false;
  }
}

/** Reads what a spreadsheet or a zip holds as one log; what is no log in it is named in the notes. */
async function readPacked(path: string, context: LogContext, mapping?: Mapping): Promise<Result<{ log: Log; report: LogReport }>> {
  const bytes = readBytes(path);
  if (!bytes.ok) return bytes;
  const opened = await openFile(basename(path), bytes.value);
  if (!opened.ok) return { ok: false, problems: opened.problems.map((p) => ({ ...p, place: path })) };
  const leftOut = [...opened.value.leftOut];
  const tables: { name: string; text: string; guess: Guess }[] = [];
  let first: Problem | undefined;
  for (const inside of opened.value.inside) {
    const text = Buffer.from(inside.content).toString('utf8');
    const strange = sniffLog(text.slice(0, sniffBytes), text.length <= sniffBytes);
    const guess: Result<Guess> = strange
      ? { ok: false, problems: [strange] }
      : guessMapping(text.slice(0, sniffBytes), split, { ...context, fileName: inside.own });
    if (guess.ok) tables.push({ name: inside.name, text, guess: guess.value });
    else {
      first ??= guess.problems[0];
      leftOut.push(`“${inside.name}” was left out: ${guess.problems[0]?.text ?? 'it is no log.'}`);
    }
  }
  if (tables.length === 0) return { ok: false, problems: [{ ...(first ?? { code: 'log-none', text: 'There is no log in it.' }), place: path }] };
  const logs: { log: Log; report: LogReport }[] = [];
  for (const make of byMake(tables))
    for (const table of make.tables) {
      const one = readTable(table.text, mappingFor(table, mapping ?? make.guess.mapping));
      if (!one.ok) return { ok: false, problems: one.problems.map((p) => ({ ...p, place: table.name })) };
      logs.push(one.value);
    }
  const merged = mergeLogs(logs);
  return merged.ok && leftOut.length > 0
    ? good({ log: merged.value.log, report: { ...merged.value.report, notes: [...leftOut, ...merged.value.report.notes] } })
    : merged;
}

/** Streams a log through the core's reader; memory stays bounded by the columns kept. Spreadsheets and zips are opened in memory. */
export async function readLogFile(path: string, context: LogContext, mapping?: Mapping): Promise<Result<{ log: Log; report: LogReport }>> {
  if (packed(path)) return readPacked(path, context, mapping);
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
  return guess.ok ? readTable(text, guess.value.mapping) : guess;
}

/** Reads the text of one table by its mapping. */
function readTable(text: string, mapping: Mapping): Result<{ log: Log; report: LogReport }> {
  const reader = createLogReader(mapping);
  const names = mapping.columns.map((c) => c.header);
  const problem = reader.take(mapping.kind === 'jsonLines' ? jsonRows(text.split(/\r\n|\r|\n/), names) : split(text, mapping.separator));
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
