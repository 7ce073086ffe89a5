import { readFileSync } from 'node:fs';
import { plan, rookMoss, wholeTeasel } from '../testing/fixtures';
import {
  beginVisit,
  closeVisit,
  countWords,
  coverage,
  daysOf,
  deviceHistory,
  differencesBetween,
  dueOf,
  newJob,
  noteVisit,
  readJob,
  reopenVisit,
  settingChanges,
  stateOn,
  type Due,
  type Job,
} from './index';

const year = (): Job => {
  const job = readJob(readFileSync(new URL('../../../demo/teasel-year.job.json', import.meta.url), 'utf8'));
  if (!job.ok) throw new Error(job.problems[0]?.text);
  return job.value;
};
const at = (day: string, hour = 8): string => `${day}T${String(hour).padStart(2, '0')}:00:00.000Z`;
const shot = (day: string, floatVoltage: number, verified: Job['snapshots'][number]['verified'] = 'readBack', hour = 8): Job['snapshots'][number] => ({
  device: 'aft',
  at: at(day, hour),
  date: day,
  by: 'KM',
  way: 'display',
  verified,
  values: { floatVoltage },
});
const withShots = (...snapshots: Job['snapshots']): Job => ({ ...wholeTeasel(), snapshots });

describe('what stood on a device', () => {
  it('carries on what was known, and what a run sheet found counts as found at its beginning', () => {
    const job: Job = {
      ...withShots(shot('2026-02-01', 26.9, 'powerCycle', 12)),
      programming: {
        begunAt: at('2026-02-01'),
        endedAt: at('2026-02-01', 13),
        by: 'KM',
        instrument: 'meter',
        aim: 'set',
        found: { aft: { floatVoltage: 27.6, absorbVoltage: 28.4 } },
        answers: [],
        at: null,
        trouble: [],
      },
    };
    expect(deviceHistory(job, 'aft').map((s) => [s.source, s.values])).toEqual([
      ['found', { floatVoltage: 27.6, absorbVoltage: 28.4 }],
      ['keyed', { floatVoltage: 26.9, absorbVoltage: 28.4 }],
    ]);
    expect(stateOn(deviceHistory(job, 'aft'), '2026-01-31')).toBeNull();
  });

  it('a change that was found is not by this book; one that was keyed is, and one found and keyed back is none', () => {
    const changes = (job: Job, from = '2026-01-31', to = '2026-12-31') => settingChanges(job, from, to).map((c) => [c.from, c.to, c.byBook, c.at.slice(0, 10)]);
    const left = shot('2026-01-05', 26.9, 'powerCycle');
    expect(changes(withShots(left, shot('2026-06-01', 27.4, 'readOff')))).toEqual([[26.9, 27.4, false, '2026-06-01']]);
    expect(changes(withShots(left, shot('2026-06-01', 27.4, 'readBack')))).toEqual([[26.9, 27.4, true, '2026-06-01']]);
    // Seen again since: it was the first sight of it that counts.
    expect(changes(withShots(left, shot('2026-06-01', 27.4, 'readOff'), shot('2026-07-01', 27.4, 'powerCycle')))).toEqual([[26.9, 27.4, false, '2026-06-01']]);
    expect(changes(withShots(left, shot('2026-06-01', 27.4, 'readOff'), shot('2026-06-01', 26.9, 'powerCycle', 12)))).toEqual([]);
    expect(changes(withShots(left), '2025-01-01')).toEqual([]);
  });
});

describe('a year of visits', () => {
  it('lies in days, each with who came and what is on record, the newest first', () => {
    expect(daysOf(year()).map((d) => [d.date, d.visit?.purpose, d.by.join(' '), d.happenings.length > 0])).toEqual([
      ['2026-06-10', 'A year on', 'KM', true],
      ['2025-12-05', 'Cold protection', 'RT', true],
      ['2025-09-20', 'Before the autumn survey', 'KM', true],
      ['2025-06-12', 'First setting-up', 'KM', true],
    ]);
  });

  it('finds the forward charger’s float changed since, and not by this book', () => {
    const differences = differencesBetween(year(), '2025-06-12', '2026-06-10');
    expect(differences.map((d) => [d.subject, d.what, d.from.replaceAll('\u00a0', ' '), d.to.replaceAll('\u00a0', ' '), d.how])).toEqual([
      ['Solar fore', 'Hold level', '27.1 V', '27.4 V', 'elsewhere'],
    ]);
    expect(differencesBetween(year(), '2025-06-12', '2025-12-05')).toEqual([]);
  });

  it('tells other figures pinned and other choices made between two closed visits', () => {
    const job = year();
    const other: Job = {
      ...job,
      visits: job.visits.map((v) =>
        v.id === 'visit-3' && v.closed
          ? { ...v, closed: { ...v.closed, sheet: { ...v.closed.sheet, revision: 'E' }, schools: { ...v.closed.schools, topCharge: 'gentle' } } }
          : v,
      ),
    };
    expect(differencesBetween(other, '2025-09-20', '2025-12-05').map((d) => [d.subject, d.from, d.to, d.how])).toEqual([
      ['Maker’s sheet', 'rev D, 2026-02', 'rev E, 2026-02', 'choice'],
      ['Choice', 'full', 'gentle', 'choice'],
    ]);
  });

  it('a visit begun twice on one day is one; closed it keeps what counted, and opens again', () => {
    let job = beginVisit(wholeTeasel(), { id: 'a', date: '2026-06-10', by: 'KM', purpose: 'Look' });
    expect(beginVisit(job, { id: 'b', date: '2026-06-10', by: 'RT', purpose: '' })).toBe(job);
    job = noteVisit(job, 'a', { note: 'Dry bilge.' });
    const closed = closeVisit(job, plan(job), coverage(job, plan(job), []), ['one stop'], 'a', at('2026-06-10'));
    const kept = closed.visits[0]?.closed;
    expect([kept?.sheet.revision, kept?.targets['fore']?.absorbVoltage, kept?.present['aft']?.floatVoltage, kept?.open]).toEqual([
      'D',
      28.3,
      27.6,
      ['one stop'],
    ]);
    expect(Object.values(kept?.verdicts ?? {}).reduce((a, b) => a + b, 0)).toBe(coverage(job, plan(job), []).length);
    expect(reopenVisit(closed, 'a').visits[0]).toEqual({ ...job.visits[0]!, closed: null });
  });

  it('says counts in words and leaves out what is none', () => {
    expect(countWords({ pass: 9, fail: 2, inconclusive: 0, notTested: 1, stated: 3 })).toBe('9 proved, 3 stated, 1 not tested, 2 fail');
  });
});

