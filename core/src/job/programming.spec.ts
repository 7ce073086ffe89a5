import { readFileSync } from 'node:fs';
import { parameterFor, type DeviceValues, type Role } from '../card';
import { devicesOf } from '../settings';
import { seeded, wholeTeasel } from '../testing/fixtures';
import { standingOf, type SheetStep } from '../runsheet';
import { findFindings } from '../findings';
import { deriveSettings } from '../settings';
import {
  aimAt,
  answerStep,
  beginProgramming,
  changedSince,
  endProgramming,
  jobSchema,
  jobVersion,
  lastSnapshot,
  migrateJob,
  noteFound,
  noteTrouble,
  openStops,
  readJob,
  sheetOf,
  showStep,
  stopsThatStay,
  undoAnswer,
  type Doing,
  type Job,
} from './index';
import { rounds } from '../testing/rounds';

let minute = 0;
const doing = (more: Partial<Doing> = {}): Doing => ({ at: new Date(Date.UTC(2026, 5, 9, 8, minute++)).toISOString(), by: 'KM', way: 'display', ...more });
const begin = (job: Job = wholeTeasel()): Job => beginProgramming(job, doing(), 'meter');
const present = (job: Job, id: string): DeviceValues => devicesOf(job).find((d) => d.id === id)?.present ?? {};
const stepOf = (job: Job, id: string): SheetStep => {
  const step = sheetOf(job).steps.find((s) => s.id === id);
  if (!step) throw new Error(`no step ${id}`);
  return step;
};
/** Answers a step as somebody does for whom everything goes well. */
function well(job: Job, id: string): Job {
  const step = stepOf(job, id);
  const values = Object.fromEntries((step.looks ?? []).flatMap((l) => (l.want === null ? [] : [[l.role, l.want]])));
  return answerStep(job, id, doing(), {
    state: 'done',
    ...(step.value ? { reading: step.value.to } : {}),
    ...(step.kind === 'persist' ? { values } : {}),
    ...(step.kind === 'identify' ? { reading: step.expects ?? '' } : {}),
  });
}
const keyed = (job: Job, device: string): Job =>
  sheetOf(job)
    .steps.filter((s) => s.device === device && ['edit', 'commit'].includes(s.kind))
    .reduce((next, s) => well(next, s.id), job);

