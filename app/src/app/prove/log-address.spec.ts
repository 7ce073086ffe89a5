import type { Explanation } from '@calm-keel/core/proof';
import { clockOf, clockText, momentOf, rangeOf, secondsOf, toldAt } from './log-address';

const told = (...ats: readonly number[]): Explanation[] =>
  ats.map(
    (at) => ({ kind: 'odd', at, from: at, to: at + 60, charger: null, title: '', cause: '', counted: [], means: '', sure: '' }) as unknown as Explanation,
  );

describe('the address of a place in a log', () => {
  it('is on the log’s own clock, as people write it and as the plot does', () => {
    const at = Date.UTC(2026, 1, 17, 6, 14) / 1000;
    expect(clockOf(at, 60)).toBe('2026-02-17T07:14:00');
    expect(secondsOf('2026-02-17T07:14:00', 60)).toBe(at);
    expect([clockText('2026-02-17 07:14:05.123'), clockText('2026-02-17T07:14')]).toEqual(['2026-02-17T07:14:05', '2026-02-17T07:14:00']);
  });

  it('names no stretch where it is no time, or ends before it begins', () => {
    expect(rangeOf('2026-02-17T07:00', '2026-02-17T08:00')).toEqual(['2026-02-17T07:00:00', '2026-02-17T08:00:00']);
    for (const [from, to] of [
      ['2026-02-17T08:00', '2026-02-17T08:00'],
      ['2026-02-17T08:00', undefined],
      ['2026-02-31T25:00', '2026-03-01T08:00'],
      ['yesterday', 'today'],
    ])
      expect(rangeOf(from, to)).toBeNull();
  });

  it('comes back to each thing told, also to the second of the same moment', () => {
    const all = told(0, 60, 60, 60.2, 120);
    const names = all.map((_, i) => momentOf(all, i, -210));
    expect(names).toEqual(['1969-12-31T20:30:00', '1969-12-31T20:31:00', '1969-12-31T20:31:00~2', '1969-12-31T20:31:00~3', '1969-12-31T20:32:00']);
    expect(names.map((n) => toldAt(all, n ?? undefined, -210))).toEqual([0, 1, 2, 3, 4]);
    expect([toldAt(all, undefined, 0), toldAt(all, '1969-12-31T20:31:00~4', -210), momentOf(all, 5, 0)]).toEqual([-1, -1, null]);
  });
});
