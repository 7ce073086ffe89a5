import { TestBed } from '@angular/core/testing';
import { firstValueFrom } from 'rxjs';
import type { Job, Log, LogReport, Mapping } from '@calm-keel/core';
import { sampleCard, sampleJob, setUp, tearDown, voltParameter } from '../testing';
import type { Database } from './database';
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

  it('deletes for thirty days, and then for good, with everything of the job and of no other', async () => {
    const [gone, stays] = [
      await book.add(sampleJob(), 'New', [{ id: 'l', log, report }], [file]),
      await book.add(sampleJob(), 'New', [{ id: 'l', log, report }]),
    ];
    for (const id of [gone, stays]) await book.keepCopy(id, `copy-${id}`, sampleJob());
    await book.remove(gone);
    expect((await firstValueFrom(book.jobs$)).map((r) => r.id)).toEqual([stays]);
    expect((await firstValueFrom(book.deleted$)).map((r) => r.id)).toEqual([gone]);
    const at = (await book.get(gone))?.deletedAt ?? NaN;
    const days = 24 * 3600 * 1000;
    await book.purge(at + 30 * days);
    expect((await book.all()).length).toBe(2);
    await book.restore(gone);
    expect((await firstValueFrom(book.jobs$)).length).toBe(2);
    await book.purge(at + 31 * days);
    expect((await book.all()).length).toBe(2);
    await db.jobs.update(gone, { deletedAt: at });
    await book.purge(at + 30 * days + 1);
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
    expect(kept.length).toBe(12);
    expect(kept).toContain('c14');
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
});
