import { createReadStream, openSync, readSync, closeSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import Papa from 'papaparse';
import { basename } from 'node:path';
import {
  byMake,
  createLogReader,
  feederOf,
  guessMapping,
  lookAtTables,
  mappingFor,
  mergeLogs,
  sniffBytes,
  withLeftOut,
  type Guess,
  type Log,
  type LogContext,
  type LogReport,
  type Looked,
  type Mapping,
} from '@calm-keel/core/proof';
import { bad, good, type Problem, type Result } from '@calm-keel/core/quantity';
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

/** The beginning of a file, and whether that is all of it. */
function headOf(path: string): Result<{ head: Buffer; whole: boolean }> {
  try {
    const { size } = statSync(path);
    const file = openSync(path, 'r');
    const buffer = Buffer.alloc(sniffBytes);
    const read = readSync(file, buffer, 0, buffer.length, 0);
    closeSync(file);
    return good({ head: buffer.subarray(0, read), whole: size <= sniffBytes });
  } catch (error) {
    return bad('file-unreadable', `${path} cannot be read: ${(error as Error).message}.`, path);
  }
}

const textOf = (content: Uint8Array): string => Buffer.from(content).toString('utf8');
const split = (text: string, separator: string): string[][] => Papa.parse<string[]>(text, { delimiter: separator }).data;

/** A table of a file that was looked at; `content` is the whole of it where it had to be opened, and null where it is streamed. */
type FileTable = Looked & { readonly content: Uint8Array | null };

/** Looks at the tables of a file: one of a text, several of a spreadsheet or a zip. */
async function tablesOf(path: string, context: LogContext): Promise<Result<{ tables: readonly FileTable[]; leftOut: readonly string[] }>> {
  const at = headOf(path);
  if (!at.ok) return at;
  const name = basename(path);
  const { head, whole } = at.value;
  if (!isPacked(head)) return placed(lookAtTables([{ name, own: name, head: head.toString('utf8'), whole, content: null }], [], split, context), path);
  const bytes = readBytes(path);
  const opened = bytes.ok ? placed(await openFile(name, bytes.value), path) : bytes;
  if (!opened.ok) return opened;
  const tables = opened.value.inside.map((inside) => ({
    ...inside,
    head: textOf(inside.content.subarray(0, sniffBytes)),
    whole: inside.content.length <= sniffBytes,
  }));
  return placed(lookAtTables(tables, opened.value.leftOut, split, context), path);
}

/** The same with the file as the place of what is wrong. */
const placed = <T>(result: Result<T>, path: string): Result<T> =>
  result.ok ? result : { ok: false, problems: result.problems.map((p) => ({ ...p, place: path })) };

/** Guesses what the columns of a file mean; of one with tables of several makes, those of the first. */
export async function guessFile(path: string, context: LogContext): Promise<Result<Guess>> {
  const looked = await tablesOf(path, context);
  if (!looked.ok) return looked;
  const [first] = byMake(looked.value.tables);
  return first ? good(first.guess) : bad('log-none', `There is no log in ${path}.`, path);
}

/** Reads what a spreadsheet or a zip holds as one log; what is no log in it is named in the notes. */
function readOpened(
  tables: readonly (Looked & { readonly content: Uint8Array })[],
  leftOut: readonly string[],
  mapping?: Mapping,
): Result<{ log: Log; report: LogReport }> {
  const logs: { log: Log; report: LogReport }[] = [];
  for (const make of byMake(tables))
    for (const table of make.tables) {
      const one = placed(readTable(table.content, mappingFor(table, mapping ?? make.guess.mapping)), table.name);
      if (!one.ok) return one;
      logs.push(one.value);
    }
  const merged = mergeLogs(logs);
  return merged.ok ? good({ log: merged.value.log, report: withLeftOut(merged.value.report, leftOut) }) : merged;
}

/** Streams a log through the core's reader; memory stays bounded by the columns kept. Spreadsheets and zips are opened in memory. */
export async function readLogFile(path: string, context: LogContext, mapping?: Mapping): Promise<Result<{ log: Log; report: LogReport }>> {
  const at = headOf(path);
  if (!at.ok) return at;
  let used = mapping;
  if (!used || isPacked(at.value.head)) {
    const looked = await tablesOf(path, context);
    if (!looked.ok) return looked;
    const { tables, leftOut } = looked.value;
    const opened = tables.flatMap((t) => (t.content === null ? [] : [{ ...t, content: t.content }]));
    if (opened.length > 0) return readOpened(opened, leftOut, mapping);
    used = tables[0]?.guess.mapping;
  }
  if (!used) return bad('log-none', `There is no log in ${path}.`, path);
  const reader = createLogReader(used);
  const feeder = feederOf(used, reader);
  try {
    for await (const bytes of createReadStream(path, { highWaterMark: 1 << 20 })) {
      const problem = feeder.push(bytes as Buffer);
      if (problem) return { ok: false, problems: [problem] };
      if (feeder.strange) return await readQuoted(path, used);
    }
  } catch (error) {
    return bad('file-unreadable', `${path} cannot be read: ${(error as Error).message}.`, path);
  }
  const last = feeder.end();
  return last ? { ok: false, problems: [last] } : reader.finish();
}

/** Streams a table whose fields are quoted, or whose lines end in another way. */
function readQuoted(path: string, mapping: Mapping): Promise<Result<{ log: Log; report: LogReport }>> {
  const reader = createLogReader(mapping);
  return new Promise((resolve) => {
    let stopped: Problem | null = null;
    Papa.parse<string[]>(createReadStream(path, 'utf8'), {
      delimiter: mapping.separator,
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

/** Reads log text that came in a bundle. */
export function readLogText(text: string, context: LogContext): Result<{ log: Log; report: LogReport }> {
  const guess = guessMapping(text.slice(0, sniffBytes), split, context);
  return guess.ok ? readTable(new TextEncoder().encode(text), guess.value.mapping) : guess;
}

/** Reads one table by its mapping. */
function readTable(content: Uint8Array, mapping: Mapping): Result<{ log: Log; report: LogReport }> {
  const plain = createLogReader(mapping);
  const feeder = feederOf(mapping, plain);
  const problem = feeder.push(content) ?? feeder.end();
  if (problem) return { ok: false, problems: [problem] };
  if (!feeder.strange) return plain.finish();
  const reader = createLogReader(mapping);
  const strange = reader.take(split(textOf(content), mapping.separator));
  return strange ? { ok: false, problems: [strange] } : reader.finish();
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
