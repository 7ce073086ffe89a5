import { strFromU8, strToU8, zipSync, type ZippableFile } from 'fflate';
import * as z from 'zod';
import { zipDirectory, zipMember } from '../files';
import { bad, good, sha256Hex, type Result } from '../quantity';
import { parseJson } from './read';

/** What the list of sums is called in a file. */
const sumsName = 'sums.json';
/** What every file of this program says of its members: their SHA-256, by name. */
const sumsSchema = z.object({ format: z.literal('calm-keel/sums'), version: z.literal(1), sha256: z.record(z.string(), z.string()) });

/** A member that unpacks to more than this many times its packed size is no text of ours, bytes for bytes; small ones are let be. */
const mostSwell = 200;
const smallMember = 1_000_000;

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

/**
 * Opens a zip of this program. Sizes are looked at before anything is unpacked; each member is checked when it is taken.
 *
 * @param what how the file is called in sentences, and what its codes begin with
 * @param mostBytes what all wanted members together may unpack to
 * @param wanted members that will be taken; what others say of themselves does not matter
 */
export function openArchive(bytes: Uint8Array, what: 'bundle' | 'backup', mostBytes: number, wanted: (name: string) => boolean): Result<Archive> {
  const entries = zipDirectory(bytes);
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
  const listed = entries.find((e) => e.name === sumsName);
  let sums: Readonly<Record<string, string>> = {};
  if (listed) {
    const content = zipMember(bytes, listed);
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
      const content = zipMember(bytes, entry);
      if (!content || (listed && sums[name] !== sha256Hex(content))) return altered(name);
      return good(content);
    },
  });
}
