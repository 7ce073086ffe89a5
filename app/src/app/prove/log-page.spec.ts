import { Component, ChangeDetectionStrategy } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { jobSchema, type Job } from '@calm-keel/core/job';
import type { Explanation, Log, LogReport } from '@calm-keel/core/proof';
import { good } from '@calm-keel/core/quantity';
import { Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { LogWork } from '../data/log-work';
import { sampleJob, setUp, tearDown, until } from '../testing';
import { Announcer } from '../ui/announcer';
import { LogPage } from './log-page';
import { MappingPage } from './mapping-page';
import { oneLog } from './prove.routes';

@Component({ selector: 'ck-empty', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class Empty {}

const at = Date.UTC(2026, 5, 14, 5) / 1000;
const log = (volts: number): Log => ({
  time: Float64Array.from({ length: 7 }, (_, i) => at + i * 600),
  offsetMinutes: 60,
  bankVolts: Float32Array.from({ length: 7 }, (_, i) => volts + i / 10),
  batteryC: Float32Array.from({ length: 7 }, (_, i) => (i === 6 ? NaN : 5)),
  chargers: {},
});
const report: LogReport = {
  rows: 7,
  skipped: 2,
  firstSkipped: [{ line: 3, why: 'has no time' }],
  intervalSeconds: 600,
  gaps: [],
  notes: ['Read as local time.'],
};
const told = (offset: number, title: string): Explanation =>
  ({
    kind: 'odd',
    code: 'x',
    charger: null,
    at: at + offset,
    from: at,
    to: at + 3600,
    title,
    cause: `${title}.`,
    counted: [],
    means: '',
    sure: '',
  }) as unknown as Explanation;

/** A worker that answers when a spec lets it, with one thing told of each log. */
class SlowWork {
  readonly waiting: (() => void)[] = [];
  readonly proxy = <T>(f: T): T => f;
  fails = false;
  rows: readonly unknown[] = [];
  readonly api = {
    view: async (_job: Job, shown: Log) => {
      await new Promise<void>((resolve) => this.waiting.push(resolve));
      if (this.fails) throw new Error('out of memory');
      const first = shown.bankVolts[0] ?? 0;
      return {
        proof: { rows: this.rows, told: [told(600, `Of ${first.toFixed(0)} V`), told(1200, 'Later')], stages: [], notes: [] },
        volts: { time: Float64Array.from(shown.time), value: Float32Array.from(shown.bankVolts) },
        chargers: [],
      };
    },
    judge: () => new Promise(() => undefined),
    look: (_file: Blob, _name: string) => Promise.resolve(good({ tables: [], leftOut: [] })),
  };
}

describe('one log on its page', () => {
  let db: Database;
  let work: SlowWork;
  let store: JobStore;
  let fixture: ComponentFixture<LogPage>;
  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const text = (): string => host().textContent.replace(/\s+/g, ' ');
  const shows = (what: string): Promise<void> =>
    until(() => {
      TestBed.tick();
      return text().includes(what);
    }, `the page shows ${what}`);
  const answer = async (): Promise<void> => {
    await until(() => {
      TestBed.tick();
      return work.waiting.length > 0;
    }, 'the worker is asked');
    for (const go of work.waiting.splice(0)) go();
  };
  async function open(logs: readonly (readonly [id: string, volts: number | null])[], inputs: Record<string, string> = {}): Promise<void> {
    work = new SlowWork();
    db = setUp(new Database(`log-page-${Date.now()}-${Math.random()}`), [
      provideRouter([{ path: '**', component: Empty }]),
      { provide: LogWork, useValue: work },
    ]);
    const job = sampleJob();
    const entries = logs.map(([id], i) => ({
      id,
      name: `${id}.csv`,
      instrument: job.system.provingInstrument,
      from: at + i * 86_400,
      to: at + i * 86_400 + 3600,
      rows: 7,
    }));
    const id = await TestBed.inject(JobBook).add(jobSchema.parse({ ...job, logs: entries }), 'New');
    for (const [name, volts] of logs) if (volts !== null) await TestBed.inject(JobBook).putLog({ jobId: id, id: name, log: log(volts), report });
    store = TestBed.inject(JobStore);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
    fixture = TestBed.createComponent(LogPage);
    for (const [key, value] of Object.entries(inputs)) fixture.componentRef.setInput(key, value);
    fixture.detectChanges();
  }
  const press = async (name: string): Promise<void> => {
    const button = [...host().querySelectorAll<HTMLElement>('button, a')].find((b) => b.textContent.replace(/\s+/g, ' ').trim() === name);
    if (!button) throw new Error(`no “${name}” in ${text()}`);
    button.click();
    await until(() => TestBed.inject(Router).currentNavigation() === null, 'the address is there');
  };
  afterEach(async () => {
    await tearDown(db);
  });

  it('is the newest where the address names none; another’s answer never stands under its name', async () => {
    await open([
      ['first', 24],
      ['second', 26],
    ]);
    await answer();
    await shows('Of 26 V');
    expect(text()).toContain('Log of 15 Jun 2026');
    fixture.componentRef.setInput('log', 'first');
    await until(() => {
      TestBed.tick();
      return work.waiting.length > 0;
    }, 'the other log is judged');
    expect(text()).toContain('Log of 14 Jun 2026');
    expect(text()).toContain('Judging this log.');
    expect(text()).not.toContain('Of 26 V');
    await answer();
    await shows('Of 24 V');
    expect([...host().querySelectorAll('nav a[aria-current=page]')].map((a) => a.textContent.trim())).toEqual(['Logs', 'first.csv']);
  });

  it('comes back to the moment and the stretch that the address names, and says where nothing is', async () => {
    await open([['first', 24]], { log: 'first', at: '2026-06-14T06:20:00', from: '2026-06-14T06:10', to: '2026-06-14T06:40' });
    await answer();
    await shows('Later.');
    expect(host().querySelector('ck-log-zoom')?.textContent).toContain('06:10 to 06:40');
    await press('Earlier');
    expect(TestBed.inject(Router).url).toBe('/job/sample/prove/log/first?from=2026-06-14T06:00:00&to=2026-06-14T06:30:00');
    await press('06:10 odd: Of 24 V Bank');
    expect(TestBed.inject(Router).url).toContain('at=2026-06-14T06:10:00');
    fixture.componentRef.setInput('log', 'nothing');
    await shows('There is no such log in this job.');
  });

  it('says what it came to once, and a verdict when it is chosen', async () => {
    await open([['first', 24]], { log: 'first' });
    const row = (code: string, name: string, verdict: string) => ({
      requirement: { code, name, question: 'specified', why: '' },
      ...{ verdict, why: `Because of ${name}.`, measured: null, uncertainty: null, band: {}, budget: [], evidence: null, unit: 'V', digits: 2 },
    });
    work.rows = [
      row('floatLevel', 'Float level', 'fail'),
      row('absorbLevel', 'Absorb level', 'inconclusive'),
      row('noEqualise', 'No equalise', 'inconclusive'),
    ];
    await answer();
    await shows('Float level');
    const voice = TestBed.inject(Announcer);
    expect(voice.said()).toEqual({ text: 'first.csv is judged: 2 inconclusive, 1 fails.', count: 1 });
    await press('Absorb level Bank');
    expect(voice.said()).toEqual({ text: 'Absorb level, Bank: Inconclusive. Because of Absorb level.', count: 2 });
    expect(TestBed.inject(Router).url).toBe('/job/sample/prove/log/first?row=absorbLevel%2F');
  });

  it('a log taken out leaves its address', async () => {
    await open([['first', 24]], { log: 'first' });
    await answer();
    await press('Take this log out');
    expect([store.job()?.logs.length, TestBed.inject(Router).url]).toEqual([0, '/job/sample/prove']);
  });

  it('says when its samples are not on this device, and when judging failed', async () => {
    await open([['first', null]]);
    await shows('The samples of this log are not on this device.');
    await tearDown(db);
    await open([['first', 24]]);
    work.fails = true;
    await answer();
    await shows('This log could not be judged (out of memory).');
  });

  it('has a table of the stretch in view, which says what was not measured and what was left out', async () => {
    await open([['first', 24]], { from: '2026-06-14T06:30', to: '2026-06-14T07:00' });
    await answer();
    await shows('Of 24 V');
    await press('Show this stretch as a table');
    TestBed.tick();
    const rows = [...host().querySelectorAll('ck-log-table tbody tr')].map((r) => [...r.children].map((c) => c.textContent.trim()));
    expect(rows).toEqual([
      ['06:30:00', '24.30', '5.0'],
      ['06:40:00', '24.40', '5.0'],
      ['06:50:00', '24.50', '5.0'],
      ['07:00:00', '24.60', 'none'],
    ]);
    expect(host().querySelector('ck-log-table caption')?.textContent.trim().replace(/\s+/g, ' ')).toBe('All 4 samples in view');
    expect(text()).toContain('2 lines could not be read; 7 were');
    expect(text()).toContain('Read as local time.');
  });

  it('keys do what the buttons of the stretch do, and leave those of the browser alone', async () => {
    await open([['first', 24]], { from: '2026-06-14T06:20', to: '2026-06-14T06:40' });
    await answer();
    await shows('Of 24 V');
    const zoom = host().querySelector<HTMLElement>('ck-log-zoom')!;
    const key = async (init: KeyboardEventInit): Promise<string> => {
      zoom.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init }));
      await until(() => TestBed.inject(Router).currentNavigation() === null, 'the address is there');
      return TestBed.inject(Router).url.replace(/.*\?/, '');
    };
    expect(await key({ key: '-', ctrlKey: true })).toBe('/');
    expect(await key({ key: '-' })).toBe('from=2026-06-14T06:10:00&to=2026-06-14T06:50:00');
    expect(await key({ key: '+' })).toBe('from=2026-06-14T06:25:00&to=2026-06-14T06:35:00');
    expect(await key({ key: 'ArrowRight' })).toBe('from=2026-06-14T06:30:00&to=2026-06-14T06:50:00');
    expect(await key({ key: '0' })).toBe('/job/sample/prove/log/first');
  });
});

describe('the page where columns are told', () => {
  it('says that nothing waits, after a reload too', async () => {
    const db = setUp(undefined, [provideRouter([]), { provide: LogWork, useValue: new SlowWork() }]);
    const fixture = TestBed.createComponent(MappingPage);
    fixture.detectChanges();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('No log waits here.');
    expect((fixture.nativeElement as HTMLElement).querySelectorAll('.press').length).toBe(0);
    await tearDown(db);
  });
});

describe('addresses of Prove', () => {
  const segments = (...paths: string[]) => paths.map((path) => ({ path }) as never);
  it('take the newest log and a named one to the same page, and nothing else', () => {
    expect(oneLog(segments(), {} as never, {})?.consumed).toEqual([]);
    expect(oneLog(segments('log', 'a'), {} as never, {})?.posParams?.['log']?.path).toBe('a');
    for (const other of [['log'], ['logs', 'a'], ['log', 'a', 'b']]) expect(oneLog(segments(...other), {} as never, {})).toBeNull();
  });
});
