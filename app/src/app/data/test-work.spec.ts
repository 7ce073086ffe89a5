import { TestBed } from '@angular/core/testing';
import { sampleJob, setUp, tearDown, until } from '../testing';
import type { Database } from './database';
import { JobBook } from './job-book';
import { JobStore } from './job-store';
import { TestWork } from './test-work';
import { WhoIsThere } from './who-is-there';

describe('guided tests of the job in view', () => {
  let db: Database;
  let store: JobStore;
  let work: TestWork;
  beforeEach(async () => {
    db = setUp();
    const id = await TestBed.inject(JobBook).add(sampleJob(), 'New');
    store = TestBed.inject(JobStore);
    work = TestBed.inject(TestWork);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
  });
  afterEach(async () => {
    await tearDown(db);
  });
  const tests = () => store.job()?.tests ?? [];

  it('are kept with who began them and by which instrument, under names of their own', () => {
    TestBed.inject(WhoIsThere).initials.set(' KM ');
    const [one, two] = [work.begin('display', 'fore'), work.begin('display', 'fore')];
    expect([one, two]).toEqual(['display-fore', 'display-fore-2']);
    expect(tests().map((t) => [t.id, t.code, t.device, t.by, t.instrument])).toEqual([
      ['display-fore', 'display', 'fore', 'KM', store.job()?.system.provingInstrument ?? ''],
      ['display-fore-2', 'display', 'fore', 'KM', store.job()?.system.provingInstrument ?? ''],
    ]);
  });

  it('take readings and answers, take them back, and end', () => {
    const id = work.begin('display', 'fore')!;
    work.read(id, 'read', { meterV: 26.6 });
    expect(tests()[0]?.series.map((r) => r.values)).toEqual([{ meterV: 26.6 }]);
    work.unread(id, tests()[0]?.series[0]?.at ?? '');
    expect(tests()[0]?.series).toEqual([]);
    work.answer(id, 'compare', { displayV: 26.7 });
    work.answer(id, 'other', {}, { skipped: 'no time' });
    expect(tests()[0]?.answers.map((a) => [a.step, a.skipped])).toEqual([
      ['compare', undefined],
      ['other', 'no time'],
    ]);
    // From a notebook: each with the time it was taken.
    work.read(id, 'read', { meterV: 26.5 }, '2026-01-02T08:00:00.000Z');
    work.answer(id, 'noted', { displayV: 26.7 }, { taken: '2026-01-02T08:05:00.000Z' });
    expect([tests()[0]?.series[0]?.at, tests()[0]?.answers.at(-1)?.at]).toEqual(['2026-01-02T08:00:00.000Z', '2026-01-02T08:05:00.000Z']);
    work.undo(id, 'noted');
    work.undo(id, 'other');
    expect(tests()[0]?.answers.map((a) => a.step)).toEqual(['compare']);
    work.note(id, { note: 'wind' });
    work.end(id);
    expect([tests()[0]?.note, typeof tests()[0]?.endedAt, work.refused()]).toEqual(['wind', 'string', null]);
  });

  it('say why something could not be kept, and lose nothing', () => {
    const id = work.begin('display', 'fore')!;
    work.note(id, { note: 'x'.repeat(5000) });
    expect(work.refused()).toContain('note');
    expect(tests()[0]?.note).not.toContain('xx');
    work.note(id, { note: 'short' });
    expect(work.refused()).toBeNull();
  });
});
