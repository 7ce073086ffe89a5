import { TestBed } from '@angular/core/testing';
import { sampleJob, setUp, tearDown, until } from '../testing';
import type { Database } from './database';
import { JobBook } from './job-book';
import { Safekeeping } from './safekeeping';

const day = 24 * 3600 * 1000;

describe('keeping what is here safe', () => {
  let db: Database;
  let book: JobBook;
  beforeEach(() => {
    db = setUp();
    book = TestBed.inject(JobBook);
  });
  afterEach(async () => {
    await tearDown(db);
  });

  /** With a job touched so many days ago, and a backup so many days ago or none. */
  async function standing(touchedDays: number, backupDays: number | null): Promise<Safekeeping> {
    const id = await book.add(sampleJob(), 'New');
    await db.jobs.update(id, { updatedAt: Date.now() - touchedDays * day });
    if (backupDays !== null) await db.meta.put({ key: 'backedUpAt', value: Date.now() - backupDays * day });
    const keeping = TestBed.inject(Safekeeping);
    TestBed.tick();
    await until(() => keeping.backedUpAt() !== undefined, 'the last backup is known');
    await new Promise((resolve) => setTimeout(resolve, 20));
    return keeping;
  }

  it('reminds of a backup after a week of work without one, and not sooner', async () => {
    const keeping = await standing(8, null);
    await until(() => keeping.since() === 1, 'the job counts');
    expect(keeping.remind()).toBeTrue();
  });
  it('does not remind in the first week', async () => {
    const keeping = await standing(6, null);
    await until(() => keeping.since() === 1, 'the job counts');
    expect(keeping.remind()).toBeFalse();
  });
  it('does not remind where nothing was touched since the last one, however old', async () => {
    const keeping = await standing(40, 30);
    expect([keeping.since(), keeping.remind()]).toEqual([0, false]);
  });
  it('reminds when there is work since the last one and that is a week old', async () => {
    const keeping = await standing(1, 8);
    await until(() => keeping.since() === 1, 'the job counts');
    expect(keeping.remind()).toBeTrue();
    await keeping.noteBackup(await book.count());
    await until(() => keeping.since() === 0, 'the backup counts');
    expect(keeping.remind()).toBeFalse();
  });

  it('counts what was changed since, whatever the clock says; what was changed while the backup was packed is not in it', async () => {
    const keeping = await standing(1, null);
    const count = await book.count();
    await book.edit('sample', 'Rename', (job) => ({ ...job, name: 'Meanwhile' }), '');
    await keeping.noteBackup(count);
    await until(() => keeping.since() === 1, 'the change made meanwhile counts');
    await keeping.noteBackup(await book.count());
    await until(() => keeping.since() === 0, 'the second backup has it');
    spyOn(Date, 'now').and.returnValue(1000);
    await book.edit('sample', 'Rename', (job) => ({ ...job, name: 'In the past' }), '');
    await until(() => keeping.since() === 1, 'an edit under a clock set back counts');
    expect(keeping.remind()).toBeTrue();
  });

  it('says of room and promise only what the browser says', async () => {
    const keeping = await standing(1, 1);
    expect([keeping.room(), keeping.persisted()]).toEqual([null, null]);
    spyOn(navigator.storage, 'estimate').and.resolveTo({ quota: 1000, usage: 10 });
    spyOn(navigator.storage, 'persisted').and.resolveTo(true);
    await keeping.look();
    expect([keeping.room(), keeping.persisted()]).toEqual([{ used: 10, quota: 1000 }, true]);
    (navigator.storage.estimate as jasmine.Spy).and.resolveTo({});
    await keeping.look();
    expect(keeping.room()).toBeNull();
    (navigator.storage.estimate as jasmine.Spy).and.rejectWith(new Error('no'));
    await keeping.look();
    expect(keeping.room()).toBeNull();
  });
});
