import crc32 from 'crc-32';
import { Inflate, strFromU8 } from 'fflate';

/** One member of a zip, as its directory tells. */
export interface ZipEntry {
  readonly name: string;
  /** Bytes when unpacked, as the directory says. */
  readonly size: number;
  readonly packed: number;
  /** It can only be unpacked with a password. */
  readonly locked: boolean;
  readonly method: number;
  readonly crc: number;
  readonly at: number;
}

/** More members than any file that is brought in has. */
const mostMembers = 5000;
/** Packed bytes unpacked in one go: a member that says a false size is left after at most a thousand times this. */
const slice = 16_384;

/** Reads the directory of a zip (APPNOTE 6.3.10, 4.3.12 and 4.3.16); null when it does not hold together. */
export function zipDirectory(bytes: Uint8Array): readonly ZipEntry[] | null {
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
  const entries: ZipEntry[] = [];
  let at = start;
  while (at < end) {
    if (at + 46 > end || view.getUint32(at, true) !== 0x02014b50) return null;
    const [name, extra, comment] = [28, 30, 32].map((k) => view.getUint16(at + k, true)) as [number, number, number];
    const next = at + 46 + name + extra + comment;
    if (next > end) return null;
    entries.push({
      name: strFromU8(bytes.subarray(at + 46, at + 46 + name)),
      locked: (view.getUint16(at + 8, true) & 1) !== 0,
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
function unpacked(bytes: Uint8Array, { at, packed, size, method }: ZipEntry): Uint8Array | null {
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

/** Unpacks a member and checks it by the zip's own sum; null when it cannot be unpacked, does not come to its size, or was altered. */
export function zipMember(bytes: Uint8Array, entry: ZipEntry): Uint8Array | null {
  const content = entry.locked ? null : unpacked(bytes, entry);
  return content && crc32.buf(content) === entry.crc ? content : null;
}
