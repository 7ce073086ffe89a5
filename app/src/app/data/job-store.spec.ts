import { createEnvironmentInjector, effect, EnvironmentInjector } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { jobVersion, type Job } from '@calm-keel/core';
import { sampleJob, setUp, tearDown, until } from '../testing';
import type { Database } from './database';
import { JobBook } from './job-book';
import { JobStore } from './job-store';

describe('the job in view', () => {
  let db: Database;
  let book: JobBook;
  let store: JobStore;
  let id: string;

  beforeEach(async () => {
    db = setUp();
    book = TestBed.inject(JobBook);
    store = TestBed.inject(JobStore);
    id = await book.add(sampleJob(), 'New job');
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
  });
  afterEach(async () => {
    await tearDown(db);
  });

  const rename = (name: string) => (job: Job) => ({ ...job, name });
  const saved = () => until(() => store.save().kind === 'saved', 'it is saved');

  it('shows an edit at once and keeps it', async () => {
    expect(store.edit('Rename', rename('Second'))).toEqual([]);
    expect(store.job()?.name).toBe('Second');
    await saved();
    expect((await db.jobs.get(id))?.doc.name).toBe('Second');
  });

  it('never shows an appended entry twice, however the answer of the database falls', async () => {
    const seen: number[] = [];
    const visits = TestBed.runInInjectionContext(() => effect(() => void seen.push(store.job()?.visits.length ?? 0)));
    for (let i = 0; i < 12; i++) {
      store.edit('Visit', (job) => ({
        ...job,
        visits: [...job.visits, { id: `v-${job.visits.length}`, date: '2026-06-10', by: '', purpose: '', note: '', photos: [], closed: null }],
      }));
      TestBed.tick();
      await new Promise((resolve) => setTimeout(resolve, i * 2));
      TestBed.tick();
      // What is shown is what was done so far: no more, and never less again.
      expect(store.job()?.visits.length).toBe(i + 1);
    }
    await saved();
    visits.destroy();
    expect(seen).toEqual([...seen].sort((a, b) => a - b));
  });

  it('refuses an edit that would break the job, and says why', async () => {
    const problems = store.edit('Rename', rename(''));
    expect(problems[0]?.text).toContain('name');
    expect(store.job()?.name).toBe('Sample');
    await saved();
    expect(store.undoLabel()).toBeNull();
  });

  it('undoes and redoes, and a new edit after an undo drops what was undone', async () => {
    store.edit('Rename', rename('Second'));
    store.edit('Note', (job) => ({ ...job, note: 'x' }));
    await saved();
    await until(() => store.undoLabel() === 'Note', 'undo knows the last step');
    expect(await store.undo()).toBe('Note');
    await until(() => store.job()?.note === '', 'the note is gone');
    expect(await store.undo()).toBe('Rename');
    expect(await store.undo()).toBeNull();
    expect(await store.redo()).toBe('Rename');
    await until(() => store.job()?.name === 'Second', 'the name is back');
    store.edit('Rename', rename('Third'));
    await saved();
    expect(await store.redo()).toBeNull();
  });

  it('makes one step of quick edits of the same kind, and two of different kinds', async () => {
    for (const name of ['A', 'AB', 'ABC']) store.edit('Rename', rename(name), 'name');
    store.edit('Note', (job) => ({ ...job, note: 'x' }), 'note');
    await saved();
    await store.undo();
    await store.undo();
    await until(() => store.job()?.name === 'Sample', 'both steps are undone');
    expect(await store.undo()).toBeNull();
  });

  it('agrees with a second tab, and both tabs’ edits stand', async () => {
    const other = createEnvironmentInjector([JobStore], TestBed.inject(EnvironmentInjector)).get(JobStore);
    expect(other).not.toBe(store);
    other.open(id);
    await until(() => other.state() === 'ready', 'the second tab is ready');
    store.edit('Rename', rename('From one'));
    other.edit('Note', (job) => ({ ...job, note: 'from two' }));
    await until(() => store.job()?.note === 'from two' && other.job()?.name === 'From one', 'both tabs show both edits');
    expect(await other.undo()).not.toBeNull();
  });

  it('keeps the work on the page when the disk is full, says so, and writes it later', async () => {
    const quota = Object.assign(new Error('aborted'), { name: 'AbortError', inner: { name: 'QuotaExceededError' } });
    const write = spyOn(book, 'edit').and.rejectWith(quota);
    store.edit('Rename', rename('Unsaved'));
    await until(() => store.save().kind === 'failed', 'the failure is shown');
    const state = store.save();
    expect(state.kind === 'failed' && state.why).toContain('no room left');
    expect(store.job()?.name).toBe('Unsaved');
    expect((await db.jobs.get(id))?.doc.name).toBe('Sample');
    write.and.callThrough();
    await store.flush();
    expect(store.save().kind).toBe('saved');
    expect((await db.jobs.get(id))?.doc.name).toBe('Unsaved');
  });

  it('opens a job stored by version 1 and stores it anew', async () => {
    const { tolerance: _t, ...old } = sampleJob();
    const { recordLowC: _a, recordHighC: _b, bankLowC: _c, bankHighC: _d, coolingCPerHour: _e, ...site } = old.system.site;
    await db.jobs.add({
      id: 'old',
      seq: 0,
      updatedAt: 1,
      doc: { ...old, id: 'old', version: 1, system: { ...old.system, site: { ...site, coldestC: -5, hottestC: 30 } } } as unknown as Job,
    });
    store.open('old');
    await until(() => store.state() === 'ready', 'the old job is ready');
    expect(store.job()?.system.site.bankLowC).toBe(-5);
    await until(() => store.save().kind === 'saved', 'settled');
    const stored = async () => (await db.jobs.get('old'))?.doc.version;
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(await stored()).toBe(jobVersion);
  });

  it('says when a stored job is damaged, and leaves it as it is', async () => {
    const doc = { ...sampleJob(), id: 'bad', system: 'gone' } as unknown as Job;
    await db.jobs.add({ id: 'bad', seq: 0, updatedAt: 1, doc });
    store.open('bad');
    await until(() => store.state() === 'broken', 'the damage is noticed');
    expect(store.problems().length).toBeGreaterThan(1);
    expect((await db.jobs.get('bad'))?.doc).toEqual(doc);
  });

  it('undoes an edit that is still being written, and the one before it', async () => {
    store.edit('One', (job) => ({ ...job, note: 'one' }));
    store.edit('Two', (job) => ({ ...job, note: 'two' }));
    expect(await store.undo()).toBe('Two');
    await until(() => store.job()?.note === 'one', 'the second is undone');
    store.edit('Three', (job) => ({ ...job, note: 'three' }));
    const undone = [store.undo(), store.undo()];
    expect((await Promise.all(undone)).sort()).toEqual(['One', 'Three']);
    await until(() => store.job()?.note === '', 'all of them are undone');
  });

  it('never overwrites a job with the same id', async () => {
    expect(await book.add({ ...sampleJob(), name: 'Other' }, 'Again')).toBe('sample-2');
    expect((await db.jobs.get(id))?.doc.name).toBe('Sample');
  });

  it('brings a deleted job back, and throws it away after thirty days', async () => {
    await book.remove(id);
    await until(() => store.state() === 'missing', 'it is gone from view');
    await book.restore(id);
    await until(() => store.state() === 'ready', 'it is back');
    await book.remove(id);
    await book.purge(Date.now() + 31 * 24 * 3600 * 1000);
    expect(await db.jobs.count()).toBe(0);
    expect(await db.history.count()).toBe(0);
  });
});
