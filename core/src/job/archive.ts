import crc32 from 'crc-32';
import { Inflate, strFromU8, strToU8, zipSync, type ZippableFile } from 'fflate';
import * as z from 'zod';
import { bad, good, sha256Hex, type Result } from '../quantity';
import { parseJson } from './read';

/** What the list of sums is called in a file. */
const sumsName = 'sums.json';
/** What every file of this program says of its members: their SHA-256, by name. */
const sumsSchema = z.object({ format: z.literal('calm-keel/sums'), version: z.literal(1), sha256: z.record(z.string(), z.string()) });

/** A member that unpacks to more than this many times its packed size is no text of ours, bytes for bytes; small ones are let be. */
const mostSwell = 200;
const smallMember = 1_000_000;
/** More members than any file of this program has. */
const mostMembers = 5000;
/** Packed bytes unpacked in one go: a member that says a false size is left after at most a thousand times this. */
const slice = 16_384;

/** One member of an archive, as its directory tells. */
interface Member {
  readonly name: string;
  /** Bytes when unpacked. */
  readonly size: number;
}

/** An archive whose directory has been read. Nothing is unpacked before `take`. */
interface Archive {
  readonly members: readonly Member[];
  /** Names in the list of sums that are not in the file. */
  readonly lost: readonly string[];
  /** Unpacks one member and checks it by the archive's own sum and by the list of sums; null when there is no such member. */
  readonly take: (name: string) => Result<Uint8Array> | null;
}

interface Entry extends Member {
  readonly packed: number;
  readonly method: number;
  readonly crc: number;
  readonly at: number;
}

/**
 * Packs members into one zip, with a list of their SHA-256 as its first member. The time stamp is fixed, so equal content gives equal bytes.
 *
 * @param stored whether members are packed already and only stored
 */
export function writeArchive(members: Readonly<Record<string, Uint8Array>>, stored: (name: string) => boolean = () => false): Uint8Array {
  const sha256s = Object.fromEntries(Object.entries(members).map(([name, bytes]) => [name, sha256Hex(bytes)]));
  const sums = strToU8(JSON.stringify({ format: 'calm-keel/sums', version: 1, sha256: sha256s }));
  const entries = Object.entries({ [sumsName]: sums, ...members });
  return zipSync(Object.fromEntries(entries.map(([name, bytes]): [string, ZippableFile] => [name, [bytes, { level: stored(name) ? 0 : 6 }]])), {
    mtime: '2020-01-01T00:00:00Z',
  });
}

/** Reads the directory of a zip (APPNOTE 6.3.10, 4.3.12 and 4.3.16); null when it does not hold together. */
function directoryOf(bytes: Uint8Array): readonly Entry[] | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = bytes.length - 22;
  while (end >= 0 && (view.getUint32(end, true) !== 0x06054b50 || end + 22 + view.getUint16(end + 20, true) !== bytes.length)) end--;
  if (end < 0) return null;
  const [here, all, size, start] = [
    view.getUint16(end + 8, true),
    view.getUint16(end + 10, true),
    view.getUint32(end + 12, true),
    view.getUint32(end + 16, true),
  ];
  if (here !== all || all > mostMembers || start + size !== end) return null;
  const entries: Entry[] = [];
  let at = start;
  while (at < end) {
    if (at + 46 > end || view.getUint32(at, true) !== 0x02014b50) return null;
    const [name, extra, comment] = [28, 30, 32].map((k) => view.getUint16(at + k, true)) as [number, number, number];
    const next = at + 46 + name + extra + comment;
    if (next > end) return null;
    entries.push({
      name: strFromU8(bytes.subarray(at + 46, at + 46 + name)),
      method: view.getUint16(at + 10, true),
      crc: view.getInt32(at + 16, true),
      packed: view.getUint32(at + 20, true),
      size: view.getUint32(at + 24, true),
      at: view.getUint32(at + 42, true),
    });
    at = next;
  }
  const twice = new Set(entries.map((e) => e.name)).size !== entries.length;
  return entries.length === all && !twice ? entries : null;
}

/** Unpacks a member; null when it cannot be, or does not come to its size. */
function unpacked(bytes: Uint8Array, { at, packed, size, method }: Entry): Uint8Array | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (at + 30 > bytes.length || view.getUint32(at, true) !== 0x04034b50) return null;
  const from = at + 30 + view.getUint16(at + 26, true) + view.getUint16(at + 28, true);
  const raw = bytes.subarray(from, from + packed);
  if (raw.length !== packed) return null;
  if (method === 0) return packed === size ? raw.slice() : null;
  if (method !== 8) return null;
  const out = new Uint8Array(size);
  let filled = 0;
  const inflate = new Inflate((piece) => {
    // A false size ends here, before more is made of it.
    if (filled + piece.length > size) throw new RangeError('more than it says');
    out.set(piece, filled);
    filled += piece.length;
  });
  try {
    for (let k = 0; k < raw.length; k += slice) inflate.push(raw.subarray(k, k + slice), k + slice >= raw.length);
  } catch {
    return null;
  }
  return filled === size ? out : null;
}

/**
 * Opens a zip of this program. Sizes are looked at before anything is unpacked; each member is checked when it is taken.
 *
 * @param what how the file is called in sentences, and what its codes begin with
 * @param mostBytes what all wanted members together may unpack to
 * @param wanted members that will be taken; what others say of themselves does not matter
 */
export function openArchive(bytes: Uint8Array, what: 'bundle' | 'backup', mostBytes: number, wanted: (name: string) => boolean): Result<Archive> {
  const entries = directoryOf(bytes);
  if (!entries) return bad(`${what}-broken`, `This ${what} cannot be unpacked. It was cut short or altered; take an unbroken copy.`);
  const taken = entries.filter((e) => wanted(e.name) || e.name === sumsName);
  const total = taken.reduce((sum, e) => sum + e.size, 0);
  if (total > mostBytes) return bad(`${what}-too-large`, `This ${what} would unpack to more than ${mostBytes / 1e6} MB. It was not opened.`);
  const swelling = taken.find((e) => e.size > smallMember && e.size > e.packed * mostSwell);
  if (swelling)
    return bad(
      `${what}-swells`,
      `“${swelling.name}” in this ${what} says that its ${swelling.packed} bytes would unpack to ${Math.round(swelling.size / 1e6)} MB. It was not opened; take an unbroken copy.`,
      swelling.name,
    );
  const altered = (name: string): Result<never> =>
    bad(
      `${what}-altered`,
      `“${name}” in this ${what} is not what was packed: its checksum does not fit. Nothing was taken from it; take an unbroken copy.`,
      name,
    );
  const read = (entry: Entry): Uint8Array | null => {
    const content = unpacked(bytes, entry);
    return content && crc32.buf(content) === entry.crc ? content : null;
  };
  const listed = entries.find((e) => e.name === sumsName);
  let sums: Readonly<Record<string, string>> = {};
  if (listed) {
    const content = read(listed);
    const list = content && parseJson(strFromU8(content), what);
    const parsed = list?.ok ? sumsSchema.safeParse(list.value) : null;
    if (!parsed?.success) return altered(sumsName);
    sums = parsed.data.sha256;
  }
  return good({
    members: entries.filter((e) => e.name !== sumsName).map(({ name, size }) => ({ name, size })),
    lost: Object.keys(sums).filter((name) => !entries.some((e) => e.name === name)),
    take: (name) => {
      const entry = entries.find((e) => e.name === name);
      if (!entry) return null;
      const content = read(entry);
      if (!content || (listed && sums[name] !== sha256Hex(content))) return altered(name);
      return good(content);
    },
  });
}
