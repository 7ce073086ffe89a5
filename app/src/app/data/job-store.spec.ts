import { createEnvironmentInjector, effect, EnvironmentInjector } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { jobVersion, type Job } from '@calm-keel/core/job';
import { sampleJob, setUp, tearDown, until } from '../testing';
import type { Database } from './database';
import { Subject, throwError } from 'rxjs';
import { JobBook, type Watched } from './job-book';
import { JobStore } from './job-store';
import { UnsavedChanges } from './unsaved';

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
    for (const page of pages.splice(0)) page.destroy();
    await tearDown(db);
  });
  const pages: EnvironmentInjector[] = [];
  /** The store of another tab. */
  const secondPage = (): JobStore => {
    const page = createEnvironmentInjector([JobStore], TestBed.inject(EnvironmentInjector));
    pages.push(page);
    return page.get(JobStore);
  };

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
    const other = secondPage();
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

  it('holds what found no room beside the database, through a reload, until it is stored or given up', async () => {
    const held = TestBed.inject(UnsavedChanges);
    const quota = Object.assign(new Error('aborted'), { name: 'AbortError', inner: { name: 'QuotaExceededError' } });
    const write = spyOn(book, 'edit').and.rejectWith(quota);
    store.edit('Rename', rename('Unsaved'));
    await until(() => store.save().kind === 'failed', 'the failure is shown');
    store.edit('Note', (job) => ({ ...job, note: 'n' }));
    await until(() => held.all()[0]?.label === 'Note', 'the second is held too');
    const [entry] = held.all();
    expect([entry?.id, entry?.doc.name, entry?.doc.note, entry?.name, held.all().length]).toEqual([id, 'Unsaved', 'n', 'Unsaved', 1]);
    expect(store.unstored().map((u) => [u.id, u.label, u.held])).toEqual([[id, 'Note', 'browser']]);
    // Another page, or this one loaded anew, finds it.
    expect(new UnsavedChanges().all().map((u) => u.doc.name)).toEqual(['Unsaved']);
    const leaving = new Event('beforeunload', { cancelable: true });
    store.askBeforeUnload(leaving);
    expect(leaving.defaultPrevented).toBeTrue();
    write.and.callThrough();
    await store.flush();
    expect([held.all(), store.unstored(), (await db.jobs.get(id))?.doc.note]).toEqual([[], [], 'n']);
    const quiet = new Event('beforeunload', { cancelable: true });
    store.askBeforeUnload(quiet);
    expect(quiet.defaultPrevented).toBeFalse();
  });

  it('stays in view with what was typed when the database stops telling of it, and hears again once something is stored', async () => {
    const heard = new Subject<Watched>();
    const watch = spyOn(book, 'watch').and.returnValue(heard);
    const second = await book.add({ ...sampleJob(), id: 'second', name: 'Other' }, 'New');
    store.open(second);
    heard.next({ row: await book.get(second), undo: null, redo: null });
    expect(store.state()).toBe('ready');
    const write = spyOn(book, 'edit').and.rejectWith(Object.assign(new Error('gone'), { name: 'UnknownError' }));
    store.edit('Note', (job) => ({ ...job, note: 'typed' }));
    heard.error(Object.assign(new Error('gone'), { name: 'UnknownError' }));
    await until(() => store.save().kind === 'failed', 'it is not stored');
    expect([store.state(), store.job()?.note, store.notice()]).toEqual(['ready', 'typed', jasmine.stringContaining('cannot reach its storage')]);
    write.and.callThrough();
    watch.and.callThrough();
    await store.flush();
    expect(store.save().kind).toBe('saved');
    await book.edit(second, 'Rename', rename('From elsewhere'), '');
    await until(() => store.job()?.name === 'From elsewhere', 'it hears again');
    // A job that is not in view yet cannot be shown.
    watch.and.returnValue(throwError(() => new Error('gone')));
    store.open(id);
    expect([store.state(), store.problems()[0]?.code]).toEqual(['broken', 'storage']);
  });

  it('given up, the job stands as it is stored', async () => {
    const write = spyOn(book, 'edit').and.rejectWith(new Error('no'));
    store.edit('Rename', rename('Unsaved'));
    await until(() => store.save().kind === 'failed', 'the failure is shown');
    store.giveUp(id);
    write.and.callThrough();
    expect([store.job()?.name, store.save().kind, TestBed.inject(UnsavedChanges).all()]).toEqual(['Sample', 'saved', []]);
    store.edit('Note', (job) => ({ ...job, note: 'later' }));
    await saved();
    expect([(await db.jobs.get(id))?.doc.name, (await db.jobs.get(id))?.doc.note]).toEqual(['Sample', 'later']);
  });

  it('says when there is no room beside the database either', async () => {
    spyOn(book, 'edit').and.rejectWith(new Error('no'));
    spyOn(Storage.prototype, 'setItem').and.throwError('full');
    store.edit('Rename', rename('Unsaved'));
    await until(() => store.save().kind === 'failed', 'the failure is shown');
    expect(store.unstored()[0]?.held).toBe('page');
    store.giveUp(id);
  });

  it('writes what was changed in a job that has been left for another, and mixes nothing up', async () => {
    const second = await book.add({ ...sampleJob(), id: 'second', name: 'Other' }, 'New');
    const gate = new Promise<void>((resolve) => setTimeout(resolve, 60));
    const plain = book.edit.bind(book);
    spyOn(book, 'edit').and.callFake(async (...args) => {
      await gate;
      return plain(...args);
    });
    store.edit('Rename', rename('First'));
    store.edit('Note', (job) => ({ ...job, note: 'first' }));
    store.open(second);
    await until(() => store.state() === 'ready', 'the other is in view');
    expect(store.job()?.name).toBe('Other');
    store.edit('Note', (job) => ({ ...job, note: 'second' }));
    await store.flush();
    expect([store.job()?.name, store.job()?.note]).toEqual(['Other', 'second']);
    const rows = await Promise.all([id, second].map((key) => db.jobs.get(key)));
    expect(rows.map((row) => [row?.doc.name, row?.doc.note])).toEqual([
      ['First', 'first'],
      ['Other', 'second'],
    ]);
  });

  it('of which one finds no room does not keep another waiting', async () => {
    const second = await book.add({ ...sampleJob(), id: 'second', name: 'Other' }, 'New');
    const plain = book.edit.bind(book);
    spyOn(book, 'edit').and.callFake((...args) => (args[0] === id ? Promise.reject(new Error('no')) : plain(...args)));
    store.edit('Rename', rename('Stuck'));
    await until(() => store.save().kind === 'failed', 'the first fails');
    store.open(second);
    await until(() => store.state() === 'ready', 'the other is in view');
    store.edit('Note', (job) => ({ ...job, note: 'stored' }));
    await store.flush();
    expect(store.save().kind).toBe('saved');
    expect([(await db.jobs.get(second))?.doc.note, store.unstored().map((u) => u.id)]).toEqual(['stored', [id]]);
    store.open(id);
    await until(() => store.state() === 'ready', 'the first is in view again');
    expect([store.job()?.name, store.save().kind]).toEqual(['Stuck', 'failed']);
    store.giveUp(id);
  });

  it('shows what a backup put in the place of the job, though it was touched long ago, and the next key goes on from there', async () => {
    store.edit('Rename', rename('Newer'));
    await saved();
    await book.put(id, 'Restored', { ...sampleJob(), name: 'Restored', note: 'from the backup' }, [], [], { stamp: { updatedAt: 5 } });
    await until(() => store.job()?.name === 'Restored', 'it is shown');
    store.edit('Rename', rename('Restored and changed'));
    await saved();
    const row = await db.jobs.get(id);
    expect([row?.doc.name, row?.doc.note]).toEqual(['Restored and changed', 'from the backup']);
  });

  it('with the clock set back shows undo and another page’s work as ever', async () => {
    store.edit('Rename', rename('Second'));
    await saved();
    spyOn(Date, 'now').and.returnValue(1_000_000);
    const other = secondPage();
    other.open(id);
    await until(() => other.state() === 'ready', 'the second page is ready');
    other.edit('Note', (job) => ({ ...job, note: 'from two' }));
    await until(() => store.job()?.note === 'from two', 'this page shows it');
    store.edit('Rename', rename('Third'));
    await saved();
    expect((await db.jobs.get(id))?.doc.note).toBe('from two');
    await store.undo();
    await until(() => store.job()?.name === 'Second', 'the undo is shown');
    expect(store.job()?.note).toBe('from two');
  });

  it('tells the second of two pages that change one field what it has replaced, once, and only that one', async () => {
    const other = secondPage();
    other.open(id);
    await until(() => other.state() === 'ready', 'the second page is ready');
    store.edit('Note', (job) => ({ ...job, note: 'from one' }));
    await until(() => other.job()?.note === 'from one', 'the second page has it');
    other.edit('Rename', rename('Two'));
    await other.flush();
    expect([store.notice(), other.notice()]).toEqual([null, null]);
    other.edit('Note', (job) => ({ ...job, note: 'from two' }));
    await other.flush();
    expect(other.notice()).toBe('Note: another page had just set this to from one; your from two has replaced it. Undo brings it back.');
    expect(store.notice()).toBeNull();
    other.notice.set(null);
    other.edit('Note', (job) => ({ ...job, note: 'from two again' }));
    await other.flush();
    expect(other.notice()).toBeNull();
    await other.undo();
    await other.undo();
    await until(() => store.job()?.note === 'from one', 'undo brings it back');
  });

  it('says when its row is damaged, and what; and when undo cannot go back', async () => {
    store.edit('Rename', rename('Second'));
    await saved();
    await db.history.update([id, 0], { doc: 'gone' as never });
    expect(await store.undo()).toBeNull();
    expect(store.notice()).toContain('is damaged, so it cannot be gone back to');
    expect(store.save().kind).toBe('saved');
    await db.jobs.update(id, { updatedAt: 'x' as never });
    await until(() => store.state() === 'broken', 'the damage is noticed');
    expect(store.problems()[0]?.text).toContain('“Second” is damaged: when it was last changed is not a number.');
  });

  it('opens a job stored by version 1 and stores it anew', async () => {
    const { tolerance: _t, ...old } = sampleJob();
    const { recordLowC: _a, recordHighC: _b, bankLowC: _c, bankHighC: _d, coolingCPerHour: _e, ...site } = old.system.site;
    await db.jobs.add({
      id: 'old',
      rev: 1,
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
    await db.jobs.add({ id: 'bad', seq: 0, rev: 1, updatedAt: 1, doc });
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

  it('brings a deleted job back, and clears it away when asked', async () => {
    await book.remove(id);
    await until(() => store.state() === 'missing', 'it is gone from view');
    await book.restore(id);
    await until(() => store.state() === 'ready', 'it is back');
    await book.remove(id);
    await book.clearAway(id);
    expect(await db.jobs.count()).toBe(0);
    expect(await db.history.count()).toBe(0);
  });
});