describe('a run sheet under way', () => {
  it('writes what is read back into the job, and moves on', () => {
    const job = well(begin(), 'aft/edit/floatVoltage');
    expect(present(job, 'aft').floatVoltage).toBe(26.9);
    expect(job.programming?.at).toBe('aft/edit/equaliseVoltage');
    expect(job.programming?.answers.at(-1)).toEqual(
      jasmine.objectContaining({ step: 'aft/edit/floatVoltage', wanted: 26.9, reading: 26.9, by: 'KM', way: 'display' }),
    );
    expect(jobSchema.safeParse(job).success).toBeTrue();
  });

  it('keeps another value with its reason, and says so in the end', () => {
    const job = answerStep(begin(), 'aft/edit/floatVoltage', doing(), { state: 'done', reading: 26.8, reason: 'in its band' });
    expect(present(job, 'aft').floatVoltage).toBe(26.8);
    const fate = sheetOf(job).fates.find((f) => f.device === 'aft' && f.role === 'floatVoltage');
    expect([fate?.ends, fate?.because]).toEqual(['set', 'wanted 26.9\u00a0V: in its band']);
  });

  it('undoes answer after answer, back to where it began', () => {
    const start = begin();
    let job = start;
    for (const id of ['caution/shortCircuit', 'aft/edit/floatVoltage', 'aft/edit/absorbTime']) job = well(job, id);
    job = undoAnswer(job);
    expect(present(job, 'aft').absorbTime).toBeUndefined();
    expect(job.programming?.at).toBe('aft/edit/absorbTime');
    job = undoAnswer(undoAnswer(job));
    expect(present(job, 'aft')).toEqual(present(start, 'aft'));
    expect(job.programming?.answers).toEqual([]);
    expect(undoAnswer(job)).toBe(job);
  });

  it('takes firmware, comparison and passcode into the job', () => {
    let job = begin();
    job = answerStep(job, 'aft/identify', doing(), { state: 'done', reading: '3.4' });
    job = answerStep(job, 'aft/compare', doing(), { state: 'done', meterV: 26.6, displayV: 26.7 });
    job = answerStep(job, 'aft/passcode', doing(), { state: 'done' });
    const aft = job.system.chargers.find((c) => c.id === 'aft');
    expect([aft?.firmware, aft?.passcodeChanged, aft?.displayReadings.at(-1)]).toEqual(['3.4', true, { meterV: 26.6, displayV: 26.7 }]);
    // A comparison at the same volts takes the place of the one before.
    const again = answerStep(job, 'aft/compare', doing(), { state: 'done', meterV: 26.65, displayV: 26.66 });
    expect(again.system.chargers.find((c) => c.id === 'aft')?.displayReadings.length).toBe(1);
    expect(stepOf(again, 'aft/passcode')).toBeDefined();
    expect(job.programming?.answers.length).toBe(3);
  });

  it('undone, firmware, comparison, passcode, sensor and what was read off are as they were', () => {
    const base = wholeTeasel();
    const only: Job = { ...base, cards: base.cards.map((c) => (c.id === 'varrow-s45' ? { ...c, sensor: { ...c.sensor, usedFor: ['compensation'] } } : c)) };
    const start = begin(only);
    const aft = (job: Job) => job.system.chargers.find((c) => c.id === 'aft');
    let job = answerStep(start, 'aft/identify', doing(), { state: 'done', reading: '9.9' });
    job = answerStep(job, 'aft/compare', doing(), { state: 'done', meterV: 26.6, displayV: 26.9 });
    job = answerStep(job, 'aft/compare', doing(), { state: 'done', meterV: 26.6, displayV: 26.8 });
    job = answerStep(job, 'aft/readOff', doing(), { state: 'done', values: { absorbTime: 90 } });
    job = answerStep(job, 'aft/sensor', doing(), { state: 'done' });
    expect(aft(job)?.sensor.fitted).toBeFalse();
    job = answerStep(job, 'aft/passcode', doing(), { state: 'done' });
    job = answerStep(job, 'monitor/identify', doing(), { state: 'done', reading: '3.0' });
    expect(job.system.companions[0]?.firmware).toBe('3.0');
    expect(jobSchema.safeParse(job).success).toBeTrue();
    while ((job.programming?.answers.length ?? 0) > 0) job = undoAnswer(job);
    expect(job.system).toEqual(start.system);
    expect(job.programming?.found).toEqual(start.programming?.found ?? {});
    expect(job.snapshots).toEqual(start.snapshots);
  });

  it('a comparison moves the values, and answers to the old ones stand open again', () => {
    let job = well(begin(), 'aft/edit/floatVoltage');
    job = answerStep(job, 'aft/compare', doing(), { state: 'done', meterV: 26.6, displayV: 26.9 });
    const place = sheetOf(job).steps.findIndex((s) => s.id === 'aft/edit/floatVoltage');
    expect(standingOf(sheetOf(job), job.programming!).answered[place]).toBeFalse();
    expect(stepOf(job, 'aft/edit/floatVoltage').value?.to).toBe(27.2);
  });

  it('what is read off first counts as found, and can be put back', () => {
    const job = answerStep(begin(), 'aft/readOff', doing(), { state: 'done', values: { absorbTime: 90, batteryType: 'sealed' } });
    expect(job.programming?.found['aft']?.absorbTime).toBe(90);
    expect(present(job, 'aft').absorbTime).toBe(90);
    expect(stepOf(job, 'aft/edit/absorbTime').value).toEqual(jasmine.objectContaining({ from: 90, readOff: true }));
    expect(lastSnapshot(job, 'aft')?.verified).toBe('readOff');
    const back = aimAt(well(job, 'aft/edit/absorbTime'), 'putBack');
    expect(sheetOf(back).steps.find((s) => s.id === 'back/aft/edit/absorbTime')?.value?.to).toBe(90);
  });

  it('a power cut that shows every value is kept as a snapshot', () => {
    const job = well(keyed(begin(), 'aft'), 'aft/persist');
    const kept = lastSnapshot(job, 'aft', ['powerCycle']);
    expect(kept?.values.floatVoltage).toBe(26.9);
    expect(kept?.by).toBe('KM');
    expect(job.programming?.trouble).toEqual([]);
    // Undone, the snapshot that rests on it goes too.
    expect(lastSnapshot(undoAnswer(job), 'aft', ['powerCycle'])).toBeNull();
  });

  it('a power cut that shows the old value opens its edit, the save and the proof again', () => {
    const ready = keyed(begin(), 'aft');
    const looks = stepOf(ready, 'aft/persist').looks ?? [];
    const values = Object.fromEntries(looks.map((l) => [l.role, l.role === 'floatVoltage' ? 27.6 : (l.want ?? 0)]));
    const job = answerStep(ready, 'aft/persist', doing(), { state: 'done', values });
    const sheet = sheetOf(job);
    const open = sheet.steps.filter((s, i) => s.device === 'aft' && standingOf(sheet, job.programming!).answered[i] === false).map((s) => s.id);
    expect(open).toEqual(jasmine.arrayContaining(['aft/edit/floatVoltage', 'aft/commit', 'aft/persist']));
    expect(open).not.toContain('aft/edit/absorbTime');
    expect(job.programming?.at).toBe('aft/edit/floatVoltage');
    expect(present(job, 'aft').floatVoltage).toBe(27.6);
    expect(job.programming?.trouble.at(-1)?.text).toContain('Hold level reads 27.6\u00a0V instead of 26.9\u00a0V');
    expect(lastSnapshot(job, 'aft', ['powerCycle'])).toBeNull();
  });

  it('a value that stood already and is found otherwise gets an edit of its own', () => {
    const ready = keyed(begin(), 'aft');
    expect(sheetOf(ready).steps.some((s) => s.id === 'aft/edit/compensationSlope')).toBeFalse();
    const values = Object.fromEntries((stepOf(ready, 'aft/persist').looks ?? []).map((l) => [l.role, l.role === 'compensationSlope' ? -18 : (l.want ?? 0)]));
    const job = answerStep(ready, 'aft/persist', doing(), { state: 'done', values });
    expect(job.programming?.at).toBe('aft/edit/compensationSlope');
    expect(stepOf(job, 'aft/edit/compensationSlope').value?.from).toBe(-18);
  });

  it('skips with a reason, shows any step, and leaves what it does not know as it is', () => {
    const job = answerStep(begin(), 'aft/edit/floatVoltage', doing(), { state: 'skipped', reason: 'no key' });
    expect(present(job, 'aft').floatVoltage).toBe(27.6);
    expect(sheetOf(job).fates.find((f) => f.device === 'aft' && f.role === 'floatVoltage')?.ends).toBe('open');
    expect(showStep(job, 'tools').programming?.at).toBe('tools');
    expect(answerStep(job, 'nobody/edit/x', doing(), { state: 'done' })).toBe(job);
    expect(noteTrouble(job, { id: 'tools', device: null }, doing().at, 'dropped the spanner').programming?.trouble.length).toBe(1);
  });

  it('ended without a power cut, what was keyed is kept as read back only', () => {
    const job = endProgramming(keyed(begin(), 'aft'), doing());
    expect(job.programming?.endedAt).not.toBeNull();
    expect(lastSnapshot(job, 'aft')?.verified).toBe('readBack');
    expect(lastSnapshot(job, 'fore')).toBeNull();
  });

  it('a later visit sees what was changed since, and what was not', () => {
    let job = endProgramming(well(keyed(begin(), 'aft'), 'aft/persist'), doing());
    expect(changedSince(job)).toEqual([]);
    job = noteFound(job, 'aft', doing({ way: 'wire' }), { ...present(job, 'aft'), floatVoltage: 27.4 });
    expect(changedSince(job).map((c) => [c.device, c.role, c.left, c.now])).toEqual([['aft', 'floatVoltage', 26.9, 27.4]]);
    const next = beginProgramming(job, doing(), 'meter');
    // What was answered then stays with the job.
    expect(next.pastSheets.map((s) => s.answers.length)).toEqual([job.programming?.answers.length ?? 0]);
    expect(next.system.chargers.find((c) => c.id === 'aft')?.lastVisit?.values.floatVoltage).toBe(26.9);
    // Keying it right is not a change by somebody else.
    const mended = well(next, 'aft/edit/floatVoltage');
    expect(changedSince(mended).map((c) => c.now)).toEqual([27.4]);
    expect(changedSince(endProgramming(well(keyed(next, 'aft'), 'aft/persist'), doing()))).toEqual([]);
  });

  it('of random answers, skips, undos and comparisons stays a valid job whose notes are what was read', () => {
    const random = seeded(11);
    for (let n = 0; n < rounds(20); n++) {
      let job = begin();
      for (let i = 0; i < 40; i++) {
        const { steps } = sheetOf(job);
        const step = steps[Math.floor(random() * steps.length)]!;
        const r = random();
        if (r < 0.15) job = undoAnswer(job);
        else if (r < 0.25) job = answerStep(job, step.id, doing(), { state: 'skipped', reason: 'x' });
        else if (step.kind === 'compare') job = answerStep(job, step.id, doing(), { state: 'done', meterV: 26 + random(), displayV: 26 + random() });
        else job = well(job, step.id);
      }
      expect(jobSchema.safeParse(job).success).toBeTrue();
      for (const d of devicesOf(job)) {
        const card = job.cards.find((c) => c.id === d.card)!;
        for (const role of Object.keys(d.present) as Role[]) expect(parameterFor(card, role)).toBeDefined();
      }
    }
  });
});

