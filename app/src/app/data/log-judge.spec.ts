import { TestBed } from '@angular/core/testing';
import { proofBasis, type Job } from '@calm-keel/core/job';
import type { Log, LogReport } from '@calm-keel/core/proof';
import { sampleJob, setUp, tearDown, until } from '../testing';
import { Database } from './database';
import { JobBook } from './job-book';
import { JobStore } from './job-store';
import { LogJudge } from './log-judge';
import { LogWork } from './log-work';

const log: Log = { time: Float64Array.of(0, 10), offsetMinutes: 0, bankVolts: Float32Array.of(26, 26), chargers: {} };
const report: LogReport = { rows: 2, skipped: 0, firstSkipped: [], intervalSeconds: 10, gaps: [], notes: [] };

/** A worker that proves one requirement and counts how often it is asked. */
class FakeWork {
  asked: string[] = [];
  readonly api = {
    judge: (job: Job, _log: Log, _report: LogReport, instrument: string) => {
      this.asked.push(`${job.name} ${instrument}`);
      return Promise.resolve({ rows: [{ requirement: { code: 'neverAboveMaximum' }, verdict: 'pass', why: 'It held.' }] });
    },
  };
}

describe('judging logs in the background', () => {
  let db: Database;
  let work: FakeWork;
  let store: JobStore;

  beforeEach(async () => {
    work = new FakeWork();
    db = setUp(new Database(`judge-${Date.now()}-${Math.random()}`), [{ provide: LogWork, useValue: work }]);
    const job = { ...sampleJob(), logs: [{ id: 'day', name: 'Day', instrument: 'meter', from: 0, to: 10, rows: 2 }] };
    const id = await TestBed.inject(JobBook).add(job, 'New', [{ id: 'day', log, report }]);
    store = TestBed.inject(JobStore);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
    TestBed.inject(LogJudge);
    TestBed.tick();
  });
  afterEach(async () => {
    await tearDown(db);
  });
  const settled = async (times: number): Promise<void> => {
    const end = performance.now() + 4000;
    while (performance.now() < end && (work.asked.length < times || store.standing() === null)) {
      TestBed.tick();
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
  };

  it('keeps the verdicts with what they rest on, and the job stands by them', async () => {
    expect(store.standing()).toBeNull();
    await settled(1);
    const covered = store.covered().find((c) => c.requirement.code === 'neverAboveMaximum');
    expect([covered?.verdict, covered?.by?.kind, covered?.by?.why]).toEqual(['pass', 'log', 'It held.']);
    expect(store.standing()?.pass).toBe(1);
    expect(store.standing()?.fail).toBe(0);
    const row = (await db.verdicts.toArray())[0];
    expect(row?.basis).toBe(proofBasis(store.job()!, 'day'));
    expect(row?.verdicts).toEqual({ 'neverAboveMaximum/': 'pass' });
  });

  it('judges again after a change of the sheet, not after one of the name', async () => {
    await settled(1);
    store.edit('Rename', (job) => ({ ...job, name: 'Second' }));
    expect(store.standing()).not.toBeNull();
    store.edit('Change', (job) => ({ ...job, coverage: 3 }));
    expect(store.standing()).withContext('what was judged on other figures no longer counts').toBeNull();
    await settled(2);
    expect(store.standing()?.pass).toBe(1);
    expect(work.asked).toEqual(['Sample meter', 'Second meter']);
  });

  it('leaves a log whose samples are gone unjudged, without asking the worker', async () => {
    await settled(1);
    await db.logs.clear();
    store.edit('Change', (job) => ({ ...job, coverage: 3 }));
    await new Promise((resolve) => setTimeout(resolve, 1600));
    expect(work.asked.length).toBe(1);
    expect(store.standing()).toBeNull();
  });
});
