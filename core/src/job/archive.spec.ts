import { createHash } from 'node:crypto';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { randomFrom } from '../physics';
import { rounds } from '../testing/rounds';
import { rookMoss, teasel } from '../testing/fixtures';
import { openArchive, writeArchive } from './archive';
import { readBackup, readBundle, writeBackup, writeBundle, writeJob, type BackupHead } from './index';

const csv = `time,bank_V\n${Array.from({ length: 400 }, (_, k) => `2026-06-14T05:${String(Math.floor(k / 60)).padStart(2, '0')}:${String(k % 60).padStart(2, '0')}Z,26.${k % 10}`).join('\n')}\n`;
const pdf = strToU8('%PDF-1.7 charging sheet');
const job = {
  ...teasel(),
  logs: [{ id: 'day', name: 'Day', instrument: 'monitor', from: 0, to: 399, rows: 400 }],
  attachments: [{ id: 'sheet-d', name: 'Sheet D.pdf', type: 'application/pdf' as const, bytes: pdf.length }],
};
const bundle = { job, logs: { day: csv }, files: { 'sheet-d': pdf }, copy: { id: 'copy-1', parents: [], at: '2026-06-14T05:00:00.000Z' } };
const head: BackupHead = {
  format: 'calm-keel/backup',
  version: 1,
  at: '2026-06-10T08:00:00.000Z',
  jobs: [
    { id: job.id, name: job.name, updatedAt: 100 },
    { id: 'rook-moss', name: rookMoss().name, updatedAt: 50 },
  ],
  sheets: [],
  cards: [],
  mappings: [],
};
const backupBytes = writeBackup(head, { [job.id]: writeBundle(bundle), 'rook-moss': writeBundle({ job: rookMoss(), logs: {}, files: {} }) });

/** The members of a zip as its directory has them: where each entry stands. */
function entriesOf(zip: Uint8Array): Map<string, number> {
  const view = new DataView(zip.buffer, zip.byteOffset, zip.byteLength);
  const found = new Map<string, number>();
  for (let i = 0; i + 46 < zip.length; i++)
    if (view.getUint32(i, true) === 0x02014b50) found.set(strFromU8(zip.subarray(i + 46, i + 46 + view.getUint16(i + 28, true))), i);
  return found;
}
/** A copy in which one field of one entry of the directory says something else. */
function saying(zip: Uint8Array, name: string, field: number, value: number): Uint8Array {
  const copy = zip.slice();
  new DataView(copy.buffer).setUint32((entriesOf(copy).get(name) ?? 0) + field, value, true);
  return copy;
}
const flipped = (bytes: Uint8Array, bit: number): Uint8Array => bytes.map((byte, i) => (i === bit >> 3 ? byte ^ (1 << (bit & 7)) : byte));
const words = (result: { ok: true } | { ok: false; problems: readonly { code: string; text: string; place?: string }[] }): string =>
  result.ok ? 'taken' : result.problems.map((p) => [p.code, p.place ?? '', p.text].join(' | ')).join(' ');

describe('one altered bit', () => {
  it('in a bundle changes nothing of what is read, or the bundle is refused', () => {
    const bytes = writeBundle(bundle);
    const whole = readBundle(bytes);
    expect(whole.ok && whole.value).toEqual({ ...bundle, missing: [] });
    const random = randomFrom(17);
    let refused = 0;
    for (let n = 0; n < rounds(2000); n++) {
      const bit = Math.floor(random() * bytes.length * 8);
      const read = readBundle(flipped(bytes, bit));
      if (read.ok) expect<unknown>(read).withContext(`bit ${bit}`).toEqual(whole);
      else refused++;
    }
    expect(refused).toBeGreaterThan(rounds(2000) * 0.8);
  });

  it('in a backup changes nothing of what is read, or the backup is refused, or the job it is in is named', () => {
    const whole = readBackup(backupBytes);
    if (!whole.ok) throw new Error(words(whole));
    const random = randomFrom(18);
    for (let n = 0; n < rounds(1500); n++) {
      const bit = Math.floor(random() * backupBytes.length * 8);
      const read = readBackup(flipped(backupBytes, bit));
      if (!read.ok) continue;
      expect(read.value.head).withContext(`bit ${bit}`).toEqual(whole.value.head);
      for (const { id, name } of head.jobs) {
        const taken = read.value.bundles[id];
        if (taken) expect(taken).withContext(`bit ${bit}`).toEqual(whole.value.bundles[id]!);
        else expect(read.value.unread.join(' ')).withContext(`bit ${bit}`).toContain(`“${name}”`);
      }
    }
  });

  it('in a bundle of an earlier version, without a list of sums, is found by the archive’s own', () => {
    const bytes = zipSync({ 'job.json': strToU8(writeJob(job)), 'logs/day.csv': strToU8(csv), 'files/sheet-d': pdf });
    const whole = readBundle(bytes);
    expect(whole.ok).toBeTrue();
    const random = randomFrom(19);
    const end = Math.min(...entriesOf(bytes).values());
    for (let n = 0; n < rounds(800); n++) {
      const bit = Math.floor(random() * end * 8);
      const read = readBundle(flipped(bytes, bit));
      if (read.ok) expect<unknown>(read).withContext(`bit ${bit}`).toEqual(whole);
    }
    const inLog = strFromU8(bytes, true).indexOf('logs/day.csv') + 'logs/day.csv'.length + 10;
    expect(words(readBundle(flipped(bytes, inLog * 8)))).toContain('bundle-altered | logs/day.csv | “logs/day.csv” in this bundle is not what was packed');
  });
});

