import { measureFamilies, scores, upperBound, type Outcome } from './measure';
import { makeFamily } from './families';
import { allRounds } from '../rounds';

// The published table takes several hundred logs (npm run bench); here a few dozen of other seeds must come near it, and a dozen in the gate.
describe('stage inference and verdicts on logs of a simulator of their own', () => {
  const seeds = Array.from({ length: allRounds ? 36 : 12 }, (_, i) => 70_000 + i);
  let outcome: Outcome;
  beforeAll(() => {
    outcome = measureFamilies(seeds);
  });

  it('reads every one of them, whatever its separators, units, clocks and gaps', () => {
    expect(outcome.unread).toEqual([]);
  });

  it('stages nearly all charging time rightly, and every stage mostly', () => {
    const { charging, recall } = scores(outcome.confusion);
    expect(charging).toBeGreaterThan(0.93);
    for (const stage of ['bulk', 'absorb', 'float'] as const) expect(recall[stage]).withContext(stage).toBeGreaterThan(0.85);
  });

  it('passes nothing that is wrong, and fails next to nothing that is right', () => {
    const all = [...outcome.verdicts.values()];
    expect(all.flatMap((a) => a.falsePass)).toEqual([]);
    const judged = all.reduce((n, a) => n + a.pass + a.fail, 0);
    expect(judged).toBeGreaterThan(1.6 * seeds.length);
    expect(all.flatMap((a) => a.falseFail).length).toBeLessThanOrEqual(Math.ceil(judged * 0.02));
  });

  it('passes nothing that is wrong where only the sheet is known, or only the bank’s current and the loads', () => {
    for (const mode of ['sheet', 'net'] as const) {
      const { verdicts, confusion, unread } = measureFamilies(seeds.slice(0, allRounds ? 18 : 8), mode);
      const all = [...verdicts.values()];
      expect(unread).toEqual([]);
      expect(all.flatMap((a) => a.falsePass))
        .withContext(mode)
        .toEqual([]);
      expect(all.flatMap((a) => a.falseFail).length)
        .withContext(mode)
        .toBeLessThanOrEqual(1);
      expect(scores(confusion).charging).withContext(mode).toBeGreaterThan(0.85);
    }
  });

  it('makes the same log of the same seed, and another of another', () => {
    expect(makeFamily(5).observed.text).toBe(makeFamily(5).observed.text);
    expect(makeFamily(5).observed.text).not.toBe(makeFamily(6).observed.text);
  });
});

describe('the upper bound of a rate', () => {
  it('is that of Clopper and Pearson', () => {
    // Nothing of n: 1 − 0.05^(1/n).
    expect(upperBound(0, 100)).toBeCloseTo(1 - 0.05 ** 0.01, 6);
    expect(upperBound(0, 3)).toBeCloseTo(1 - 0.05 ** (1 / 3), 6);
    // One of ten: 0.3942 (published tables).
    expect(upperBound(1, 10)).toBeCloseTo(0.3942, 3);
  });
});
