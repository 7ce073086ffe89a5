import { override } from '../testing/findingCases';
import { begunSheet, wholeTeasel, withCharger, withFigure, withSystem } from '../testing/fixtures';
import { clashesOf, mergeJobs, type Job, type Merged, type MergeChoices } from './index';

const base = wholeTeasel();
const merged = (a: Job | null, mine: Job, theirs: Job, choices?: MergeChoices): Merged => {
  const result = mergeJobs(a, mine, theirs, choices);
  if (!result.ok) throw new Error(result.problems[0]?.text);
  return result.value;
};
/** Every conflict: where, as a path and in words, and what stood before, here and there. */
const asked = ({ conflicts }: Merged) => conflicts.map((c) => [c.path, c.label, c.base, c.mine, c.theirs].map((text) => text?.replace(/\u00a0/g, ' ')));
const bank = (change: object): Job => withSystem(base, { bank: { ...base.system.bank, ...change } });
const visit = (id: string, date: string): Job['visits'][number] => ({ id, date, by: 'KM', purpose: '', note: '', photos: [], closed: null });

describe('what both copies changed is asked', () => {
  it('as numbers, words, figures as printed, lists as one, and what is not there', () => {
    expect(asked(merged(base, bank({ fuseA: 260 }), bank({ fuseA: 300 })))).toEqual([['system/bank/fuseA', 'Bank, fuse a', '250', '260', '300']]);
    expect(asked(merged(base, { ...base, note: '' }, { ...base, note: 'b'.repeat(300) }))[0]?.slice(3)).toEqual(['empty', 'b'.repeat(200)]);
    const strings = (...stringVolts: number[]): Job => bank({ firstCharge: { topBalanced: true, stringVolts } });
    expect(asked(merged(strings(26.5, 26.6), strings(26.5, 26.7), strings(26.4, 26.6)))).toEqual([
      ['system/bank/firstCharge/stringVolts', 'Bank, first charge, string volts', '[26.5,26.6]', '[26.5,26.7]', '[26.4,26.6]'],
    ]);
    const float = (target: number): Job => withFigure(base, 'floatVoltage', { target });
    expect(asked(merged(base, float(26.8), float(26.85)))).toEqual([
      ['sheet/figures/floatVoltage/target', 'Sheet, figures, float, target', '26.9', '26.8', '26.85'],
    ]);
    const gone = withFigure(base, 'floatVoltage', null);
    expect(asked(merged(base, gone, float(26.8)))).toEqual([
      ['sheet/figures/floatVoltage', 'Sheet, figures, float', '26.9 V (26.7–27.1)', 'not there', '26.8 V (26.7–27.1)'],
    ]);
  });

  it('by device and role, and whether something is so', () => {
    const passcode = (id: string, passcodeChanged: boolean, name: string): Job => withCharger(base, id, { passcodeChanged, name });
    expect(
      asked(
        merged(
          withCharger(base, 'aft', { besideShunt: undefined }),
          withCharger(base, 'aft', { besideShunt: true }),
          withCharger(base, 'aft', { besideShunt: false }),
        ),
      ),
    ).toEqual([['system/chargers/#aft/besideShunt', 'Solar aft, beside shunt', 'not there', 'true', 'false']]);
    expect(asked(merged(base, passcode('aft', true, 'Aft'), passcode('aft', true, 'After'))).map((c) => c[1])).toEqual(['Aft, name']);
    const mine = { ...base, overrides: [override('floatVoltage', 26.8)] };
    const theirs = { ...base, overrides: [override('floatVoltage', 27)] };
    expect(asked(merged(base, mine, theirs))).toEqual([['overrides/#aft|floatVoltage/value', 'Overrides, Solar aft, float, value', undefined, '26.8', '27']]);
    expect(merged(base, mine, theirs, { 'overrides/#aft|floatVoltage/value': 'theirs' }).job.overrides).toEqual(theirs.overrides);
    expect(merged(base, mine, theirs, { 'overrides/#aft|floatVoltage/value': 'mine' }).job.overrides).toEqual(mine.overrides);
  });

  it('never about where the eye rests', () => {
    const sheet = (at: string | null): Job => ({
      ...base,
      programming: { begunAt: '2026-06-10T08:00:00.000Z', endedAt: null, by: 'KM', instrument: 'meter', aim: 'set', found: {}, answers: [], at, trouble: [] },
    });
    const one = merged(sheet(null), sheet('a'), sheet('b'));
    expect([one.conflicts, one.job.programming?.at]).toEqual([[], 'a']);
  });

  it('of a companion by its name', () => {
    const monitor = base.system.companions[0]!;
    const called = (name: string): Job => withSystem(base, { companions: [{ ...monitor, name }] });
    expect(asked(merged(base, called('Shunt A'), called('Shunt B'))).map((c) => c.slice(0, 2))).toEqual([
      [`system/companions/#${monitor.id}/name`, 'Shunt A, name'],
    ]);
  });

  it('of an instrument by its own name, also where a device has the same id', () => {
    const called = (name: string): Job => withSystem(base, { instruments: base.system.instruments.map((i) => (i.id === 'monitor' ? { ...i, name } : i)) });
    expect(base.system.companions.some((c) => c.id === 'monitor')).toBeTrue();
    expect(asked(merged(base, called('Shunt A'), called('Shunt B'))).map((c) => c.slice(0, 2))).toEqual([
      ['system/instruments/#monitor/name', 'Shunt A, name'],
    ]);
  });

  it('under the name that the asker gave', () => {
    const theirs = withCharger(base, 'aft', { fuseA: 71 });
    const mine = withCharger(base, 'aft', { fuseA: 72, name: 'Port array' });
    expect(clashesOf(base, mine, theirs).map((c) => c.label)).toEqual(['Port array, fuse a']);
  });

  it('a list of up to 160 signs whole, a longer one cut', () => {
    // One sign a number, one between two, two around them.
    const list = (signs: number): number[] => [signs % 2 === 0 ? 10 : 1, ...Array.from({ length: Math.ceil(signs / 2) - 2 }, () => 1)];
    for (const [signs, shown] of [
      [160, 160],
      [161, 158],
    ] as const) {
      const volts = list(signs);
      expect(JSON.stringify(volts).length).toBe(signs);
      const mine = bank({ firstCharge: { topBalanced: true, stringVolts: volts } });
      const theirs = bank({ firstCharge: { topBalanced: true, stringVolts: [2] } });
      expect(clashesOf(bank({ firstCharge: { topBalanced: true, stringVolts: [3] } }), mine, theirs)[0]?.mine.length).toBe(shown);
    }
  });

  it('in short, where it is long', () => {
    const card = { ...base.cards[0]!, id: 'own-card' };
    const one = merged(null, { ...base, cards: [...base.cards, card] }, { ...base, cards: [...base.cards, { ...card, parameters: card.parameters.slice(1) }] });
    expect(one.conflicts.length).toBe(1);
    expect(one.conflicts[0]?.mine.length).toBe(158);
    expect(one.conflicts[0]?.mine.endsWith('…')).toBeTrue();
    expect(one.conflicts[0]?.base).toBeUndefined();
    expect(one.conflicts[0]?.label).toContain('Varrow S45');
  });
});

