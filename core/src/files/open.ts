import crc32 from 'crc-32';
import { Gunzip, strToU8 } from 'fflate';
import { bad, good, type Problem, type Result } from '../quantity';
import { isSpreadsheet, readSpreadsheet } from './spreadsheet';
import { zipDirectory, zipMember, type ZipEntry } from './zip';

/** One text inside a file that was brought in: the file itself, a sheet of a spreadsheet, or a member of a zip. */
export interface Inside {
  /** “august.zip › 14.csv”, or the name of the file. */
  readonly name: string;
  /** The innermost part of that name: “14.csv”, or a sheet's. */
  readonly own: string;
  readonly content: Uint8Array;
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
const mostRecoded = 100_000_000;
/** Packed bytes unpacked in one go, so that what swells is left in time. */
const slice = 65_536;
/** Head and end of a gzip file, and the least there can be between them, bytes. */
const leastGzip = 10 + 2 + 8;

const starts = (bytes: Uint8Array, ...sign: readonly number[]): boolean => sign.every((n, i) => bytes[i] === n);

/** What a file is, by the sign it begins with; null for plain text, and for what nobody knows. */
function packingOf(head: Uint8Array): 'zip' | 'oldSpreadsheet' | 'gzip' | 'littleEndian' | 'bigEndian' | null {
  if (starts(head, 0x50, 0x4b, 3, 4) || starts(head, 0x50, 0x4b, 5, 6)) return 'zip';
  if (starts(head, 0xd0, 0xcf, 0x11, 0xe0)) return 'oldSpreadsheet';
  if (starts(head, 0x1f, 0x8b)) return 'gzip';
  return starts(head, 0xff, 0xfe) ? 'littleEndian' : starts(head, 0xfe, 0xff) ? 'bigEndian' : null;
}

/** Whether a file has to be opened before its text can be read, by its first bytes. */
export const isPacked = (head: Uint8Array): boolean => packingOf(head) !== null;

/** Members that are no logs and that nobody misses. */
const chaff = /(^|\/)(__MACOSX\/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$)/i;

/** A packed file of more bytes than are opened; null where it is small enough. */
export const tooLarge = (name: string, bytes: number): Problem | null =>
  bytes > mostUnpacked
    ? { code: 'file-too-large', text: `“${name}” has more than ${mostUnpacked / 1e6} MB. Bring its files in by themselves, in parts.` }
    : null;

/**
 * Opens a file that somebody brings in: a text is given back as it is, a spreadsheet as one table a sheet, a zip as what it holds. A zip within a zip is
 * not opened.
 *
 * @param name how the file is called
 * @returns a problem where nothing can be read from it
 */
export async function openFile(name: string, bytes: Uint8Array): Promise<Result<Opened>> {
  const packing = packingOf(bytes);
  if (packing === null) return good({ inside: [{ name, own: name, content: bytes }], leftOut: [] });
  const large = tooLarge(name, bytes.length);
  if (large) return { ok: false, problems: [large] };
  if (packing === 'zip') return openZip(name, bytes);
  if (packing === 'gzip') return openGzip(name, bytes);
  if (packing === 'oldSpreadsheet')
    return bad(
      'file-locked-or-old',
      `“${name}” is a spreadsheet with a password, or one of the old kind (.xls). Open it where it was made and save it without a password as .xlsx or CSV.`,
    );
  if (bytes.length > mostRecoded) return bad('file-too-large', `“${name}” is written with two bytes a letter and is too large for that. Save it as UTF-8.`);
  return good({ inside: [{ name, own: name, content: strToU8(ofTwoBytes(bytes.subarray(2), packing === 'littleEndian')) }], leftOut: [] });
}

/** A text of two bytes a letter (UTF-16). */
function ofTwoBytes(bytes: Uint8Array, littleEndian: boolean): string {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts: string[] = [];
  for (let at = 0; at + 1 < bytes.length; at += 2 * 8192) {
    const letters: number[] = [];
    for (let k = at; k + 1 < Math.min(bytes.length, at + 2 * 8192); k += 2) letters.push(view.getUint16(k, littleEndian));
    parts.push(String.fromCharCode(...letters));
  }
  return parts.join('');
}

function openGzip(name: string, bytes: Uint8Array): Result<Opened> {
  const broken = (): Result<Opened> => bad('file-broken', `“${name}” cannot be unpacked. It was cut short or altered; take an unbroken copy.`);
  if (bytes.length < leastGzip) return broken();
  const parts: Uint8Array[] = [];
  let size = 0;
  let more = 0;
  const gunzip = new Gunzip((part) => {
    parts.push(part);
    size += part.length;
  });
  gunzip.onmember = () => {
    more++;
  };
  try {
    for (let at = 0; at < bytes.length; at += slice) {
      gunzip.push(bytes.subarray(at, at + slice), at + slice >= bytes.length);
      if (size > mostUnpacked) return bad('file-too-large', `“${name}” would unpack to more than ${mostUnpacked / 1e6} MB. It was not opened.`);
    }
  } catch {
    return broken();
  }
  const content = new Uint8Array(size);
  let filled = 0;
  for (const part of parts) {
    content.set(part, filled);
    filled += part.length;
  }
  const own = name.replace(/\.gz$/i, '');
  // One file’s sum and size stand at its end (RFC 1952, 2.3.1); of several in one, each has its own within.
  const end = new DataView(bytes.buffer, bytes.byteOffset + bytes.length - 8, 8);
  if (more === 0 && (end.getInt32(0, true) !== crc32.buf(content) || end.getUint32(4, true) !== size % 2 ** 32)) return broken();
  return good({ inside: [{ name: own, own, content }], leftOut: [] });
}

async function openZip(name: string, bytes: Uint8Array): Promise<Result<Opened>> {
  const entries = zipDirectory(bytes);
  if (!entries) return bad('file-broken', `“${name}” cannot be unpacked. It was cut short or altered; take an unbroken copy.`);
  if (entries.reduce((sum, e) => sum + e.size, 0) > mostUnpacked)
    return bad('file-too-large', `“${name}” would unpack to more than ${mostUnpacked / 1e6} MB. It was not opened; bring its files in by themselves.`);
  if (isSpreadsheet(entries)) return openSpreadsheet(name, bytes, entries);
  if (entries.some((e) => e.name === 'mimetype') && entries.some((e) => e.name === 'content.xml'))
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
    if (packingOf(content) === 'zip' && !isSpreadsheet(zipDirectory(content) ?? [])) {
      leftOut.push(`“${inner}” is a zip within a zip. It was left out; bring it in by itself.`);
      continue;
    }
    const opened = await openFile(inner, content);
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
  let read;
  try {
    read = await readSpreadsheet(bytes, entries);
  } catch {
    return bad('file-broken', `“${name}” looks like a spreadsheet and cannot be read as one. Open it where it was made, and save it anew as .xlsx or CSV.`);
  }
  const { sheets } = read;
  const leftOut = entries.some((e) => /vbaProject\.bin$/i.test(e.name)) ? [`“${name}” carries a program (macros). It was not run; only cells were read.`] : [];
  if (read.merged) leftOut.push(`“${name}” has cells that were merged over several rows: their value is in the first row only.`);
  const inside = sheets.flatMap((sheet): Inside[] => {
    const inner = sheets.length === 1 ? name : `${name} › ${sheet.name}`;
    if (sheet.rows >= 2) return [{ name: inner, own: sheets.length === 1 ? name : sheet.name, content: strToU8(sheet.text) }];
    leftOut.push(`“${inner}” has ${sheet.rows === 0 ? 'no rows' : 'one row only'}. It was left out.`);
    return [];
  });
  return inside.length > 0 ? good({ inside, leftOut }) : bad('file-empty', `“${name}” holds no table. Export the log again.`);
}
