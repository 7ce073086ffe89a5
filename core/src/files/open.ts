import { bad, good, type Result } from '../quantity';
import { isSpreadsheet, readSpreadsheet } from './spreadsheet';
import { zipDirectory, zipMember, type ZipEntry } from './zip';

/** One text inside a file that was brought in: the file itself, a sheet of a spreadsheet, or a member of a zip. */
export interface Inside {
  /** “august.zip › 14.csv”, or the name of the file. */
  readonly name: string;
  /** The innermost part of that name: “14.csv”, or a sheet's. */
  readonly own: string;
  readonly content: Blob;
}

/** What a file holds. */
export interface Opened {
  readonly inside: readonly Inside[];
  /** What was left out and why, in sentences. */
  readonly leftOut: readonly string[];
}

/** What a zip, and what a spreadsheet, may come to when it is unpacked, bytes. */
const mostUnpacked = 600_000_000;
/** What the cells of a spreadsheet may come to: a year by the minute is some 130 MB, and takes eight times as much while it is read. */
const mostCells = 200_000_000;
/** Members of a zip that are opened. */
const mostOpened = 800;
/** A larger text in an old two-byte writing is not recoded in memory. */
const mostRecoded = 300_000_000;

const starts = (bytes: Uint8Array, ...sign: readonly number[]): boolean => sign.every((n, i) => bytes[i] === n);

/** Whether a file has to be opened before its text can be read, by its first eight bytes. */
export const isPacked = (head: Uint8Array): boolean =>
  starts(head, 0x50, 0x4b, 3, 4) ||
  starts(head, 0x50, 0x4b, 5, 6) ||
  starts(head, 0xd0, 0xcf, 0x11, 0xe0) ||
  starts(head, 0x1f, 0x8b) ||
  starts(head, 0xff, 0xfe) ||
  starts(head, 0xfe, 0xff);

/** Members that are no logs and that nobody misses. */
const chaff = /(^|\/)(__MACOSX\/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$)/i;

/**
 * Opens a file that somebody brings in: a text is given back as it is, a spreadsheet as one table a sheet, a zip as what it holds. A zip within a zip is
 * not opened.
 *
 * @param name how the file is called
 * @returns a problem where nothing can be read from it
 */
export async function openFile(name: string, file: Blob): Promise<Result<Opened>> {
  const head = new Uint8Array(await file.slice(0, 8).arrayBuffer());
  if (starts(head, 0x50, 0x4b, 3, 4) || starts(head, 0x50, 0x4b, 5, 6)) {
    if (file.size > mostUnpacked) return bad('file-too-large', `“${name}” has more than ${mostUnpacked / 1e6} MB. Bring its files in by themselves, in parts.`);
    return openZip(name, new Uint8Array(await file.arrayBuffer()));
  }
  if (starts(head, 0xd0, 0xcf, 0x11, 0xe0))
    return bad(
      'file-locked-or-old',
      `“${name}” is a spreadsheet with a password, or one of the old kind (.xls). Open it where it was made and save it without a password as .xlsx or CSV.`,
    );
  if (starts(head, 0x1f, 0x8b)) return openGzip(name, file);
  const wide = starts(head, 0xff, 0xfe) ? 'utf-16le' : starts(head, 0xfe, 0xff) ? 'utf-16be' : null;
  if (wide === null) return good({ inside: [{ name, own: name, content: file }], leftOut: [] });
  if (file.size > mostRecoded) return bad('file-too-large', `“${name}” is written with two bytes a letter and is too large for that. Save it as UTF-8.`);
  return good({ inside: [{ name, own: name, content: new Blob([new TextDecoder(wide).decode(await file.arrayBuffer())]) }], leftOut: [] });
}

async function openGzip(name: string, file: Blob): Promise<Result<Opened>> {
  const parts: BlobPart[] = [];
  let size = 0;
  try {
    const reader = file.stream().pipeThrough(new DecompressionStream('gzip')).getReader();
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      size += value.length;
      if (size > mostUnpacked) {
        await reader.cancel();
        return bad('file-too-large', `“${name}” would unpack to more than ${mostUnpacked / 1e6} MB. It was not opened.`);
      }
      parts.push(new Uint8Array(value));
    }
  } catch {
    return bad('file-broken', `“${name}” cannot be unpacked. It was cut short or altered; take an unbroken copy.`);
  }
  return good({ inside: [{ name: name.replace(/\.gz$/i, ''), own: name.replace(/\.gz$/i, ''), content: new Blob(parts) }], leftOut: [] });
}

