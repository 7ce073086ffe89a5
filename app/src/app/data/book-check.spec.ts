import { TestBed } from '@angular/core/testing';
import type { Job } from '@calm-keel/core/job';
import { sampleJob, setUp, tearDown } from '../testing';
import { contentsOf, faultsOf, mend } from './book-check';
import type { Database } from './database';
import { JobBook } from './job-book';

describe('the book', () => {
  let db: Database;
  let book: JobBook;
  const faults = async () => faultsOf(await contentsOf(db, book));
  beforeEach(async () => {
    db = setUp();
    book = TestBed.inject(JobBook);
    await book.add(sampleJob(), 'New job');
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('that holds together has no fault, whatever was undone or taken out', async () => {
    await book.edit('sample', 'Rename', (job) => ({ ...job, name: 'Other' }), '');
    await book.step('sample', -1);
    expect(await faults()).toEqual([]);
  });

  it('a job that cannot be read goes back to its last step that can; one without such a step is only named', async () => {
    await book.edit('sample', 'Rename', (job) => ({ ...job, name: 'Second' }), '');
    await db.jobs.update('sample', { doc: { ...sampleJob(), system: 'broken' } as unknown as Job, seq: 2 });
    const [fault] = await faults();
    expect([fault?.kind, fault?.mend]).toEqual(['unreadable', 'Go back to the last step that can be read']);
    if (fault) await mend(db, book, fault);
    expect((await db.jobs.get('sample'))?.doc.name).toBe('Second');
    expect(await faults()).toEqual([]);
    await db.history.clear();
    await db.jobs.update('sample', { doc: {} as Job });
    const [lost] = await faults();
    expect([lost?.kind, lost?.mend]).toEqual(['damaged', 'Put it away as it is']);
    if (lost) await mend(db, book, lost);
    expect([await faults(), await db.jobs.count(), (await db.aside.toArray()).map((row) => [row.table, row.key])]).toEqual([[], 0, [['jobs', 'sample']]]);
  });

  it('a log whose contents are gone is taken out of the job as a step that can be undone', async () => {
    const log = { id: 'day', name: 'Day', instrument: 'meter', from: 0, to: 1, rows: 2 };
    await book.edit('sample', 'Add a log', (job) => ({ ...job, logs: [log] }), '');
    const [fault] = await faults();
    expect([fault?.kind, fault?.text.includes('“Day”')]).toEqual(['contentMissing', true]);
    if (fault) await mend(db, book, fault);
    expect((await db.jobs.get('sample'))?.doc.logs).toEqual([]);
    await book.step('sample', -1);
    expect((await db.jobs.get('sample'))?.doc.logs).toEqual([log]);
  });

  it('a lost history begins anew, and what belongs to nobody is cleared away', async () => {
    await db.history.clear();
    await db.files.put({ jobId: 'gone', id: 'photo', bytes: new Uint8Array(3) });
    const found = await faults();
    expect(found.map((f) => f.kind)).toEqual(['historyGap', 'orphan']);
    for (const fault of found) await mend(db, book, fault);
    expect([await faults(), await db.files.count()]).toEqual([[], 0]);
  });
});

describe('the check of the book', () => {
  it('names rows of every table that are damaged, and puts each away as it is', async () => {
    const db = setUp();
    const book = TestBed.inject(JobBook);
    await book.add(sampleJob(), 'New job');
    await book.edit('sample', 'Rename', (job) => ({ ...job, name: 'Other' }), '');
    await db.history.update(['sample', 0], { doc: 'gone' as never });
    await db.logs.put({ jobId: 'sample', id: 'l', log: 1, report: null } as never);
    await db.files.put({ jobId: 'sample', id: 'f', bytes: 'text' } as never);
    await db.verdicts.put({ jobId: 'sample', logId: 'v' } as never);
    await db.copies.put({ id: 'c', jobId: 'sample' } as never);
    await db.cards.put({ id: 'k' } as never);
    await db.sheets.put({ id: 's' } as never);
    await db.mappings.put({ fingerprint: 'm' } as never);
    const found = faultsOf(await contentsOf(db, book));
    expect(found.map((f) => `${f.kind} ${f.row?.table ?? ''}`).sort()).toEqual(
      ['cards', 'copies', 'files', 'history', 'logs', 'mappings', 'sheets', 'verdicts'].map((table) => `damaged ${table}`),
    );
    for (const fault of found) await mend(db, book, fault);
    expect([faultsOf(await contentsOf(db, book)), await db.aside.count(), (await book.get('sample'))?.doc.name]).toEqual([[], 8, 'Other']);
    await tearDown(db);
  });
});

describe('copies of a job', () => {
  it('keep the newest twelve, and go when the job is discarded', async () => {
    const db = setUp();
    const book = TestBed.inject(JobBook);
    await book.add(sampleJob(), 'New job');
    for (let i = 0; i < 15; i++) {
      await book.keepCopy('sample', `copy-${i}`, sampleJob());
    }
    const kept = (await book.copies('sample')).map((c) => c.id);
    expect([kept.length, kept[0]]).toEqual([12, 'copy-14']);
    await book.remove('sample');
    await book.clearAway('sample');
    expect(await db.copies.count()).toBe(0);
    await tearDown(db);
  });

  it('put in the place of a job are one step, with their contents; restored, they keep when they were touched', async () => {
    const db = setUp();
    const book = TestBed.inject(JobBook);
    await book.add(sampleJob(), 'New job');
    await book.put('sample', 'Merged', { ...sampleJob(), id: 'elsewhere', name: 'Merged' }, [], [{ id: 'photo', bytes: new Uint8Array(2) }], {
      stamp: { updatedAt: 5, archivedAt: 7 },
      copy: { id: 'copy', doc: sampleJob() },
    });
    const row = await db.jobs.get('sample');
    expect([row?.doc.id, row?.doc.name, row?.updatedAt, row?.archivedAt, await db.files.count(), await db.copies.count()]).toEqual([
      'sample',
      'Merged',
      5,
      7,
      1,
      1,
    ]);
    await book.step('sample', -1);
    expect((await db.jobs.get('sample'))?.doc.name).toBe('Sample');
    await book.archive('sample', false);
    expect((await db.jobs.get('sample'))?.archivedAt).toBeUndefined();
    await tearDown(db);
  });
});