describe('what one copy alone changed', () => {
  it('also where the other has no such list at all', () => {
    const noted = bank({ firstCharge: { topBalanced: true, stringVolts: [26.5, 26.6] } });
    const balanced = bank({ firstCharge: { topBalanced: true } });
    for (const [mine, theirs] of [
      [noted, balanced],
      [balanced, noted],
    ] as const) {
      const { job, conflicts } = merged(balanced, mine, theirs);
      expect([conflicts, job.system.bank.firstCharge?.stringVolts]).toEqual([[], [26.5, 26.6]]);
    }
  });

  it('and what went otherwise twice at one step is told twice', () => {
    const sheet = (...at: string[]): Job => ({
      ...base,
      programming: {
        begunAt: '2026-06-10T08:00:00.000Z',
        endedAt: null,
        by: 'KM',
        instrument: 'meter',
        aim: 'set',
        found: {},
        answers: [],
        at: null,
        trouble: at.map((time) => ({ device: 'aft', step: 'aft/edit/floatVoltage', at: time, text: `At ${time.slice(11, 16)}` })),
      },
    });
    const { job, conflicts } = merged(sheet(), sheet('2026-06-10T08:10:00.000Z'), sheet('2026-06-10T08:20:00.000Z'));
    expect([conflicts, job.programming?.trouble.map((t) => t.at.slice(11, 16))]).toEqual([[], ['08:10', '08:20']]);
  });

  it('is taken, and told where it comes from the other', () => {
    expect(merged(base, base, bank({ fuseA: 260 })).taken).toEqual(['Bank, fuse a']);
    expect(merged(base, bank({ fuseA: 260 }), base)).toEqual(jasmine.objectContaining({ taken: [], conflicts: [] }));
    const { fuseA: _gone, ...without } = base.system.bank;
    const gone = withSystem(base, { bank: without });
    expect('fuseA' in merged(base, base, gone).job.system.bank).toBeFalse();
    expect('fuseA' in merged(base, gone, base).job.system.bank).toBeFalse();
    // Nobody knows what was before: what is there stays.
    expect(merged(null, gone, base).job.system.bank.fuseA).toBe(250);
    expect(merged(null, gone, base).taken).toEqual(['Bank, fuse a']);
    expect(merged(null, base, gone)).toEqual(jasmine.objectContaining({ taken: [], conflicts: [] }));
  });

  it('stands in the order of mine, with theirs behind', () => {
    const one = merged({ ...base, visits: [] }, { ...base, visits: [visit('b', '2026-06-12')] }, { ...base, visits: [visit('a', '2026-06-11')] });
    expect(one.job.visits.map((v) => v.id)).toEqual(['b', 'a']);
  });
});