async function openZip(name: string, bytes: Uint8Array): Promise<Result<Opened>> {
  const entries = zipDirectory(bytes);
  if (!entries) return bad('file-broken', `“${name}” cannot be unpacked. It was cut short or altered; take an unbroken copy.`);
  if (entries.reduce((sum, e) => sum + e.size, 0) > mostUnpacked)
    return bad('file-too-large', `“${name}” would unpack to more than ${mostUnpacked / 1e6} MB. It was not opened; bring its files in by themselves.`);
  if (isSpreadsheet(entries)) return openSpreadsheet(name, bytes, entries);
  if (entries.some((e) => e.name === 'content.xml'))
    return bad('file-other-spreadsheet', `“${name}” is an OpenDocument file. Open it where it was made and save it as .xlsx or CSV.`);
  const files = entries.filter((e) => !e.name.endsWith('/') && !chaff.test(e.name));
  if (files.length === 0) return bad('file-empty', `“${name}” holds no file. Export the log again.`);
  if (files.every((e) => e.locked))
    return bad('file-locked', `“${name}” can only be opened with a password. Unpack it where the password is known, and bring in what it holds.`);
  const inside: Inside[] = [];
  const leftOut: string[] = [];
  for (const [k, entry] of files.entries()) {
    const inner = `${name} › ${entry.name}`;
    if (k >= mostOpened) {
      leftOut.push(`“${name}” holds ${files.length} files; the first ${mostOpened} were read. Bring the rest in as a zip of their own.`);
      break;
    }
    if (entry.locked) {
      leftOut.push(`“${inner}” can only be opened with a password. It was left out.`);
      continue;
    }
    const content = zipMember(bytes, entry);
    if (!content) {
      leftOut.push(`“${inner}” is not what was packed: it was cut short or altered. It was left out.`);
      continue;
    }
    const packed = starts(content, 0x50, 0x4b, 3, 4);
    const directory = packed ? zipDirectory(content) : null;
    if (packed && !(directory && isSpreadsheet(directory))) {
      leftOut.push(`“${inner}” is a zip within a zip. It was left out; bring it in by itself.`);
      continue;
    }
    const opened = await openFile(inner, new Blob([new Uint8Array(content)]));
    if (opened.ok) {
      inside.push(...opened.value.inside.map((i) => (i.own === inner ? { ...i, own: entry.name } : i)));
      leftOut.push(...opened.value.leftOut);
    } else leftOut.push(...opened.problems.map((p) => p.text));
  }
  if (inside.length === 0) return bad('file-nothing-inside', `Nothing in “${name}” can be read. ${leftOut[0] ?? ''}`.trim());
  return good({ inside, leftOut });
}

async function openSpreadsheet(name: string, bytes: Uint8Array, entries: readonly ZipEntry[]): Promise<Result<Opened>> {
  if (entries.some((e) => e.locked)) return bad('file-locked', `“${name}” can only be opened with a password. Save it without one.`);
  if (entries.reduce((sum, e) => sum + (e.name.startsWith('xl/') ? e.size : 0), 0) > mostCells)
    return bad('file-too-large', `“${name}” has too many cells to be read as a spreadsheet. Save each sheet as CSV, or cut it into parts.`);
  let sheets;
  try {
    sheets = await readSpreadsheet(bytes, entries);
  } catch {
    return bad('file-broken', `“${name}” looks like a spreadsheet and cannot be read as one. Open it where it was made, and save it anew as .xlsx or CSV.`);
  }
  const leftOut = entries.some((e) => /vbaProject\.bin$/i.test(e.name)) ? [`“${name}” carries a program (macros). It was not run; only cells were read.`] : [];
  const inside = sheets.flatMap((sheet): Inside[] => {
    const inner = sheets.length === 1 ? name : `${name} › ${sheet.name}`;
    if (sheet.rows >= 2) return [{ name: inner, own: sheets.length === 1 ? name : sheet.name, content: new Blob([sheet.text]) }];
    leftOut.push(`“${inner}” has ${sheet.rows === 0 ? 'no rows' : 'one row only'}. It was left out.`);
    return [];
  });
  return inside.length > 0 ? good({ inside, leftOut }) : bad('file-empty', `“${name}” holds no table. Export the log again.`);
}
