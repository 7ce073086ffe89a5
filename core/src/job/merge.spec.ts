import { randomFrom } from '../physics';
import { begunSheet, wholeTeasel } from '../testing/fixtures';
import { answerStep, beginProgramming, beginVisit, clashesOf, mergeJobs, noteFound, sameJob, type Job, type Merged, type MergeChoices } from './index';

const base = wholeTeasel();
const merged = (a: Job | null, mine: Job, theirs: Job, choices?: MergeChoices): Merged => {
  const result = mergeJobs(a, mine, theirs, choices);
  if (!result.ok) throw new Error(result.problems[0]?.text);
  return result.value;
};
const charger = (job: Job, id: string, patch: Partial<Job['system']['chargers'][number]>): Job => ({
  ...job,
  system: { ...job.system, chargers: job.system.chargers.map((c) => (c.id === id ? { ...c, ...patch } : c)) },
});
const float = (job: Job, id: string) => job.system.chargers.find((c) => c.id === id)?.present.floatVoltage;
const found = (job: Job, id: string, floatVoltage: number, minute: number): Job =>
  noteFound(job, id, { at: new Date(Date.UTC(2026, 5, 10, 8, minute)).toISOString(), by: 'KM', way: 'display' }, { floatVoltage });

/** One random edit of a kind; kinds touch different places. */
const edits: readonly ((job: Job, random: () => number) => Job)[] = [
  (job, r) => ({ ...job, name: `Launch ${Math.floor(r() * 1e6)}` }),
  (job, r) => ({ ...job, note: `Note ${Math.floor(r() * 1e6)}` }),
  (job, r) => charger(job, 'aft', { fuseA: 40 + Math.floor(r() * 60) }),
  (job, r) => charger(job, 'dcdc', { firmware: `2.${Math.floor(r() * 1e6)}` }),
  (job, r) => found(job, 'fore', 26 + Math.floor(r() * 10) / 10, Math.floor(r() * 59)),
  (job, r) => ({ ...job, schools: { ...job.schools, fullEveryDays: 1 + Math.floor(r() * 300) } }),
  (job, r) => ({ ...job, system: { ...job.system, site: { ...job.system.site, place: `Berth ${Math.floor(r() * 1e6)}` } } }),
  (job, r) =>
    beginVisit(job, { id: `visit-${Math.floor(r() * 1e6)}`, date: `2026-0${1 + Math.floor(r() * 9)}-1${Math.floor(r() * 9)}`, by: 'RT', purpose: 'Look' }),
];

