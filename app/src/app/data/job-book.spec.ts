import { createEnvironmentInjector, EnvironmentInjector } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Dexie } from 'dexie';
import { firstValueFrom } from 'rxjs';
import type { Job } from '@calm-keel/core/job';
import type { Log, LogReport, Mapping } from '@calm-keel/core/proof';
import { sampleCard, sampleJob, setUp, tearDown, voltParameter } from '../testing';
import { Database, storageProblem } from './database';
import { JobBook } from './job-book';

const log: Log = { time: Float64Array.of(1, 2), offsetMinutes: 0, bankVolts: Float32Array.of(26, 27), chargers: {} };
const report: LogReport = { rows: 2, skipped: 0, firstSkipped: [], intervalSeconds: 1, gaps: [], notes: [] };
const file = { id: 'paper', name: 'Paper', type: 'application/pdf', bytes: Uint8Array.of(1) };

describe('the book of jobs', () => {
  let db: Database;
  let book: JobBook;
  beforeEach(() => {
    db = setUp();
    book = TestBed.inject(JobBook);
  });
  afterEach(async () => {
    await tearDown(db);
  });

  const named = (name: string) => (job: Job) => ({ ...job, name });
  const nameOf = async (id: string): Promise<string | undefined> => (await book.get(id))?.doc.name;

  it('gives a job whose name is taken a number, and overwrites nothing', async () => {
    expect(await book.add(sampleJob(), 'New')).toBe('sample');
    expect(await book.add({ ...sampleJob(), name: 'Second' }, 'New', [{ id: 'l', log, report }], [file])).toBe('sample-2');
    expect([await nameOf('sample'), await nameOf('sample-2')]).toEqual(['Sample', 'Second']);
    expect((await book.get('sample-2'))?.doc.id).toBe('sample-2');
    expect(await book.contentIds('sample-2')).toEqual(['l', 'paper']);
    expect(await book.contentIds('sample')).toEqual([]);
    expect((await book.getLog('sample-2', 'l'))?.report.rows).toBe(2);
  });

  it('keeps steps back and forth, with what each was called; a new step ends what lay ahead', async () => {
    const id = await book.add(sampleJob(), 'New');
    await book.edit(id, 'Rename to A', named('A'), '');
    await book.edit(id, 'Rename to B', named('B'), '');
    expect(await firstValueFrom(book.watch(id))).toEqual(jasmine.objectContaining({ undo: 'Rename to B', redo: null }));
    expect([await book.step(id, -1), await nameOf(id)]).toEqual(['Rename to B', 'A']);
    expect(await firstValueFrom(book.watch(id))).toEqual(jasmine.objectContaining({ undo: 'Rename to A', redo: 'Rename to B' }));
    expect([await book.step(id, 1), await nameOf(id)]).toEqual(['Rename to B', 'B']);
    expect(await book.step(id, 1)).toBeNull();
    await book.step(id, -1);
    await book.edit(id, 'Rename to C', named('C'), '');
    expect([await book.step(id, 1), await nameOf(id)]).toEqual([null, 'C']);
    for (const name of ['A', 'Sample']) expect([await book.step(id, -1), await nameOf(id)][1]).toBe(name);
    expect(await book.step(id, -1)).toBeNull();
    expect(await book.step('nobody', -1)).toBeNull();
  });

  it('makes quick repeats of one edit one step, and of two edits two', async () => {
    const id = await book.add(sampleJob(), 'New');
    for (const name of ['S', 'Sa', 'Sam']) await book.edit(id, 'Type', named(name), 'name');
    await book.edit(id, 'Note', (job) => ({ ...job, note: 'n' }), 'note');
    expect((await book.get(id))?.seq).toBe(2);
    await book.step(id, -1);
    expect(await nameOf(id)).toBe('Sam');
    await book.step(id, -1);
    expect(await nameOf(id)).toBe('Sample');
  });

  it('keeps eighty steps', async () => {
    const id = await book.add(sampleJob(), 'New');
    for (let i = 1; i <= 90; i++) await book.edit(id, `Step ${i}`, named(`N${i}`), '');
    expect(await db.history.where('jobId').equals(id).count()).toBe(80);
    let back = 0;
    while ((await book.step(id, -1)) !== null) back++;
    expect([back, await nameOf(id)]).toEqual([79, 'N11']);
  });

  it('writes nothing of an edit that breaks the job, or of a job that is gone', async () => {
    const id = await book.add(sampleJob(), 'New');
    await expectAsync(book.edit(id, 'Break', named(''), '')).toBeRejected();
    await expectAsync(book.edit('nobody', 'x', named('x'), '')).toBeRejectedWithError('this job is no longer on this device');
    expect([await nameOf(id), (await book.get(id))?.seq, await db.history.count()]).toEqual(['Sample', 0, 1]);
  });

  it('puts another document in the place of one as a step that undo takes back, and keeps its content', async () => {
    const id = await book.add(sampleJob(), 'New');
    await book.remove(id);
    await book.put(id, 'Restored', { ...sampleJob(), id: 'other', name: 'Came' }, [{ id: 'l', log, report }], [], { copy: { id: 'c1', doc: sampleJob() } });
    const row = await book.get(id);
    expect([row?.doc.name, row?.doc.id, row?.seq, row?.deletedAt]).toEqual(['Came', id, 1, undefined]);
    expect((await book.copies(id)).map((c) => c.id)).toEqual(['c1']);
    expect(await book.contentIds(id)).toEqual(['l']);
    expect([await book.step(id, -1), await nameOf(id)]).toEqual(['Restored', 'Sample']);
  });

  it('keeps a deleted job until somebody clears it away, whatever the clock says, and then with everything of it and nothing of another', async () => {
    const [gone, stays] = [
      await book.add(sampleJob(), 'New', [{ id: 'l', log, report }], [file]),
      await book.add(sampleJob(), 'New', [{ id: 'l', log, report }]),
    ];
    for (const id of [gone, stays]) await book.keepCopy(id, `copy-${id}`, sampleJob());
    const clock = spyOn(Date, 'now').and.returnValue(1_000);
    await book.remove(gone);
    clock.and.returnValue(1_000 + 400 * 24 * 3600 * 1000);
    await book.clearAway(stays);
    expect((await firstValueFrom(book.jobs$)).map((r) => r.id)).toEqual([stays]);
    expect((await firstValueFrom(book.deleted$)).map((r) => r.id)).toEqual([gone]);
    await book.restore(gone);
    expect((await firstValueFrom(book.jobs$)).map((r) => r.id)).toEqual([gone, stays]);
    await book.remove(gone);
    await book.clearAway(gone);
    const left = await Promise.all([db.jobs, db.history, db.logs, db.files, db.copies].map((table) => table.count()));
    expect(left).toEqual([1, 1, 1, 0, 1]);
    expect((await book.get(stays))?.id).toBe(stays);
  });

  it('puts a job away and takes it out again', async () => {
    const id = await book.add(sampleJob(), 'New');
    await book.archive(id, true);
    expect((await book.get(id))?.archivedAt).toBeGreaterThan(0);
    await book.archive(id, false);
    expect((await book.get(id))?.archivedAt).toBeUndefined();
  });

  it('keeps the newest twelve copies of a job, the newest first', async () => {
    for (let i = 1; i <= 14; i++) await book.keepCopy('a', `c${i}`, sampleJob());
    await book.keepCopy('b', 'other', sampleJob());
    const kept = (await book.copies('a')).map((c) => c.id);
    expect(kept).toEqual(Array.from({ length: 12 }, (_, i) => `c${14 - i}`));
    expect((await book.copies('b')).map((c) => c.id)).toEqual(['other']);
  });

  it('takes from a backup what this device has not, and leaves what it has; what no longer fits is as if it were not there', async () => {
    const card = sampleCard({
      id: 'p1',
      kind: 'solarPwm',
      ratings: { outputA: 15, systemVolts: [12], chemistries: ['agm'], arrayVoltsMax: 50 },
      parameters: [voltParameter('absorbVoltage')],
    });
    await book.putOwn({ sheets: [], cards: [card], mappings: [] });
    await book.putOwn({
      sheets: [],
      cards: [
        { ...card, model: 'Other' },
        { ...card, id: 'p2' },
      ],
      mappings: [],
    });
    expect((await book.own()).cards.map((c) => `${c.id} ${c.model}`)).toEqual(['p1 P1', 'p2 P1']);
    await db.cards.put({ ...card, id: 'broken', parameters: 'none' } as never);
    await db.mappings.put({ fingerprint: 'f', mapping: { kind: 'nonsense' } as unknown as Mapping, at: 1 });
    expect((await book.own()).cards.length).toBe(2);
    expect([(await book.own()).mappings, await book.getMapping('f'), await book.getMapping('g')]).toEqual([[], null, null]);
  });

  it('orders by its own count: with the clock set back, what was changed last comes first, and quick repeats are still told from late ones', async () => {
    const now = Date.now();
    const clock = spyOn(Date, 'now').and.returnValue(now);
    const a = await book.add(sampleJob(), 'New');
    const b = await book.add(sampleJob(), 'New');
    clock.and.returnValue(now - 40 * 24 * 3600 * 1000);
    await book.edit(a, 'Rename', named('Later'), '');
    expect((await firstValueFrom(book.jobs$)).map((r) => r.id)).toEqual([a, b]);
    const page = spyOn(performance, 'now').and.returnValue(10_000);
    await book.edit(a, 'Type', named('T'), 'name');
    page.and.returnValue(11_999);
    await book.edit(a, 'Type', named('Ty'), 'name');
    page.and.returnValue(14_000);
    await book.edit(a, 'Type', named('Typ'), 'name');
    await book.step(a, -1);
    expect(await nameOf(a)).toBe('Ty');
    await book.step(a, -1);
    expect(await nameOf(a)).toBe('Later');
  });

  it('does not let a step grow that another page has written meanwhile', async () => {
    const id = await book.add(sampleJob(), 'New');
    await book.edit(id, 'Type', named('Mine'), 'name');
    const other = createEnvironmentInjector([JobBook], TestBed.inject(EnvironmentInjector)).get(JobBook);
    await other.edit(id, 'Type', named('Theirs'), 'name');
    await book.edit(id, 'Type', named('Mine again'), 'name');
    await book.step(id, -1);
    expect(await nameOf(id)).toBe('Theirs');
  });

  it('whose count is lost goes on after the highest number there is', async () => {
    const id = await book.add(sampleJob(), 'New');
    for (const name of ['A', 'B']) await book.edit(id, 'Rename', named(name), '');
    const before = (await book.get(id))?.rev ?? 0;
    await db.meta.clear();
    await book.edit(id, 'Rename', named('C'), '');
    expect((await book.get(id))?.rev).toBe(before + 1);
    await db.meta.put({ key: 'count', value: 1 });
    await book.edit(id, 'Rename', named('D'), '');
    expect((await book.get(id))?.rev).toBe(before + 2);
  });

  it('repairs a job by its own document, or by the newest step that can be read; with neither it changes nothing', async () => {
    const id = await book.add(sampleJob(), 'New');
    await book.edit(id, 'Rename', named('Second'), '');
    await db.jobs.update(id, { seq: 'x' as never });
    expect([await book.get(id), (await book.rows()).damaged.find((row) => row.key === id)?.why]).toEqual([
      undefined,
      'its place in the history is not a number.',
    ]);
    expect([await book.repair(id), await nameOf(id), (await book.get(id))?.seq]).toEqual([true, 'Second', 1]);
    await db.jobs.update(id, { doc: null as never });
    expect([await book.repair(id), await nameOf(id)]).toEqual([true, 'Second']);
    await db.history.update([id, 1], { doc: { format: 'nothing' } as never });
    await db.jobs.update(id, { doc: null as never });
    expect([await book.repair(id), await nameOf(id), (await book.get(id))?.seq]).toEqual([true, 'Sample', 0]);
    await db.history.clear();
    await db.jobs.update(id, { doc: null as never });
    expect([await book.repair(id), (await book.rows()).damaged.find((row) => row.key === id)?.why]).toEqual([false, 'its document is missing.']);
  });

  it('does not go back to a step that is damaged, and says so', async () => {
    const id = await book.add(sampleJob(), 'New');
    await book.edit(id, 'Rename', named('Second'), '');
    await db.history.update([id, 0], { doc: 7 as never });
    await expectAsync(book.step(id, -1)).toBeRejectedWithError(/The step “New” in the history of this job is damaged/);
    expect(await nameOf(id)).toBe('Second');
  });

  it('puts what cannot be read away as it is, and back; not over something else', async () => {
    await db.jobs.put({ id: 'bad', doc: 3 } as never);
    const [row] = await firstValueFrom(book.damaged$);
    if (!row) throw new Error('not told of');
    await book.putAside(row);
    const [aside] = await firstValueFrom(book.aside$);
    expect([await db.jobs.count(), aside?.raw, aside?.name]).toEqual([0, { id: 'bad', doc: 3 }, 'bad']);
    await db.jobs.put({ id: 'bad', doc: 4 } as never);
    expect(await book.putBack(aside?.id ?? 0)).toBeFalse();
    await db.jobs.delete('bad');
    expect([await book.putBack(aside?.id ?? 0), await db.jobs.get('bad'), await db.aside.count()]).toEqual([true, { id: 'bad', doc: 3 } as never, 0]);
    await book.putAside(row);
    await book.dropAside((await db.aside.toCollection().primaryKeys())[0]!);
    expect([await db.jobs.count(), await db.aside.count()]).toEqual([0, 0]);
  });

  it('lists the sound jobs whatever else stands in the table, each damaged row by itself', async () => {
    const id = await book.add(sampleJob(), 'New');
    const sound = await book.get(id);
    const broken: readonly (readonly [string, object])[] = [
      ['its document is missing.', { doc: undefined }],
      ['its document is missing.', { doc: [1] }],
      ['its document has no name.', { doc: { ...sampleJob(), name: 7 } }],
      ['its name has 1000000 letters.', { doc: { ...sampleJob(), name: 'n'.repeat(1_000_000) } }],
      ['its name has 81 letters.', { doc: { ...sampleJob(), name: 'n'.repeat(81) } }],
      ['its document does not say of which version it is.', { doc: { ...sampleJob(), version: 'eight' } }],
      ['its place in the history is not a number.', { seq: 0.5 }],
      ['when it was last changed is not a number.', { updatedAt: NaN }],
      ['when it was last changed is not a number.', { updatedAt: undefined }],
      ['its count of changes is not a number.', { rev: 'x' }],
      ['when it was put away is not a number.', { deletedAt: 'yesterday' }],
      ['when it was put away is not a number.', { archivedAt: {} }],
    ];
    for (const [i, [, change]] of broken.entries()) await db.jobs.put({ ...sound, id: `bad-${i}`, ...change } as never);
    // As long a name as there can be, and a row of before there was a count, are sound.
    await db.jobs.put({ ...sound, id: 'long', doc: { ...sampleJob(), name: 'n'.repeat(80) } } as never);
    await db.jobs.put({ ...sound, id: 'old', rev: undefined } as never);
    expect((await firstValueFrom(book.jobs$)).map((r) => r.id).sort()).toEqual(['long', 'old', 'sample']);
    const told = await firstValueFrom(book.damaged$);
    expect(broken.map((_, i) => told.find((row) => row.key === `bad-${i}`)?.why)).toEqual(broken.map(([why]) => why));
    expect(told.every((row) => row.name.length <= 80)).toBeTrue();
  });

  it('takes logs, documents and verdicts that are damaged as if they were not there', async () => {
    const id = await book.add(sampleJob(), 'New', [{ id: 'l', log, report }], [file]);
    expect([(await book.getLog(id, 'l'))?.report.rows, (await book.getFile(id, 'paper'))?.bytes.length]).toEqual([2, 1]);
    for (const change of [
      { ...log, bankVolts: Float32Array.of(26) },
      { ...log, time: [1, 2] },
      { ...log, time: new Float64Array() },
      { ...log, chargers: { a: { amps: Float32Array.of(1) } } },
      { ...log, chargers: null },
      { ...log, offsetMinutes: 'east' },
      null,
    ]) {
      await db.logs.put({ jobId: id, id: 'l', log: change, report } as never);
      expect(await book.getLog(id, 'l')).toBeUndefined();
    }
    for (const change of [null, { ...report, rows: 'two' }, { ...report, gaps: null }]) {
      await db.logs.put({ jobId: id, id: 'l', log, report: change } as never);
      expect(await book.getLog(id, 'l')).toBeUndefined();
    }
    await db.files.put({ jobId: id, id: 'paper', bytes: [1] } as never);
    expect(await book.getFile(id, 'paper')).toBeUndefined();
    const verdicts = { jobId: id, logId: 'l', basis: 'b', verdicts: { 'x/': 'pass' }, rows: { 'x/': { verdict: 'pass', why: 'w' } } } as const;
    await db.verdicts.bulkPut([
      verdicts,
      { ...verdicts, logId: 'm', verdicts: { 'x/': 'Proved' } } as never,
      { ...verdicts, logId: 'n', rows: { 'x/': 1 } } as never,
      { ...verdicts, logId: 'o', basis: 4 } as never,
      { ...verdicts, logId: 'p', rows: { 'x/': { verdict: 'pass', why: ['down to ', { celsius: -3, digits: 1 }], witness: 'w', next: 'n' } } },
      { ...verdicts, logId: 'q', rows: { 'x/': { verdict: 'pass', why: [5] } } } as never,
      { ...verdicts, logId: 'r', rows: { 'x/': { verdict: 'pass', why: 'w', next: 5 } } } as never,
    ]);
    expect((await firstValueFrom(book.verdicts(id))).map((v) => v.logId)).toEqual(['l', 'p']);
  });
});

