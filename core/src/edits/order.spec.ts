import { seeded } from '../testing/fixtures';
import { broken, orderMoves, type Dial, type Gap, type Values } from './index';

const dial = (name: string, values: readonly number[]): Dial => ({ name, values });
const range = (from: number, to: number, step = 1): number[] => Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => from + i * step);

/** Applies moves one by one; says whether every state on the way keeps the gaps, and where it ends. */
function walk(
  gaps: readonly Gap[],
  from: Values,
  moves: readonly { name: string; from: number; to: number }[],
): { ok: boolean; end: Values; states: Values[] } {
  let now = { ...from };
  const states: Values[] = [];
  let ok = true;
  for (const move of moves) {
    if (now[move.name] !== move.from) ok = false;
    now = { ...now, [move.name]: move.to };
    states.push(now);
    if (broken(gaps, now).length > 0) ok = false;
  }
  return { ok, end: now, states };
}

/** Whether any path of single edits leads from one state to the other, by looking at every state there is. */
function reachable(dials: readonly Dial[], gaps: readonly Gap[], from: Values, to: Values): boolean {
  const key = (v: Values): string => dials.map((d) => v[d.name]).join('|');
  const seen = new Set([key(from)]);
  const queue = [from];
  for (let next = queue.shift(); next; next = queue.shift()) {
    if (key(next) === key(to)) return true;
    for (const d of dials)
      for (const value of d.values) {
        const state = { ...next, [d.name]: value };
        if (value === next[d.name] || seen.has(key(state)) || broken(gaps, state).length > 0) continue;
        seen.add(key(state));
        queue.push(state);
      }
  }
  return false;
}

describe('the order of edits', () => {
  it('lowers what must stay below first: equalise at least 0.2 above absorb, both to fall', () => {
    const gaps = [{ upper: 'equalise', lower: 'absorb', gap: 0.2 }];
    const order = orderMoves(
      [dial('equalise', range(26, 31, 0.1)), dial('absorb', range(26, 31, 0.1))],
      gaps,
      { equalise: 30, absorb: 28.8 },
      { equalise: 28.3, absorb: 28.1 },
    );
    expect('moves' in order && order.moves.map((m) => m.name)).toEqual(['absorb', 'equalise']);
  });

  it('needs a value on the way where two values hold each other in a window, and marks it', () => {
    // b stays between a and a + 2; both go from 0/1 to 6/7. No direct edit is accepted.
    const gaps = [
      { upper: 'b', lower: 'a', gap: 0 },
      { upper: 'a', lower: 'b', gap: -2 },
    ];
    const dials = [dial('a', range(0, 10)), dial('b', range(0, 10))];
    const order = orderMoves(dials, gaps, { a: 0, b: 1 }, { a: 6, b: 7 });
    if (!('moves' in order)) throw new Error('an order exists');
    expect(order.moves.some((m) => m.temporary)).toBeTrue();
    expect(order.moves.filter((m) => !m.temporary).map((m) => [m.name, m.to])).toEqual([
      ['b', 7],
      ['a', 6],
    ]);
    expect(walk(gaps, { a: 0, b: 1 }, order.moves).ok).toBeTrue();
  });

  it('is provably impossible where two values must be equal, and says which rules lock', () => {
    const gaps = [
      { upper: 'b', lower: 'a', gap: 0 },
      { upper: 'a', lower: 'b', gap: 0 },
    ];
    const dials = [dial('a', range(0, 5)), dial('b', range(0, 5))];
    expect(reachable(dials, gaps, { a: 1, b: 1 }, { a: 2, b: 2 })).toBeFalse();
    const order = orderMoves(dials, gaps, { a: 1, b: 1 }, { a: 2, b: 2 });
    expect(order).toEqual({ blockedBy: gaps, why: 'locked' });
  });

  it('agrees with a search over every state on random small cards: an order where one exists, none where none does', () => {
    const random = seeded(41);
    const pick = (n: number): number => Math.floor(random() * n);
    let possible = 0;
    let blocked = 0;
    let temporary = 0;
    for (let i = 0; i < 6000; i++) {
      const names = ['a', 'b', 'c'].slice(0, 2 + pick(2));
      const dials = names.map((name) => {
        const from = pick(3);
        return dial(name, range(from, from + 3 + pick(5)));
      });
      const gaps: Gap[] = Array.from({ length: 1 + pick(4) }, () => {
        const upper = names[pick(names.length)] ?? 'a';
        const lower = names.filter((n) => n !== upper)[pick(names.length - 1)] ?? 'b';
        return { upper, lower, gap: pick(5) - 3 };
      });
      // Every other card holds two values in a window of each other.
      if (i % 2 === 0) gaps.push({ upper: 'b', lower: 'a', gap: pick(2) }, { upper: 'a', lower: 'b', gap: -pick(3) });
      const state = (): Values => Object.fromEntries(dials.map((d) => [d.name, d.values[pick(d.values.length)] ?? 0]));
      const [from, to] = [state(), state()];
      if (broken(gaps, from).length > 0 || broken(gaps, to).length > 0) continue;
      const order = orderMoves(dials, gaps, from, to);
      const exists = reachable(dials, gaps, from, to);
      expect('moves' in order)
        .withContext(JSON.stringify({ dials, gaps, from, to }))
        .toBe(exists);
      if (!('moves' in order)) {
        blocked++;
        continue;
      }
      possible++;
      if (order.moves.some((m) => m.temporary)) temporary++;
      const { ok, end, states } = walk(gaps, from, order.moves);
      expect(ok)
        .withContext(JSON.stringify({ gaps, from, to, moves: order.moves }))
        .toBeTrue();
      expect(end).toEqual(to);
      // Safe while a source is live: nothing on the way is above both ends.
      for (const s of states) for (const n of names) expect(s[n] ?? 0).toBeLessThanOrEqual(Math.max(from[n] ?? 0, to[n] ?? 0));
    }
    expect(possible).toBeGreaterThan(800);
    expect(blocked).toBeGreaterThan(3);
    expect(temporary).toBeGreaterThan(3);
  });
});