describe('two copies of one job', () => {
  it('edited apart in different places come together without a question, whichever way round', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const random = randomFrom(seed);
      const order = edits.map((_, i) => i).sort(() => random() - 0.5);
      const half = Math.floor(random() * order.length);
      const apply = (kinds: readonly number[]): Job => kinds.reduce((job, k) => edits[k]?.(job, random) ?? job, base);
      const mine = apply(order.slice(0, half));
      const theirs = apply(order.slice(half));
      const one = merged(base, mine, theirs);
      const other = merged(base, theirs, mine);
      expect(one.conflicts).toEqual([]);
      expect(other.conflicts).toEqual([]);
      expect({ ...one.job, visits: [] }).toEqual({ ...other.job, visits: [] });
      for (const k of order) {
        const by = order.indexOf(k) < half ? mine : theirs;
        if (k === 0) expect(one.job.name).toBe(by.name);
        if (k === 2) expect(one.job.system.chargers.find((c) => c.id === 'aft')?.fuseA).toBe(by.system.chargers.find((c) => c.id === 'aft')?.fuseA);
        if (k === 4) expect([float(one.job, 'fore'), one.job.snapshots.length]).toEqual([float(by, 'fore'), 1]);
        if (k === 7) expect(one.job.visits).toEqual(by.visits);
      }
    }
  });

  it('merged with itself, or with what it comes from, is unchanged', () => {
    const mine = found({ ...base, name: 'Other' }, 'aft', 26.9, 3);
    for (const [a, b] of [
      [mine, mine],
      [mine, base],
    ] as const) {
      expect(merged(base, a, b).job).toEqual(mine);
      expect(merged(base, a, b).taken).toEqual([]);
    }
    expect(merged(base, base, mine).job).toEqual(mine);
  });

  it('asks where both changed the same thing, tells what it was, and lets mine stand until the other is chosen', () => {
    const mine = found(base, 'aft', 26.9, 3);
    const theirs = found(base, 'aft', 27.0, 5);
    const both = merged(base, mine, theirs);
    expect(both.conflicts).toEqual([
      {
        path: 'system/chargers/#aft/present/floatVoltage',
        label: 'Solar aft, as found, float',
        base: '27.6',
        mine: '26.9',
        theirs: '27',
      },
    ]);
    expect(float(both.job, 'aft')).toBe(26.9);
    expect(both.job.snapshots.map((s) => s.values.floatVoltage)).toEqual([26.9, 27]);
    expect(float(merged(base, mine, theirs, { 'system/chargers/#aft/present/floatVoltage': 'theirs' }).job, 'aft')).toBe(27);
  });

  it('a charger taken out here and changed there is asked about; one only taken out goes', () => {
    const without: Job = { ...base, system: { ...base.system, chargers: base.system.chargers.filter((c) => c.id !== 'dcdc') } };
    expect(merged(base, without, base).job.system.chargers.some((c) => c.id === 'dcdc')).toBeFalse();
    const changed = charger(base, 'dcdc', { fuseA: 33 });
    const asked = merged(base, without, changed);
    expect(asked.conflicts.map((c) => [c.label, c.mine])).toEqual([['DC-DC', 'not there']]);
    expect(merged(base, without, changed, { 'system/chargers/#dcdc': 'theirs' }).job.system.chargers.find((c) => c.id === 'dcdc')?.fuseA).toBe(33);
  });

  it('without a common ancestor everything that differs is asked, and what only one has is added', () => {
    const mine = found({ ...base, name: 'Mine' }, 'aft', 26.9, 3);
    const theirs = beginVisit({ ...base, name: 'Theirs' }, { id: 'v', date: '2026-06-10', by: 'RT', purpose: '' });
    const one = merged(null, mine, theirs);
    expect(one.conflicts.map((c) => c.path)).toEqual(['name', 'system/chargers/#aft/present/floatVoltage']);
    expect(one.conflicts.every((c) => c.base === undefined)).toBeTrue();
    expect([one.job.visits.length, one.job.snapshots.length]).toEqual([1, 1]);
  });

  it('two run sheets begun apart are both kept: the later under way, the earlier as a past one', () => {
    const one = merged(
      base,
      { ...base, programming: begunSheet('2026-06-10T08:00:00.000Z') },
      { ...base, programming: begunSheet('2026-06-11T08:00:00.000Z') },
    );
    expect([one.job.programming?.begunAt, one.job.pastSheets.map((s) => s.begunAt), one.conflicts]).toEqual([
      '2026-06-11T08:00:00.000Z',
      ['2026-06-10T08:00:00.000Z'],
      [],
    ]);
  });

  it('different things that happen to have one id are both kept, and what names them follows', () => {
    const log = (from: number, name: string): Job['logs'][number] => ({ id: 'day', name, instrument: 'monitor', from, to: from + 9, rows: 2 });
    const test = (begunAt: string, photos: string[]): Job['tests'][number] => ({
      id: 'chill-fore',
      code: 'chill',
      device: 'fore',
      begunAt,
      endedAt: null,
      by: 'KM',
      instrument: 'meter',
      grade: 'measured',
      answers: [],
      series: [],
      note: '',
      photos,
      log: 'day',
    });
    const photo = (bytes: number): Job['attachments'][number] => ({ id: 'photo', name: 'Photo', type: 'image/jpeg', bytes });
    const mine: Job = { ...base, logs: [log(0, 'Monday')], tests: [test('2026-06-10T08:00:00.000Z', ['photo'])], attachments: [photo(10)] };
    const theirs: Job = { ...base, logs: [log(100, 'Tuesday')], tests: [test('2026-06-11T08:00:00.000Z', ['photo'])], attachments: [photo(20)] };
    const one = merged(base, mine, theirs);
    expect(one.conflicts).toEqual([]);
    expect(one.renamed).toEqual({
      logs: { day: 'day-b' },
      attachments: { photo: 'photo-b' },
      tests: { 'chill-fore': 'chill-fore-b' },
      visits: {},
      devices: {},
    });
    expect(one.job.logs.map((l) => [l.id, l.name])).toEqual([
      ['day', 'Monday'],
      ['day-b', 'Tuesday'],
    ]);
    expect(one.job.tests.map((t) => [t.id, t.log, t.photos])).toEqual([
      ['chill-fore', 'day', ['photo']],
      ['chill-fore-b', 'day-b', ['photo-b']],
    ]);
    expect(merged(base, mine, mine).renamed.logs).toEqual({});
  });

  it('says so when what comes of it would be no valid job', () => {
    // Here the instrument goes, there a log is brought in that was taken with it.
    const mine: Job = { ...base, system: { ...base.system, instruments: base.system.instruments.filter((i) => i.id !== 'monitor') } };
    const theirs: Job = { ...base, logs: [{ id: 'day', name: 'Day', instrument: 'monitor', from: 0, to: 1, rows: 2 }] };
    const result = mergeJobs(base, mine, theirs);
    expect(!result.ok && result.problems[0]?.text).toContain('name one of the instruments');
  });

  it('are told by their id and the moment they were made, whatever number was put behind it', () => {
    expect(sameJob(base, { ...base, id: `${base.id}-2` })).toBeTrue();
    expect(sameJob(base, { ...base, createdAt: '2020-01-01T00:00:00Z' })).toBeFalse();
    expect(sameJob(base, { ...base, id: 'other' })).toBeFalse();
  });

  /** A copy to which a second solar charger was added, with what was done on it. */
  const withDevice = (name: string, card: string, value: number): Job => {
    const fore = base.system.chargers.find((c) => c.id === 'fore')!;
    const added: Job = {
      ...base,
      system: {
        ...base.system,
        chargers: [...base.system.chargers, { ...fore, id: 'bow', name, card, present: { floatVoltage: value } }],
        companions: base.system.companions.map((c) => ({ ...c, switches: [...c.switches, 'bow'] })),
      },
      overrides: [...base.overrides, { charger: 'bow', role: 'floatVoltage', value, reason: 'r', by: 't', date: '2026-06-10' }],
    };
    const doing = { at: '2026-06-10T09:00:00.000Z', by: 'KM', way: 'display' } as const;
    return answerStep(noteFound(beginProgramming(added, doing, 'meter'), 'bow', doing, { floatVoltage: value }), 'bow/edit/floatVoltage', doing, {
      state: 'done',
      reading: value,
    });
  };

  it('in which two devices were added apart under one id hold both, each with what was done on it', () => {
    const [one, two] = [base.cards[0]!.id, base.cards[1]!.id];
    const { job, renamed, taken } = merged(base, withDevice('Bow', one, 26.5), withDevice('Bow panel', two, 26.9));
    expect(renamed.devices).toEqual({ bow: 'bow-b' });
    expect(job.system.chargers.filter((c) => c.id.startsWith('bow')).map((c) => [c.id, c.name, c.card, c.present.floatVoltage])).toEqual([
      ['bow', 'Bow', one, 26.5],
      ['bow-b', 'Bow panel', two, 26.9],
    ]);
    expect(job.overrides.filter((o) => o.charger.startsWith('bow')).map((o) => [o.charger, o.value])).toEqual([
      ['bow', 26.5],
      ['bow-b', 26.9],
    ]);
    expect(job.snapshots.map((s) => [s.device, s.values.floatVoltage]).sort()).toEqual([
      ['bow', 26.5],
      ['bow-b', 26.9],
    ]);
    expect(job.programming?.answers.map((a) => a.step).sort()).toEqual(['bow-b/edit/floatVoltage', 'bow/edit/floatVoltage']);
    expect(
      Object.keys(job.programming?.found ?? {})
        .filter((id) => id.startsWith('bow'))
        .sort(),
    ).toEqual(['bow', 'bow-b']);
    expect(taken).toContain('Bow panel');
    // Two of one name are told apart by it.
    const alike = merged(base, withDevice('Bow', one, 26.5), withDevice('Bow', two, 26.9)).job.system.chargers;
    expect(alike.find((c) => c.id === 'bow-b')?.name).toBe('Bow, other copy');
  });

  it('in which one device was added to both is one, and what differs on it is a question; so is all of it without a common ancestor', () => {
    const card = base.cards[0]!.id;
    const once = merged(base, withDevice('Bow', card, 26.5), withDevice('Bow', card, 26.9));
    expect(once.job.system.chargers.filter((c) => c.id.startsWith('bow')).length).toBe(1);
    expect(once.conflicts.some((c) => c.path === 'system/chargers/#bow/present/floatVoltage' && c.mine === '26.5' && c.theirs === '26.9')).toBeTrue();
    const unknown = merged(null, withDevice('Bow', card, 26.5), withDevice('Bow panel', base.cards[1]!.id, 26.5));
    expect(unknown.conflicts.map((c) => c.path)).toContain('system/chargers/#bow/card');
  });

  it('in which two instruments were added apart under one id hold both, and the tests follow theirs', () => {
    const meter = (name: string): Job => ({
      ...base,
      system: { ...base.system, instruments: [...base.system.instruments, { ...base.system.instruments[0]!, id: 'clamp', name }] },
    });
    const theirs = meter('Clamp B');
    const { job, renamed } = merged(base, meter('Clamp A'), { ...theirs, system: { ...theirs.system, provingInstrument: 'clamp' } });
    expect([renamed.devices, job.system.provingInstrument]).toEqual([{ clamp: 'clamp-b' }, 'clamp-b']);
    expect(job.system.instruments.slice(-2).map((i) => i.name)).toEqual(['Clamp A', 'Clamp B']);
  });

  it('with more run sheets together than are held keep the newest, and name those left out', () => {
    const sheet = beginProgramming(base, { at: '2026-06-10T09:00:00.000Z', by: 'KM', way: 'display' }, 'meter').programming!;
    const past = (days: readonly number[]) =>
      days.map((day) => ({ ...sheet, begunAt: `2026-05-${String(day).padStart(2, '0')}T08:00:00.000Z`, endedAt: null }));
    const days = Array.from({ length: 26 }, (_, k) => k + 1);
    const [odd, even] = [days.filter((d) => d % 2 === 1), days.filter((d) => d % 2 === 0)];
    const { job, taken, conflicts } = merged(base, { ...base, pastSheets: past(odd) }, { ...base, pastSheets: past(even) });
    expect([conflicts, job.pastSheets.map((s) => Number(s.begunAt.slice(8, 10)))]).toEqual([[], days.slice(2)]);
    expect(taken.filter((t) => t.includes('left out'))).toEqual(['01', '02'].map((d) => `Run sheet of 2026-05-${d}, left out: only the newest 24 are held`));
    const all = merged(base, { ...base, pastSheets: past(odd.slice(0, 12)) }, { ...base, pastSheets: past(even.slice(0, 12)) });
    expect([all.job.pastSheets.length, all.taken.filter((t) => t.includes('left out'))]).toEqual([24, []]);
  });
});

