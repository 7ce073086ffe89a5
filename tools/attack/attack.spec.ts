import { rounds } from '../../core/src/testing/rounds';
import { attackFiles } from './files';
import { mutated, slipped } from './mutate';
import { attackServer } from './requests';
import { attackMessages, attackTalker } from './talkers';
import { counting, faultsOf, lossOf, tableOf } from './table';
import { attackWire } from './wire';
import { randomFrom } from '../../core/src/physics';

describe('an attack', () => {
  it('on files of every kind changes and loses nothing in silence', () => {
    const rows = attackFiles(rounds(3000), 1);
    expect(rows.flatMap((row) => row.examples)).toEqual([]);
    expect(rows.map((row) => row.tried)).toEqual(Array.from({ length: 6 }, () => Math.ceil(rounds(3000) / 6)));
    for (const row of rows.slice(0, 2)) expect(row.came['refused']).withContext(row.kind).toBeGreaterThan(0);
  });

  for (const [wire, times] of [
    ['network', 10_000],
    ['line', 2000],
  ] as const)
    it(`on the wire makes no unverified “done” and sends nothing twice, over a ${wire}`, async () => {
      const row = await attackWire(rounds(times), 1, wire);
      expect(row.examples).toEqual([]);
      expect(row.tried).toBeGreaterThanOrEqual(rounds(times));
      for (const kind of ['readBack', 'unknown'])
        expect(row.came[kind])
          .withContext(kind)
          .toBeGreaterThan(row.tried / 100);
    });

  it('on what only talks brings nothing that was never said, nothing old for new, and nothing twice', () => {
    for (const [row, kinds] of [
      [attackTalker(rounds(20_000), 1), ['whole', 'a part, the rest left out', 'nothing, and said why']],
      [attackMessages(rounds(20_000), 1), ['whole', 'nothing new']],
    ] as const) {
      expect(row.examples).withContext(row.kind).toEqual([]);
      expect(row.tried).toBe(rounds(20_000));
      for (const kind of kinds)
        expect(row.came[kind])
          .withContext(`${row.kind}: ${kind}`)
          .toBeGreaterThan(rounds(20_000) / 50);
    }
  });

  it('on the server leaves it standing, and it tells nothing of itself', async () => {
    const row = await attackServer(rounds(1500), 1);
    expect(row.examples).toEqual([]);
    expect(row.came['4xx']).toBeGreaterThan(0);
  });

  it('is the same attack with the same seed', () => {
    const bytes = Uint8Array.from({ length: 300 }, (_, i) => i);
    const some = (seed: number) => {
      const random = randomFrom(seed);
      return Array.from({ length: 120 }, () => [mutated(bytes, random), slipped('{"a":1}', random)]);
    };
    expect(some(5)).toEqual(some(5));
    expect(some(5)).not.toEqual(some(6));
    expect(new Set(some(5).map(([m]) => (m as { way: string }).way)).size).toBe(8);
  });

  it('is told as a table in which faults are seen', () => {
    const count = counting('a kind');
    count.came('refused');
    count.came('refused');
    count.fault('hang', 'n 3');
    expect(tableOf([count.row()])).toContain('| a kind | 3 | refused 2 | hang 1 |');
    expect([faultsOf([count.row()]), count.row().examples]).toEqual([1, ['hang: n 3']]);
  });

  it('tells how much typing was lost by shares of the kills', () => {
    const lossMs = Array.from({ length: 20 }, (_, i) => (i < 11 ? 0 : (i - 10) * 10));
    expect(lossOf(lossMs)).toBe(
      'Typing before a kill that was not stored yet: median 0 ms, nine of ten at most 80 ms, most 90 ms; 11 of 20 kills lost nothing.',
    );
    expect(lossOf([0, 7.4])).toContain('median 7 ms');
  });
});
