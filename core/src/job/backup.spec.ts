import { strToU8, zipSync } from 'fflate';
import { rookMoss, teasel } from '../testing/fixtures';
import { isBackup, planRestore, readBackup, readBundle, writeBackup, writeBundle, type Backup } from './index';

const csv = 'time,bank_V\n2026-06-14T05:00:00Z,26.5\n2026-06-14T05:00:10Z,26.6\n';
const launch = { ...teasel(), logs: [{ id: 'day', name: 'Day', instrument: 'monitor', from: 0, to: 10, rows: 2 }] };
const backup: Backup = {
  head: {
    format: 'calm-keel/backup',
    version: 1,
    at: '2026-06-10T08:00:00.000Z',
    jobs: [
      { id: launch.id, name: launch.name, updatedAt: 100 },
      { id: 'rook-moss', name: rookMoss().name, updatedAt: 50, archivedAt: 60 },
    ],
    sheets: [launch.sheet],
    cards: launch.cards,
    mappings: [],
  },
  bundles: { [launch.id]: { job: launch, logs: { day: csv }, files: {} }, 'rook-moss': { job: rookMoss(), logs: {}, files: {} } },
};
const packed = Object.fromEntries(Object.entries(backup.bundles).map(([id, bundle]) => [id, writeBundle(bundle)]));
const refusal = (bytes: Uint8Array): string => {
  const read = readBackup(bytes);
  return read.ok ? '' : read.problems.map((p) => p.text).join(' ');
};

describe('a backup', () => {
  it('comes back as it was written, and is told from a bundle', () => {
    const bytes = writeBackup(backup.head, packed);
    expect(readBackup(bytes)).toEqual({ ok: true, value: { ...backup, unread: [], missing: {} } });
    expect([isBackup(bytes), isBackup(writeBundle({ job: launch, logs: {}, files: {} })), isBackup(strToU8('{}'))]).toEqual([true, false, false]);
  });

  it('of which one job is broken still gives the others, and names it', () => {
    const broken = zipSync({
      'backup.json': strToU8(JSON.stringify(backup.head)),
      [`jobs/${launch.id}.keel.zip`]: writeBundle({ job: launch, logs: {}, files: {} }).slice(0, 400),
      'jobs/rook-moss.keel.zip': writeBundle({ job: rookMoss(), logs: {}, files: {} }),
    });
    const read = readBackup(broken);
    expect(read.ok && Object.keys(read.value.bundles)).toEqual(['rook-moss']);
    expect(read.ok && read.value.unread[0]).toContain(launch.name);
  });

  it('refuses what is none, what is cut short, what is newer, and says what to do', () => {
    expect(refusal(zipSync({ 'letter.txt': strToU8('hello') }))).toContain('backup.json');
    expect(refusal(writeBackup(backup.head, packed).slice(0, 500))).toContain('unbroken copy');
    expect(refusal(zipSync({ 'backup.json': strToU8('{"format":"calm-keel/backup","version":2}') }))).toContain('Update the program');
    expect(refusal(zipSync({ 'backup.json': strToU8('{"format":"calm-keel/backup","version":1}') }))).toContain('does not hold together');
    expect(refusal(zipSync({ 'backup.json': strToU8('{"__proto__":{"a":1}}') }))).toContain('__proto__');
  });

  it('does not unpack a zip that swells: sizes are looked at before anything is opened, and a false size gives no more than it says', () => {
    /** The sizes a zip gives of what it holds, made to say something else. */
    const saying = (zip: Uint8Array, size: number): Uint8Array => {
      const copy = zip.slice();
      const view = new DataView(copy.buffer);
      for (let i = 0; i < copy.length - 30; i++) if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, size, true);
      return copy;
    };
    const bomb = zipSync({
      'backup.json': strToU8(JSON.stringify(backup.head)),
      'jobs/a.keel.zip': new Uint8Array(900),
      'jobs/b.keel.zip': new Uint8Array(900),
    });
    expect(refusal(saying(bomb, 550_000_000))).toContain('would unpack to more than');
    expect(refusal(saying(bomb, 4_000_000_000))).toContain('would unpack to more than');
    // It says 10 bytes where there are three million.
    const lying = readBundle(saying(zipSync({ 'job.json': new Uint8Array(3_000_000) }), 10));
    expect(lying.ok).toBeFalse();
  });

  it('compared with what is here tells new, same and different', () => {
    const here = [
      { doc: launch, updatedAt: 120 },
      { doc: { ...rookMoss(), note: 'changed' }, updatedAt: 130 },
    ];
    expect(planRestore(backup, here).map((l) => [l.id, l.state, l.there, l.here])).toEqual([
      [launch.id, 'same', 100, 120],
      ['rook-moss', 'differs', 50, 130],
    ]);
    expect(planRestore(backup, []).map((l) => l.state)).toEqual(['new', 'new']);
  });
});

describe('the mark of a copy', () => {
  const copy = { id: 'c-2', parents: ['c-1'], at: '2026-06-10T08:00:00.000Z' };
  it('travels with the bundle, and one that is no mark is as if it were not there', () => {
    const read = readBundle(writeBundle({ job: teasel(), logs: {}, files: {}, copy }));
    expect(read.ok && read.value.copy).toEqual(copy);
    for (const odd of ['{"id":"../x"}', 'not json', '{"id":"a","parents":[],"at":"soon"}']) {
      const bundle = zipSync({ 'job.json': strToU8(JSON.stringify(teasel())), 'copy.json': strToU8(odd) });
      const other = readBundle(bundle);
      expect(other.ok && other.value.copy).toBeUndefined();
    }
  });
});