describe('a bundle', () => {
  it('of which a member was changed and packed again is refused by its name', () => {
    const members = { 'job.json': strToU8(writeJob(job)), 'logs/day.csv': strToU8(csv), 'files/sheet-d': pdf };
    const list = strToU8(
      JSON.stringify({
        format: 'calm-keel/sums',
        version: 1,
        sha256: Object.fromEntries(Object.entries(members).map(([name, bytes]) => [name, createHash('sha256').update(bytes).digest('hex')])),
      }),
    );
    const sums = openArchive(writeArchive(members), 'bundle', 1e9, () => true);
    expect(sums.ok && sums.value.members.map((m) => m.name)).toEqual(Object.keys(members));
    const changed = zipSync({ 'sums.json': list, ...members, 'logs/day.csv': strToU8(csv.replace('26.5', '28.5')) });
    expect(words(readBundle(changed))).toContain('bundle-altered | logs/day.csv');
    const without = zipSync({ 'sums.json': list, 'job.json': members['job.json'], 'files/sheet-d': pdf });
    expect(words(readBundle(without))).toContain('packed with “logs/day.csv”, and that is no longer in it');
    const more = zipSync({ 'sums.json': list, ...members, 'logs/night.csv': strToU8(csv) });
    expect(words(readBundle(more))).toContain('bundle-altered | logs/night.csv');
    const unsaid = zipSync({ 'sums.json': strToU8('{}'), ...members });
    expect(words(readBundle(unsaid))).toContain('bundle-altered | sums.json');
    // The same members with their own list are taken: what is refused above is refused for the change.
    expect(words(readBundle(zipSync({ 'sums.json': list, ...members })))).toBe('taken');
    // What the computer that packed it again has put beside them is nobody's, and is let be.
    expect(words(readBundle(zipSync({ 'sums.json': list, ...members, '.folder': pdf })))).toBe('taken');
  });

  it('with one name twice is refused', () => {
    const zip = zipSync({ 'job.json': strToU8(writeJob(job)), 'logs/day.csv': strToU8(csv), 'logs/dax.csv': strToU8(csv) });
    const at = (entriesOf(zip).get('logs/dax.csv') ?? 0) + 46;
    zip.set(strToU8('logs/day.csv'), at);
    expect(words(readBundle(zip))).toContain('bundle-broken');
  });

  it('that swells is refused by its sizes, and one with false sizes by what comes out of it', () => {
    const zip = zipSync({ 'job.json': strToU8(writeJob(job)), 'logs/day.csv': new Uint8Array(30_000_000) });
    expect(words(readBundle(zip))).toContain('bundle-swells | logs/day.csv | “logs/day.csv” in this bundle says that its');
    expect(words(readBundle(saying(zip, 'logs/day.csv', 24, 500_000)))).toContain('bundle-altered | logs/day.csv');
    expect(words(readBundle(saying(zip, 'logs/day.csv', 24, 4_000_000_000)))).toContain('would unpack to more than 500 MB');
    expect(words(readBundle(saying(zip, 'job.json', 24, 20_000_001)))).toMatch(/bundle-(swells|too-large) \| job\.json/);
    const quiet = zipSync({ 'job.json': strToU8(writeJob(job)), 'files/sheet-d': pdf });
    expect(words(readBundle(saying(quiet, 'job.json', 24, 20)))).toContain('bundle-altered | job.json');
    expect(words(readBundle(saying(quiet, 'files/sheet-d', 24, 8_000_001)))).toMatch(/files\/sheet-d/);
  });

  it('whose log stands still for a whole week is no swelling one', () => {
    const week = Array.from({ length: 60_480 }, (_, k) => `${new Date(1_780_000_000_000 + k * 10_000).toISOString()},13.20,0.0,0.0,21`).join('\n');
    const read = readBundle(writeBundle({ job, logs: { day: week }, files: { 'sheet-d': pdf } }));
    expect(read.ok && read.value.logs['day']).toBe(week);
  });
});

describe('a plain job file', () => {
  it('with bytes that are no text is refused with its line; a question mark sign that somebody typed is one', () => {
    const text = strToU8(writeJob({ ...job, logs: [], attachments: [], note: 'pasted \ufffd here' }));
    expect(words(readBundle(text))).toBe('taken');
    const at = strFromU8(text, true).indexOf('"note"') + 12;
    const line = strFromU8(text.subarray(0, at), true).split('\n').length;
    const damaged = text.map((byte, i) => (i === at ? 0xc3 : byte));
    expect(words(readBundle(damaged))).toContain(`text-broken | line ${line}`);
  });
});