describe('different things under one id', () => {
  it('get the next name that is free, and only where nobody knew them before', () => {
    const mine = { ...base, visits: [visit('v', '2026-06-10'), visit('v-b', '2026-06-09')] };
    const theirs = { ...base, visits: [visit('v', '2026-06-11')] };
    expect(merged(base, mine, theirs).renamed.visits).toEqual({ v: 'v-b2' });
    expect(merged(base, mine, theirs).job.visits.map((v) => v.id)).toEqual(['v', 'v-b', 'v-b2']);
    const known = { ...base, visits: [visit('v', '2026-06-10')] };
    expect(merged(known, mine, theirs).renamed.visits).toEqual({});
    expect(merged(base, mine, { ...base, visits: [visit('v', '2026-06-10')] }).renamed.visits).toEqual({});
  });

  it('tell run sheets apart by when they were begun, and keep each once', () => {
    const [early, late] = [begunSheet('2026-06-10T08:00:00.000Z'), begunSheet('2026-06-11T08:00:00.000Z')];
    const begun = (job: Merged) => [job.job.programming?.begunAt, job.job.pastSheets.map((s) => s.begunAt)];
    expect(begun(merged(base, { ...base, programming: late }, { ...base, programming: early }))).toEqual([late.begunAt, [early.begunAt]]);
    expect(begun(merged(base, { ...base, programming: late, pastSheets: [early] }, { ...base, programming: early }))).toEqual([late.begunAt, [early.begunAt]]);
    expect(begun(merged(base, { ...base, programming: early }, { ...base, programming: late, pastSheets: [late] }))).toEqual([late.begunAt, [early.begunAt]]);
    expect(begun(merged(base, { ...base, programming: early }, base))).toEqual([early.begunAt, []]);
  });
});
