import { runInNewContext } from 'node:vm';
import { transformSync } from 'esbuild';
import { mutantsOf, woven, type Mutant } from './find';

const source = `
import type { A } from './a';
type Level = 1 | 2;
export const table: readonly (readonly [number, number])[] = [[1.5, 19.5], [2.5, 27]];
const slack = 1e-9;
export const facts = { low: 1, mid: 2, high: 3, top: 4 };
export function grade(v: number, on = true): { severity: string; sum: number } | null {
  if (!on || v < 10) return null;
  let sum = 0;
  for (let i = 0; i < 3; i++) sum += v * 0.5;
  const rest = [v, 2, 3].filter((x) => x > 2 && x !== 7);
  return { severity: v >= 20 ? 'stop' : 'attention', sum: Math.max(sum, rest.length) - slack };
}
`;
const at = (kind: string, before?: string): readonly string[] =>
  mutantsOf(source).flatMap((m) => (m.kind === kind && (before === undefined || m.before === before) ? [m.statement ? 'left out' : m.after] : []));

describe('small changes of a source', () => {
  it('shift numbers, but neither types nor what only forgives rounding', () => {
    expect(at('number', '1.5')).toEqual([String(1.5 * 1.1)]);
    expect(at('number', '10')).toEqual(['11']);
    expect(at('number', '0')).toEqual(['1', '1']);
    expect(at('number', '1e-9')).toEqual([]);
    // Of 1 there is the fact, and neither the type nor the name of the module.
    expect(at('number', '1')).toEqual(['2']);
  });

  it('know what is taken where an index finds nothing, and change it, but do not leave it out', () => {
    const found = mutantsOf('const x = (list[i] ?? 0) + (map.get(k) ?? 7) + (row?.[2] ?? 3);');
    const of = (before: string): (boolean | undefined)[] => found.filter((m) => m.before === before).map((m) => m.fallback);
    expect([of('0'), of('7'), of('3')]).toEqual([[true], [undefined], [true]]);
    expect(found.filter((m) => m.kind === 'absent').map((m) => m.before)).toEqual(['map.get(k) ?? 7']);
  });

  it('move a comparison by its edge and turn it round', () => {
    expect(at('comparison', 'v < 10')).toEqual(['v <= 10', 'v >= 10']);
    expect(at('comparison', 'v >= 20')).toEqual(['v > 20', 'v < 20']);
    expect(at('comparison', 'x !== 7')).toEqual(['x === 7']);
  });

  it('shift severities, turn conditions, sums and extremes, and leave rows and statements out', () => {
    expect([at('severity', "'stop'"), at('severity', "'attention'")]).toEqual([["'attention'"], ["'note'"]]);
    expect(at('logic')).toEqual(['(!on) && (v < 10)', 'on', '(x > 2) || (x !== 7)']);
    expect(at('condition')).toEqual(['!(!on || v < 10)']);
    expect(at('arithmetic', 'v * 0.5')).toEqual(['(v) / (0.5)']);
    expect(at('arithmetic', 'sum += v * 0.5')).toEqual(['sum -= v * 0.5']);
    expect(at('call').some((after) => after.startsWith('Math.min('))).toBeTrue();
    expect(at('call')).toContain('[v, 2, 3]');
    expect(at('row', '[[1.5, 19.5], [2.5, 27]]')).toEqual(['[[2.5, 27]]', '[[1.5, 19.5]]']);
    expect(at('row').filter((after) => after.startsWith('{')).length).toBe(4);
    expect(at('boolean')).toEqual(['false']);
    expect(mutantsOf('f(1);').filter((m) => m.kind === 'statement').length).toBe(1);
  });

  it('of a statement leave the else behind it where it belongs', () => {
    const branch = 'if (a) f(); else if (b) g();';
    const mutants = mutantsOf(branch).map((m, id) => ({ ...m, id }));
    const calls: string[] = [];
    const run = (a: boolean, b: boolean): string => {
      calls.length = 0;
      runInNewContext(woven(branch, mutants), { a, b, f: () => calls.push('f'), g: () => calls.push('g'), __m: () => false });
      return calls.join();
    };
    expect([run(true, true), run(false, true), run(false, false)]).toEqual(['f', 'g', '']);
  });

  it('do not touch the middle of an optional chain, where brackets would change what is skipped', () => {
    expect(mutantsOf('const y = a?.some(f).x;').filter((m) => m.kind === 'call')).toEqual([]);
    expect(
      mutantsOf('const y = a.some(f);')
        .filter((m) => m.kind === 'call')
        .map((m) => m.after),
    ).toEqual(['a.every(f)']);
  });
});

describe('a source with all its changes woven in', () => {
  const mutants = mutantsOf(source).map((mutant, id) => ({ ...mutant, id }));
  /** What the module’s function says of some inputs, with one change active or none. */
  const behaviour = (text: string, active: number): string => {
    const { code } = transformSync(text, { loader: 'ts', format: 'cjs' });
    const module = { exports: {} as { grade?: (v: number, on?: boolean) => unknown; table?: unknown; facts?: unknown } };
    // A change may make the loop endless: it is stopped, and that too is behaviour.
    let asked = 0;
    const __m = (id: number): boolean => {
      if (++asked > 5000) throw new Error('endless');
      return id === active;
    };
    try {
      runInNewContext(code, { module, exports: module.exports, __m });
      const { grade, table, facts } = module.exports;
      return JSON.stringify([table, facts, [5, 10, 15, 20, 30].map((v) => grade?.(v)), grade?.(15, false)]);
    } catch (error) {
      return String(error);
    }
  };
  const spliced = ({ start, end, after }: Mutant): string => source.slice(0, start) + after + source.slice(end);

  it('is the same as before where none is asked for', () => {
    expect(behaviour(woven(source, mutants), -1)).toBe(behaviour(source, -1));
  });

  it('is, for each of them, what the change alone makes of it', () => {
    expect(mutants.length).toBeGreaterThan(40);
    const endless = (m: Mutant): boolean => m.before === 'i < 3';
    for (const mutant of mutants.filter((m) => !endless(m)))
      expect(behaviour(woven(source, mutants), mutant.id))
        .withContext(`${mutant.kind}: ${mutant.before} → ${mutant.after}`)
        .toBe(behaviour(spliced(mutant), -1));
  });
});