describe('the database', () => {
  it('of the version before gets its order from the clock once, damaged rows included', async () => {
    const name = `old-${Date.now()}`;
    const old = new Dexie(name);
    old.version(5).stores({ jobs: 'id, updatedAt', history: '[jobId+seq], jobId', logs: '[jobId+id], jobId', meta: 'key', copies: 'id, jobId' });
    const doc = sampleJob();
    await old
      .table('jobs')
      .bulkPut([
        { id: 'second', seq: 0, updatedAt: 200, doc },
        { id: 'first', seq: 0, updatedAt: 100, doc },
        { id: 'third', seq: 0, updatedAt: 300, doc },
        { id: 'bad' },
      ]);
    old.close();
    const db = setUp(new Database(name));
    const book = TestBed.inject(JobBook);
    expect((await firstValueFrom(book.jobs$)).map((r) => r.id)).toEqual(['third', 'second', 'first']);
    expect([await book.count(), (await firstValueFrom(book.damaged$)).map((r) => r.key)]).toEqual([4, ['bad']]);
    await book.edit('first', 'Rename', (job) => ({ ...job, name: 'Now' }), '');
    expect((await firstValueFrom(book.jobs$)).map((r) => r.id)).toEqual(['first', 'third', 'second']);
    await tearDown(db);
  });

  it('of a newer version is not opened, and nothing in it is changed', async () => {
    const name = `newer-${Date.now()}`;
    const newer = new Dexie(name);
    newer.version(99).stores({ jobs: 'id', better: 'id' });
    await newer.table('jobs').put({ id: 'a', of: 'tomorrow' });
    const version = newer.backendDB().version;
    newer.close();
    const db = new Database(name);
    const failure = await db.jobs.toArray().then(
      () => 'opened',
      (error: unknown) => storageProblem(error),
    );
    expect(failure).toContain('saved by a newer version of this program');
    expect(await db.jobs.put({ id: 'b' } as never).then(() => 'written', storageProblem)).toContain('newer version');
    db.close();
    await newer.open();
    expect([newer.backendDB().version, [...newer.backendDB().objectStoreNames], await newer.table('jobs').toArray()]).toEqual([
      version,
      ['better', 'jobs'],
      [{ id: 'a', of: 'tomorrow' }],
    ]);
    await newer.delete();
  });

  it('of the same version that an older page has patched is opened as ever', async () => {
    const name = `patched-${Date.now()}`;
    const first = new Database(name);
    await first.jobs.put({ id: 'a', seq: 0, rev: 1, updatedAt: 1, doc: sampleJob() });
    const version = first.backendDB().version;
    first.close();
    await new Promise<void>((resolve, reject) => {
      const request = indexedDB.open(name, version + 1);
      request.onsuccess = () => {
        request.result.close();
        resolve();
      };
      request.onerror = () => {
        reject(new Error('not patched'));
      };
    });
    const again = new Database(name);
    expect((await again.jobs.toArray()).map((row) => row.id)).toEqual(['a']);
    await again.delete();
  });
});
