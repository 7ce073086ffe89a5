import { createReadStream, openSync, readSync, closeSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import Papa from 'papaparse';
import { bad, createLogReader, good, sniffLog, type Log, type LogReport, type Problem, type Result } from '@calm-keel/core';

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

/** Streams a CSV log through the core's reader; memory stays bounded by the columns kept. */
export async function readLogFile(path: string, chargers: readonly string[]): Promise<Result<{ log: Log; report: LogReport }>> {
  let head: string;
  let size: number;
  try {
    size = statSync(path).size;
    const file = openSync(path, 'r');
    const buffer = Buffer.alloc(65_536);
    const read = readSync(file, buffer, 0, buffer.length, 0);
    closeSync(file);
    head = buffer.subarray(0, read).toString('utf8');
  } catch (error) {
    return bad('file-unreadable', `${path} cannot be read: ${(error as Error).message}.`, path);
  }
  const strange = sniffLog(head, size <= 65_536);
  if (strange) return { ok: false, problems: [{ ...strange, place: path }] };
  const reader = createLogReader(chargers);
  return new Promise((resolve) => {
    let stopped: Problem | null = null;
    Papa.parse<string[]>(createReadStream(path, 'utf8'), {
      delimiter: ',',
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

/** Writes a file whole, or says in a sentence why not. */
export function writeText(path: string, text: string): Result<null> {
  try {
    writeFileSync(path, text);
    return good(null);
  } catch (error) {
    return bad('file-unwritable', `${path} cannot be written: ${(error as Error).message}. Name another place.`, path);
  }
}