describe('entries of a list made apart', () => {
  /** Both copies add one entry; each is an entry of its own where the second differs from the first in what tells entries apart. */
  const both = (list: 'choices' | 'accepted' | 'overrides' | 'snapshots', mine: object, theirs: object) =>
    merged({ ...base, [list]: [] }, { ...base, [list]: [mine] }, { ...base, [list]: [theirs] });
  const choice = { school: 'lithiumFloat', to: 'low', by: 't', reason: 'r', date: '2026-06-10' };
  const accepted = { code: 'arrayTooHigh', text: 'Too high.', reason: 'r', by: 't', date: '2026-06-10' };
  const override = { charger: 'aft', role: 'floatVoltage', value: 26.9, reason: 'r', by: 't', date: '2026-06-10' };
  const snapshot = { device: 'aft', at: '2026-06-10T09:00:00.000Z', date: '2026-06-10', by: 'KM', way: 'display', verified: 'readOff', values: {} };
  for (const [list, entry, changes, same] of [
    ['choices', choice, [{ school: 'equalise' }, { date: '2026-06-11' }, { to: 'none' }], { reason: 'other' }],
    ['accepted', accepted, [{ code: 'other' }, { text: 'Higher.' }], { reason: 'other' }],
    ['overrides', override, [{ charger: 'fore' }, { role: 'absorbVoltage' }], { reason: 'other' }],
    ['snapshots', snapshot, [{ device: 'fore' }, { at: '2026-06-10T10:00:00.000Z' }, { verified: 'readBack' }], { by: 'RT' }],
  ] as const)
    it(`of ${list} are two when they are about different things, and one with a question when they are not`, () => {
      for (const change of changes) {
        const { job, conflicts } = both(list, entry, { ...entry, ...change });
        expect([job[list].length, conflicts.length]).withContext(JSON.stringify(change)).toEqual([2, 0]);
      }
      const { job, conflicts } = both(list, entry, { ...entry, ...same });
      expect([job[list].length, conflicts.length]).toEqual([1, 1]);
    });

  it('in the words of a question a number, a yes and a long value are told as they are', () => {
    const flags = (besideShunt: boolean): Job => charger(base, 'aft', { besideShunt });
    expect(merged(null, flags(true), flags(false)).conflicts.map((c) => [c.path, c.mine, c.theirs])).toEqual([
      ['system/chargers/#aft/besideShunt', 'true', 'false'],
    ]);
    const long = (n: number) => merged(base, { ...base, note: 'x'.repeat(n) }, { ...base, note: 'y' }).conflicts[0]?.mine ?? '';
    expect([long(200).length, long(201).length]).toEqual([200, 200]);
  });
});

describe('an edit made on what somebody else has just changed', () => {
  const note = (text: string) => (job: Job) => ({ ...job, note: text });
  it('names what it puts its own value over, in words, and nothing else', () => {
    const theirs = charger(note('theirs')(base), 'aft', { fuseA: 71 });
    expect(clashesOf(base, note('mine')(theirs), theirs)).toEqual([
      { path: 'note', label: 'Note', base: base.note === '' ? 'empty' : base.note, mine: 'mine', theirs: 'theirs' },
    ]);
    expect(clashesOf(base, charger(theirs, 'aft', { fuseA: 72 }), theirs).map((c) => [c.path, c.mine, c.theirs])).toEqual([
      ['system/chargers/#aft/fuseA', '72', '71'],
    ]);
    expect(clashesOf(base, { ...theirs, name: 'Mine' }, theirs)).toEqual([]);
    expect(clashesOf(theirs, note('mine')(theirs), theirs)).toEqual([]);
  });
});