describe('the gate', () => {
  const today = '2026-06-09';
  const stops = (job: Job) => {
    const plan = deriveSettings(job);
    const findings = findFindings(plan, today);
    return { open: openStops(findings, job).map((f) => f.code), stay: stopsThatStay(job, plan, findings, today).map((f) => f.code) };
  };
  it('lets keying-in begin where it is what mends a stop, and not where it is not', () => {
    const { open, stay } = stops(wholeTeasel());
    expect(open).toContain('presentOutsideBand');
    expect(stay).not.toContain('presentOutsideBand');
    expect(stay).toContain('coldProtection');
  });
});

describe('a job of version 6', () => {
  it('opens unchanged, with no guided tests', () => {
    const text = readFileSync(new URL('../testing/job-version-6.json', import.meta.url), 'utf8');
    const job = readJob(text);
    if (!job.ok) throw new Error(job.problems[0]?.text);
    expect(job.value).toEqual({ ...(JSON.parse(text) as typeof job.value), version: jobVersion, tests: [], visits: [], recheckMonths: 12 });
  });
});

describe('a job of version 5', () => {
  it('opens with no run sheet and no snapshots', () => {
    const text = readFileSync(new URL('../testing/job-version-5.json', import.meta.url), 'utf8');
    const migrated = migrateJob(JSON.parse(text));
    expect(migrated.ok && [migrated.value['programming'], migrated.value['snapshots'], migrated.value['version']]).toEqual([null, [], jobVersion]);
    const job = readJob(text);
    expect(job.ok).toBeTrue();
    // Its cards know nothing of keys or registers: the sheet still has every step.
    if (job.ok) expect(sheetOf(begin(job.value)).steps.length).toBeGreaterThan(60);
  });
});