describe('what is due', () => {
  const today = '2026-06-10';
  const codes = (job: Job, on = today, library: Parameters<typeof dueOf>[3] = []): Record<string, Due> =>
    Object.fromEntries(dueOf(job, coverage(job, plan(job), []), on, library).map((d) => [d.code, d]));

  it('evidence is to be taken again when it has grown old, and not what is only on record', () => {
    const without = codes(wholeTeasel());
    expect(without['evidenceAge']).toBeUndefined();
    const iced: Job = { ...year(), snapshots: year().snapshots.filter((s) => s.at < '2026') };
    expect(codes(iced)['evidenceAge']).toEqual(jasmine.objectContaining({ on: '2026-12-05', title: 'Prove Solar fore again' }));
    expect(codes({ ...iced, recheckMonths: 3 })['evidenceAge']?.on).toBe('2026-03-05');
  });

  it('what only the cold can show waits for the cold of its hemisphere', () => {
    expect(codes(wholeTeasel())['coldSeason']?.on).toBe('2026-12-01');
    expect(codes(wholeTeasel(), '2026-12-05')['coldSeason']?.on).toBe('2027-12-01');
    const south: Job = { ...wholeTeasel(), system: { ...wholeTeasel().system, site: { ...wholeTeasel().system.site, latitude: -41 } } };
    expect(codes(south)['coldSeason']?.on).toBe('2027-06-01');
    expect(codes(newJob('a', 'A', at(today)))['coldSeason']).toBeUndefined();
  });

  it('equalising is counted from the last time it was noted; a lithium bank is never to be equalised', () => {
    const job = rookMoss();
    expect(codes(job)['equalise']?.on).toBe('2026-09-01');
    const equalised = noteVisit(beginVisit(job, { id: 'v', date: '2026-06-10', by: 'KM', purpose: '' }), 'v', { equalised: true });
    expect(codes(equalised)['equalise']?.on).toBe('2026-09-08');
    expect(codes(wholeTeasel())['equalise']).toBeUndefined();
  });

  it('packs without a balancer are due as often as was said, counted from the last time it was noted; lead has no balance charge', () => {
    const balanceEveryDays = 90;
    const with_ = (job: Job): Job => ({ ...job, system: { ...job.system, bank: { ...job.system.bank, balanceEveryDays } } });
    expect(codes(wholeTeasel())['balance']).toBeUndefined();
    expect(codes(with_(rookMoss()))['balance']).toBeUndefined();
    const since = wholeTeasel().createdAt.slice(0, 10);
    expect(codes(with_(wholeTeasel()))['balance']?.why).toContain(`never, counted from ${since}`);
    const balanced = noteVisit(beginVisit(with_(wholeTeasel()), { id: 'v', date: '2026-06-10', by: 'KM', purpose: '' }), 'v', { balanced: true });
    expect(codes(balanced)['balance']?.on).toBe('2026-09-08');
    expect(codes(balanced)['balance']?.why).toContain('last on record on 2026-06-10');
  });

  it('a sheet that moved on is due now; an older one is not', () => {
    const { sheet } = wholeTeasel();
    expect(codes(wholeTeasel())['newerSheet']).toBeUndefined();
    expect(codes(wholeTeasel(), today, [{ ...sheet, id: 'e', revision: 'E', date: '2026-05' }])['newerSheet']?.on).toBe(today);
  });

  it('a site left alone and a meter’s calibration have their day; the soonest stands first', () => {
    const job = wholeTeasel();
    const alone: Job = {
      ...beginVisit(job, { id: 'v', date: '2026-01-31', by: 'KM', purpose: '' }),
      system: {
        ...job.system,
        site: { ...job.system.site, unattendedMonths: 1 },
        instruments: job.system.instruments.map((i) => ({ ...i, calibrationDue: '2026-05' })),
      },
    };
    const due = dueOf(alone, coverage(alone, plan(alone), []), today);
    expect(due.map((d) => d.on)).toEqual(due.map((d) => d.on).sort());
    // The last of January and a month is the last of February.
    expect(due.find((d) => d.code === 'unattended')?.on).toBe('2026-02-28');
    expect(due.find((d) => d.code === 'calibration')?.on).toBe('2026-05-01');
    expect(codes(job)['unattended']).toBeUndefined();
  });
});
