import { TestBed } from '@angular/core/testing';
import { guessMapping, type Log, type LogReport, type Mapping } from '@calm-keel/core/proof';
import { good, type Result } from '@calm-keel/core/quantity';
import { sampleJob, setUp, tearDown, until } from '../testing';
import type { FoundTable } from '../workers/log.worker';
import { Database } from './database';
import { JobBook } from './job-book';
import { JobStore } from './job-store';
import { LogImport } from './log-import';
import { LogWork } from './log-work';

const log: Log = { time: Float64Array.of(0, 10), offsetMinutes: 0, bankVolts: Float32Array.of(26, 26), chargers: {} };
const report: LogReport = { rows: 2, skipped: 0, firstSkipped: [], intervalSeconds: 10, gaps: [], notes: [] };
const split = (text: string, separator: string): string[][] => text.split('\n').map((l) => l.split(separator));

function table(name: string, text: string, fileName = name): FoundTable {
  const guess = guessMapping(text, split, {
    chargers: [
      { id: 'fore', name: 'Fore' },
      { id: 'aft', name: 'Aft' },
    ],
    nominalVolts: 25.6,
    fileName,
  });
  if (!guess.ok) throw new Error(guess.problems[0]?.text);
  return { name, content: new Blob([text]), guess: guess.value };
}
const plain = 'time,bank_V\n2026-06-14T05:00:00Z,26.4\n2026-06-14T05:00:10Z,26.4\n';
const doubtful = 'time,bank_V\n05/06/2026 10:00,26.5\n05/06/2026 10:10,26.5\n';

/** A worker that opens what a spec gives it and keeps what it was asked to read. */
class FakeWork {
  readonly finds = new Map<string, Result<{ tables: readonly FoundTable[]; leftOut: readonly string[] }>>();
  asked: { readonly names: number; readonly leftOut: readonly string[]; readonly mappings: readonly Mapping[] }[] = [];
  fails = false;
  readonly proxy = <T>(f: T): T => f;
  readonly api = {
    look: (_file: Blob, name: string) => Promise.resolve(this.finds.get(name) ?? good({ tables: [table(name, plain)], leftOut: [] })),
    read: (files: readonly { mapping: Mapping }[], leftOut: readonly string[]) => {
      this.asked.push({ names: files.length, leftOut, mappings: files.map((f) => f.mapping) });
      return Promise.resolve(this.fails ? { ok: false as const, problems: [{ code: 'x', text: 'The log is broken.' }] } : good({ log, report }));
    },
    cancel: () => Promise.resolve(),
  };
}

