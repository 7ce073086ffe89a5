import { readFileSync } from 'node:fs';
import { cardSchema, parameterFor, type Card, type Role, keyStroke } from '../card';
import { editPlan } from '../edits';
import { deriveSettings, devicesOf, targetsOf } from '../settings';
import { rookMoss, seeded, wholeTeasel, withCharger, withSystem } from '../testing/fixtures';
import { readJob, type Job } from '../job';
import { cautionsOf, isPlain, nextOpen, runSheet, standingOf, valuesAfter, type Answer, type Programming, type RunSheet } from './index';

const demo = (name: string): Job => {
  const read = readJob(readFileSync(new URL(`../../../demo/${name}.job.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(name);
  return read.value;
};
const jobs = { launch: wholeTeasel(), mast: rookMoss(), hut: demo('skarrow'), stage: demo('tumbler') } as const;
const sheetFor = (job: Job, record: Programming | null = null): RunSheet => runSheet(deriveSettings(job), record);
const ids = (sheet: RunSheet): string[] => sheet.steps.map((s) => s.id);
const begun = (job: Job, more: Partial<Programming> = {}): Programming => ({
  begunAt: '2026-06-09T08:00:00.000Z',
  endedAt: null,
  by: 'KM',
  instrument: 'meter',
  aim: 'set',
  found: Object.fromEntries(devicesOf(job).map((d) => [d.id, d.present])),
  answers: [],
  at: null,
  trouble: [],
  ...more,
});
const answer = (step: string, more: Partial<Answer> = {}): Answer => ({
  step,
  state: 'done',
  at: '2026-06-09T09:00:00.000Z',
  by: 'KM',
  way: 'display',
  ...more,
});

describe('the run sheet', () => {
  for (const [name, job] of Object.entries(jobs)) {
    it(`${name}: has every edit of the plan in its order, between waking and proof, with ids of their own`, () => {
      const sheet = sheetFor(job);
      const plan = deriveSettings(job);
      expect(new Set(ids(sheet)).size).toBe(sheet.steps.length);
      for (const d of devicesOf(plan.input)) {
        const edits = editPlan(plan, d.id);
        if (!edits) continue;
        const own = sheet.steps.filter((s) => s.device === d.id);
        expect(own.filter((s) => s.kind === 'edit').map((s) => [s.value?.role, s.value?.to]))
          .withContext(d.id)
          .toEqual(edits.steps.map((s) => [s.role, s.to]));
        const at = (kind: string): number => own.findIndex((s) => s.kind === kind);
        expect(at('wake')).toBeLessThan(at('identify'));
        if (edits.steps.length > 0) {
          expect(at('identify')).toBeLessThan(at('edit'));
          expect(own.findLastIndex((s) => s.kind === 'edit')).toBeLessThan(at('persist'));
        }
      }
    });

    it(`${name}: opens every source before anything is keyed, closes each after, and hands back last`, () => {
      const { steps, hazards } = sheetFor(job);
      const firstEdit = steps.findIndex((s) => s.kind === 'edit');
      const lastEdit = steps.findLastIndex((s) => s.kind === 'edit' || s.kind === 'persist');
      for (const source of job.system.chargers) {
        const open = steps.findIndex((s) => s.id === `open/${source.id}`);
        const shut = steps.findIndex((s) => s.id === `close/${source.id}`);
        expect(open).withContext(source.id).toBeGreaterThan(-1);
        expect(open).toBeLessThan(firstEdit);
        expect(shut).toBeGreaterThan(lastEdit);
        expect(hazards.find((h) => h.id === source.id)).toEqual(jasmine.objectContaining({ from: open, to: shut }));
      }
      expect(steps.at(-1)?.kind).toBe('handBack');
    });

    it(`${name}: every parameter of every card ends in one of six ways, with a reason`, () => {
      const { fates } = sheetFor(job);
      const plan = deriveSettings(job);
      const all = devicesOf(plan.input).flatMap((d) => job.cards.find((c) => c.id === d.card)?.parameters.map((p) => `${d.id}/${p.role}`) ?? []);
      expect(fates.map((f) => `${f.device}/${f.role}`).sort()).toEqual(all.sort());
      for (const f of fates) expect(f.because).withContext(`${f.device} ${f.role}`).not.toBe('');
    });
  }

  it('saves where the card has to be told to, and nowhere else; reads the level that is hidden first', () => {
    const steps = sheetFor(jobs.launch).steps;
    expect(steps.some((s) => s.id === 'fore/commit')).toBeTrue();
    expect(steps.some((s) => s.id === 'monitor/commit')).toBeFalse();
    const reach = steps.findIndex((s) => s.id === 'fore/reach');
    expect(steps[reach]?.says[0]).toContain('Up and Down together');
    expect(reach).toBeLessThan(steps.findIndex((s) => s.id === 'fore/edit/rechargeVoltage'));
    expect(sheetFor(jobs.mast).steps.some((s) => s.kind === 'reach')).toBeFalse();
  });

  it('tells of timeouts, second meanings of keys and sisters that differ', () => {
    const steps = sheetFor(jobs.launch).steps;
    const find = (id: string) => steps.find((s) => s.id === id);
    expect(find('alternator/edit/absorbTime')?.timeoutS).toBe(20);
    expect(find('dcdc/edit/absorbTime')?.timeoutS).toBeUndefined();
    expect(find('alternator/wake')?.notes.join(' ')).toContain('second meaning');
    expect(find('fore/edit/rechargeVoltage')?.notes.join(' ')).toContain('Not the same as on Solar aft');
    expect(find('fore/edit/absorbTime')?.notes.join(' ')).not.toContain('Not the same');
  });

  it('draws the keys of the card, and says nothing where the card has none', () => {
    const edit = sheetFor(jobs.launch).steps.find((s) => s.id === 'aft/edit/floatVoltage');
    expect(edit?.keys?.at(-2)).toEqual({ kind: 'shows', text: 'Hold level' });
    expect(keyStroke('Down: 4 times')).toEqual({ kind: 'key', text: 'Down', how: '4 times' });
    const bare = { ...jobs.launch, cards: jobs.launch.cards.map((c) => ({ ...c, parameters: c.parameters.map((p) => ({ ...p, keys: [] })) })) };
    expect(sheetFor(bare).steps.find((s) => s.id === 'aft/edit/floatVoltage')?.keys).toEqual([]);
  });

  it('keeps its steps while the notes of the job move on: what was found decides, not what is noted now', () => {
    const job = jobs.launch;
    const record = begun(job);
    const before = ids(sheetFor(job, record));
    const keyed = withCharger(job, 'aft', { present: { ...targetsOf(deriveSettings(job), 'aft') } });
    expect(ids(runSheet(deriveSettings(keyed), record))).toEqual(before);
    expect(ids(sheetFor(keyed))).not.toEqual(before);
  });

  it('moves the values to key when meter and display are compared, without losing a step', () => {
    const job = jobs.launch;
    const record = begun(job);
    const step = (j: Job, id: string) => runSheet(deriveSettings(j), record).steps.find((s) => s.id === id);
    const compared = withCharger(job, 'aft', { displayReadings: [{ meterV: 26.6, displayV: 26.8 }] });
    expect(step(job, 'aft/edit/floatVoltage')?.value?.to).toBe(26.9);
    expect(step(compared, 'aft/edit/floatVoltage')?.value?.to).toBe(27.1);
  });

  it('an answer counts only while its step still wants the same', () => {
    const job = jobs.launch;
    const sheet = sheetFor(job);
    const id = 'aft/edit/floatVoltage';
    const place = sheet.steps.findIndex((s) => s.id === id);
    const with_ = (wanted: number): boolean => standingOf(sheet, begun(job, { answers: [answer(id, { wanted, reading: wanted })] })).answered[place] === true;
    expect(with_(26.9)).toBeTrue();
    expect(with_(27.3)).toBeFalse();
  });

  it('goes to the next open step, round to those left behind, and ends', () => {
    const job = jobs.mast;
    const sheet = sheetFor(job);
    const list = ids(sheet);
    const done = (...steps: string[]): Programming =>
      begun(job, { answers: steps.map((s) => answer(s, { wanted: sheet.steps.find((x) => x.id === s)?.value?.to })) });
    expect(nextOpen(sheet, done(list[0]!), list[0]!)).toBe(list[1]!);
    expect(nextOpen(sheet, done(...list.slice(1)), list.at(-1)!)).toBe(list[0]!);
    expect(nextOpen(sheet, done(...list), list.at(-1)!)).toBeNull();
    expect(standingOf(sheet, done(...list))).toEqual(jasmine.objectContaining({ open: 0, skipped: 0, at: list.length }));
  });

  it('puts back only what was touched and noted, and closes only what was opened', () => {
    const job = jobs.launch;
    const answers = [
      answer('open/aft'),
      answer('aft/edit/floatVoltage', { wanted: 26.9, reading: 26.9 }),
      answer('aft/edit/absorbTime', { wanted: 40, reading: 40 }),
    ];
    const back = sheetFor(job, begun(job, { aim: 'putBack', answers }));
    const edits = back.steps.filter((s) => s.kind === 'edit');
    expect(edits.map((s) => [s.id, s.value?.to])).toEqual([['back/aft/edit/floatVoltage', 27.6]]);
    expect(ids(back)).toContain('back/aft/commit');
    expect(back.steps.filter((s) => s.kind === 'close').map((s) => s.id)).toEqual(['back/close/aft']);
    // What was opened on the way there is still off on the way back.
    expect(back.hazards.map((h) => [h.id, h.from, h.to])).toEqual([['aft', 0, back.steps.findIndex((s) => s.id === 'back/close/aft')]]);
    expect(sheetFor(job, begun(job, { aim: 'putBack' })).steps.map((s) => s.id)).toEqual(['back/handBack']);
  });

  it('asks for balance and equal strings before a first charge, and not later', () => {
    const bank = (firstCharge: Job['system']['bank']['firstCharge']): Job =>
      withSystem(jobs.launch, { bank: { ...jobs.launch.system.bank, ...(firstCharge ? { firstCharge } : {}) } });
    expect(ids(sheetFor(bank({ topBalanced: false, stringVolts: [] })))).toEqual(jasmine.arrayContaining(['balance', 'strings']));
    expect(ids(sheetFor(bank({ topBalanced: true, stringVolts: [] })))).not.toContain('balance');
    expect(ids(sheetFor(bank(undefined)))).not.toContain('strings');
  });

  it('unplugs or keeps the sensor by what it serves, and asks for the passcode only where one is known', () => {
    const launch = sheetFor(jobs.launch).steps;
    expect(launch.find((s) => s.id === 'fore/sensor')?.title).toContain('Keep');
    expect(launch.find((s) => s.id === 'dcdc/sensor')?.title).toContain('no temperature sensor');
    const only: Card[] = jobs.launch.cards.map((c) => (c.id === 'varrow-s45' ? { ...c, sensor: { ...c.sensor, usedFor: ['compensation'] } } : c));
    expect(sheetFor({ ...jobs.launch, cards: only }).steps.find((s) => s.id === 'fore/sensor')?.title).toContain('Unplug');
    expect(launch.some((s) => s.id === 'aft/passcode')).toBeTrue();
    expect(launch.some((s) => s.id === 'fore/passcode')).toBeFalse();
    expect(launch.some((s) => s.id === 'monitor/passcode')).toBeFalse();
  });

  it('links a follower, keys nothing it inherits, and shows what cannot be keyed in any order', () => {
    const hut = sheetFor(jobs.hut).steps;
    expect(hut.some((s) => s.id === 'follower/link')).toBeTrue();
    expect(hut.some((s) => s.id === 'follower/edit/absorbVoltage')).toBeFalse();
    const locked: Job = {
      ...jobs.launch,
      overrides: [{ charger: 'dcdc', role: 'equaliseVoltage', value: 28.1, reason: 'asked', by: 'owner', date: '2026-06-09' }],
    };
    expect(
      sheetFor(locked)
        .steps.find((s) => s.id === 'dcdc/blocked')
        ?.says.join(' '),
    ).toContain('do not go together');
  });
});

describe('cautions', () => {
  const codes = (job: Job): string[] => cautionsOf(deriveSettings(job)).map((c) => c.code);
  it('speak of the hazards a system has, and of no other', () => {
    expect(codes(jobs.launch)).toEqual(['shortCircuit', 'array', 'alternator', 'loadDump', 'coldCells']);
    expect(codes(jobs.mast)).toEqual(jasmine.arrayContaining(['hydrogen', 'frozen', 'equalise']));
    expect(codes(jobs.mast)).not.toContain('coldCells');
    expect(codes(jobs.hut)).toContain('turbine');
    expect(codes(jobs.stage)).toContain('mains');
    expect(codes(withSystem(jobs.launch, { chargers: [] }))).toEqual(['shortCircuit', 'coldCells']);
  });
  it('name the volts of the array on a cold morning, and who may touch what is above 60 V', () => {
    const says = cautionsOf(deriveSettings(jobs.launch)).find((c) => c.code === 'array')?.says ?? '';
    expect(says).toMatch(/Up to 13\d\u00a0V/);
    expect(says).toContain('licensed');
  });
});

describe('values after answers', () => {
  it('follow what was read back, forget what a preset overwrote, and take what a power cut showed', () => {
    const { steps } = sheetFor(jobs.hut);
    const preset = steps.find((s) => (s.value?.overwrites.length ?? 0) > 0 && s.device === 'leader');
    const found = { absorbVoltage: 28, chargeCurrentLimit: 50 };
    if (!preset) throw new Error('the leader is set to its own figures by a type that overwrites others');
    const after = valuesAfter('leader', found, [answer(preset.id, { reading: 'own' })], steps);
    expect(after.absorbVoltage).toBeUndefined();
    expect(after.chargeCurrentLimit).toBe(50);
    expect(valuesAfter('leader', found, [answer('leader/persist', { values: { absorbVoltage: 29 } })], steps).absorbVoltage).toBe(29);
    expect(valuesAfter('leader', found, [answer('leader/edit/absorbVoltage', { state: 'skipped', reading: 31 })], steps)).toEqual(found);
  });

  it('of random answers in random order are those of the last answer to each step', () => {
    const random = seeded(7);
    const { steps } = sheetFor(jobs.launch);
    const edits = steps.filter((s) => s.kind === 'edit' && s.device === 'aft' && s.value?.overwrites.length === 0);
    for (let n = 0; n < 200; n++) {
      const answers: Answer[] = [];
      const want: Partial<Record<Role, number>> = {};
      for (let i = 0; i < 12; i++) {
        const step = edits[Math.floor(random() * edits.length)]!;
        const reading = Math.round(random() * 1000) / 10;
        answers.push(answer(step.id, { reading }));
        want[step.value!.role] = reading;
      }
      expect(valuesAfter('aft', {}, answers, steps)).toEqual(want);
    }
  });
});

describe('cards of the library', () => {
  it('lead to every entry by keys that the card names', () => {
    for (const id of [
      'hadrin-h80',
      'isk-t1',
      'murrel-ar-2',
      'ostrel-w12',
      'quern-r9',
      'tessick-d30',
      'tessick-m1',
      'varrow-p15',
      'varrow-s45',
      'varrow-s45-b',
    ]) {
      const card = cardSchema.parse(JSON.parse(readFileSync(new URL(`../../../library/cards/${id}.json`, import.meta.url), 'utf8')));
      const names = new Set(card.keys.map((k) => k.key));
      for (const p of card.parameters) {
        expect(p.keys).withContext(`${id} ${p.role}`).toContain(`[${p.label}]`);
        for (const stroke of p.keys.map(keyStroke))
          if (stroke.kind === 'key') expect(names.has(stroke.text)).withContext(`${id} ${p.role}: ${stroke.text}`).toBeTrue();
      }
      expect(parameterFor(card, 'absorbVoltage') === undefined || card.entry !== undefined)
        .withContext(id)
        .toBeTrue();
    }
  });
});

describe('a step that may be answered from a list', () => {
  const value = {
    role: 'floatVoltage',
    label: 'Float',
    from: 27.6,
    stands: '27.6 V',
    readOff: true,
    to: 26.9,
    unit: 'V',
    digits: 1,
    readBack: '26.9 V',
    temporary: false,
    overwrites: [],
  } as const;
  const step = { id: 'solo/edit/floatVoltage', kind: 'edit', device: 'solo', title: 'Float', says: [], notes: [], value } as const;

  it('is a value to key and read back; one with a hazard or in the way of the device is not', () => {
    expect(isPlain(step)).toBeTrue();
    expect(isPlain({ ...step, caution: 'The bank is live.' })).toBeFalse();
    expect(isPlain({ ...step, blocked: { code: 'x' } as never })).toBeFalse();
    const { value: _none, ...bare } = step;
    expect(isPlain(bare)).toBeFalse();
    expect(isPlain({ ...step, kind: 'commit' })).toBeFalse();
  });
});