describe('bringing logs in', () => {
  let db: Database;
  let work: FakeWork;
  let store: JobStore;
  let imports: LogImport;
  const file = (name: string): File => new File(['x'], name);

  beforeEach(async () => {
    work = new FakeWork();
    db = setUp(new Database(`import-${Date.now()}-${Math.random()}`), [{ provide: LogWork, useValue: work }]);
    const id = await TestBed.inject(JobBook).add(sampleJob(), 'New');
    store = TestBed.inject(JobStore);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
    imports = TestBed.inject(LogImport);
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('reads what is plain at once, a spreadsheet of several sheets as one log, and hands on what was left out', async () => {
    work.finds.set('book.xlsx', good({ tables: [table('book.xlsx › 14', plain), table('book.xlsx › 15', plain)], leftOut: ['“Notes” was left out.'] }));
    const id = await imports.bring([file('book.xlsx')]);
    expect(id).toBe(store.job()?.logs[0]?.id ?? 'no log');
    expect(work.asked.map((a) => [a.names, a.leftOut])).toEqual([[2, ['“Notes” was left out.']]]);
    expect(store.job()?.logs.map((l) => l.name)).toEqual(['book.xlsx › 14 and 1 more']);
    expect([imports.waiting().length, imports.leftOut().length, imports.progress()]).toEqual([0, 0, null]);
  });

  it('lets what is in doubt wait, once for a make, and remembers what somebody said of it', async () => {
    for (const name of ['a.csv', 'b.csv']) work.finds.set(name, good({ tables: [table(name, doubtful)], leftOut: [] }));
    expect(await imports.bring([file('a.csv'), file('b.csv')])).toBeNull();
    expect(imports.waiting().map((w) => [w.tables.length, w.remembered])).toEqual([[2, false]]);
    expect(work.asked.length).toBe(0);
    const waiting = imports.waiting()[0]!;
    expect(await imports.readSettled([{ waiting, mapping: { ...waiting.guess.mapping, dateOrder: 'monthFirst' } }])).toBe(store.job()?.logs[0]?.id ?? 'no log');
    expect(work.asked[0]?.mappings.map((m) => m.dateOrder)).toEqual(['monthFirst', 'monthFirst']);
    expect(imports.waiting().length).toBe(0);
    // The next file of the make waits with what was said then, and without its doubt.
    await imports.bring([file('a.csv')]);
    const again = imports.waiting()[0];
    expect([again?.remembered, again?.guess.mapping.dateOrder, again?.guess.doubts.length]).toEqual([true, 'monthFirst', 0]);
  });

  it('a remembered mapping does not make one charger of two that write the same columns', async () => {
    const own = 'time,voltage (V),output current (A)\n2026-06-14T05:00:00Z,26.4,3\n2026-06-14T05:00:10Z,26.5,3\n';
    const fore = table('fore.csv', own);
    await TestBed.inject(JobBook).putMapping(fore.guess.fingerprint, fore.guess.mapping);
    work.finds.set('two.zip', good({ tables: [fore, table('aft.csv', own)], leftOut: [] }));
    await imports.bring([file('two.zip')]);
    expect(imports.waiting().map((w) => w.guess.mapping.columns[2]?.charger)).toEqual(['fore', 'aft']);
  });

  it('takes nothing where one of several cannot be opened, and says which', async () => {
    work.finds.set('bad.zip', { ok: false, problems: [{ code: 'file-broken', text: 'It cannot be unpacked.' }] });
    await imports.bring([file('good.csv'), file('bad.zip')]);
    expect(imports.problems().map((p) => p.text)).toEqual(['bad.zip: It cannot be unpacked.']);
    expect([work.asked.length, store.job()?.logs.length]).toEqual([0, 0]);
    // A log that cannot be read leaves what waits where it is.
    work.finds.set('a.csv', good({ tables: [table('a.csv', doubtful)], leftOut: [] }));
    await imports.bring([file('a.csv')]);
    work.fails = true;
    const waiting = imports.waiting()[0]!;
    expect(await imports.readSettled([{ waiting, mapping: waiting.guess.mapping }])).toBeNull();
    expect([imports.problems()[0]?.text, imports.waiting().length, store.job()?.logs.length]).toEqual(['The log is broken.', 1, 0]);
  });

  it('says when there are more files than are read in one go', async () => {
    await imports.bring(Array.from({ length: 401 }, (_, i) => file(`${i}.csv`)));
    expect(imports.problems()[0]?.text).toContain('401 files; 400 are read in one go');
    expect(work.asked.length).toBe(0);
  });

  it('holds what waits for the job it was brought into: another job sees nothing of it', async () => {
    work.finds.set('a.csv', good({ tables: [table('a.csv', doubtful)], leftOut: ['“Notes” was left out.'] }));
    await imports.bring([file('a.csv')]);
    expect([imports.waiting().length, imports.leftOut().length]).toEqual([1, 1]);
    const first = store.job()!.id;
    const other = await TestBed.inject(JobBook).create('Another');
    store.open(other);
    await until(() => store.job()?.id === other, 'the other job is there');
    expect([imports.waiting().length, imports.leftOut().length]).toEqual([0, 0]);
    store.open(first);
    await until(() => store.job()?.id === first, 'the first job is there');
    expect(imports.waiting().length).toBe(1);
  });

  it('a log of a job without chargers always waits, by its own guess, and brings its chargers with it in one step', async () => {
    const id = await TestBed.inject(JobBook).create('Heron');
    store.open(id);
    await until(() => store.job()?.id === id, 'the new job is there');
    const text = 'time,bank_V,mast_A\n2026-06-14T05:00:00Z,13.4,3\n2026-06-14T05:00:10Z,13.4,3\n';
    const guess = guessMapping(text, split, { chargers: [], nominalVolts: null });
    if (!guess.ok) throw new Error('no guess');
    work.finds.set('a.csv', good({ tables: [{ name: 'a.csv', content: new Blob([text]), guess: guess.value }], leftOut: [] }));
    expect(await imports.bring([file('a.csv')])).toBeNull();
    const [waiting] = imports.waiting();
    if (!waiting) throw new Error('nothing waits');
    expect([guess.value.doubts, waiting.guess.newcomers.map((n) => n.id)]).toEqual([[], ['mast']]);
    const log = await imports.readSettled([{ waiting, mapping: waiting.guess.mapping }], [{ id: 'mast', name: 'Mast', kind: 'solarPwm', outputA: 20 }]);
    expect(store.job()?.logs.map((l) => l.id)).toEqual([log ?? 'none']);
    expect(store.job()?.system.chargers.map((c) => c.name)).toEqual(['Mast']);
    expect(store.job()?.cards.map((c) => c.ratings.systemVolts)).toEqual([[12]]);
    await store.undo();
    await until(() => store.job()?.logs.length === 0, 'the log is taken back');
    expect(store.job()?.system.chargers.length).toBe(0);
  });
});
