import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { sampleJob, setUp, tearDown, until } from '../testing';
import type { Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { JobFiles } from '../data/job-files';
import { JobStore } from '../data/job-store';
import { UnsavedChanges } from '../data/unsaved';
import { UnsavedPanel } from './unsaved-panel';

describe('the strip of changes that are not saved', () => {
  let db: Database;
  let book: JobBook;
  let fixture: ComponentFixture<UnsavedPanel>;
  const held = { id: 'sample', name: 'Sample', label: 'Note on a visit', rev: 1, at: Date.UTC(2026, 5, 9, 14, 6), doc: { ...sampleJob(), note: 'held' } };
  const show = (job?: string): void => {
    fixture = TestBed.createComponent(UnsavedPanel);
    if (job !== undefined) fixture.componentRef.setInput('job', job);
    fixture.detectChanges();
  };
  const text = () => (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ');
  const press = (name: string) => {
    const button = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find((b) => b.textContent.trim() === name);
    if (!button) throw new Error(`no button “${name}” in ${text()}`);
    button.click();
    fixture.detectChanges();
  };

  beforeEach(async () => {
    localStorage.clear();
    db = setUp();
    book = TestBed.inject(JobBook);
    await book.add(sampleJob(), 'New');
  });
  afterEach(async () => {
    await tearDown(db);
  });
  /** As another page, or this one before it was loaded anew, has left them. */
  const left = () => {
    TestBed.inject(UnsavedChanges);
    new UnsavedChanges().hold(held);
    TestBed.inject(UnsavedChanges).look();
  };

  /** A job in view of which an edit found no room. */
  const stuck = async () => {
    const store = TestBed.inject(JobStore);
    store.open('sample');
    await until(() => store.state() === 'ready', 'the job is there');
    const write = spyOn(book, 'edit').and.rejectWith(Object.assign(new Error('full'), { name: 'QuotaExceededError' }));
    store.edit('Rename', (job) => ({ ...job, name: 'Mine' }));
    await until(() => store.unstored().length === 1, 'it fails');
    return { store, write };
  };

  it('says nothing where nothing waits, and only what is of the job it is asked for', () => {
    show();
    expect(text().trim()).toBe('');
    left();
    fixture.detectChanges();
    expect(text()).toContain('“Sample”: changes of 9 June');
    expect(text()).toContain('Last of them: Note on a visit.');
    show('other');
    expect(text().trim()).toBe('');
    show('sample');
    expect(text()).toContain('“Sample”');
  });

  it('puts them into the job as one step that undo takes back', async () => {
    left();
    show();
    press('Put them into the job');
    await until(() => TestBed.inject(UnsavedChanges).all().length === 0, 'they are put back');
    expect((await book.get('sample'))?.doc.note).toBe('held');
    expect(await book.step('sample', -1)).toBe('Put unsaved changes back');
    expect((await book.get('sample'))?.doc.note).toBe('');
  });

  it('brings a job back with them that is no longer here', async () => {
    await db.jobs.clear();
    left();
    show();
    press('Put them into the job');
    await until(() => TestBed.inject(UnsavedChanges).all().length === 0, 'they are put back');
    expect((await book.get('sample'))?.doc.note).toBe('held');
  });

  it('keeps them when the job cannot take them, and says why', async () => {
    left();
    show();
    spyOn(book, 'edit').and.rejectWith(Object.assign(new Error('full'), { name: 'QuotaExceededError' }));
    press('Put them into the job');
    await until(() => {
      fixture.detectChanges();
      return text().includes('no room left');
    }, 'it says why');
    expect(TestBed.inject(UnsavedChanges).all().length).toBe(1);
  });

  it('saves them to a file, and discards them only when asked twice', () => {
    left();
    show();
    const saved = spyOn(TestBed.inject(JobFiles), 'saveDocument');
    press('Save the job to a file');
    expect(saved.calls.mostRecent().args[0].note).toBe('held');
    press('Discard');
    press('No, keep them');
    expect(TestBed.inject(UnsavedChanges).all().length).toBe(1);
    press('Discard');
    press('Yes, discard these changes');
    expect(TestBed.inject(UnsavedChanges).all().length).toBe(0);
  });

  it('brings a job back that the storage has lost under this page, with what was typed, and goes on with it', async () => {
    const { store, write } = await stuck();
    // The count of the database goes with it.
    for (const table of db.tables) await table.clear();
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect([store.state(), store.job()?.name]).toEqual(['ready', 'Mine']);
    show();
    press('Try again');
    await until(() => store.unstored().length === 0, 'it is stored');
    write.and.callThrough();
    expect((await book.get('sample'))?.doc.name).toBe('Mine');
    await until(() => store.state() === 'ready' && store.job()?.name === 'Mine', 'it is shown as it is stored');
    store.edit('Note', (job) => ({ ...job, note: 'and on' }));
    await store.flush();
    expect((await book.get('sample'))?.doc).toEqual(jasmine.objectContaining({ name: 'Mine', note: 'and on' }));
  });

  it('tells of this page’s own where they are, tries again, and gives them up', async () => {
    const { store, write } = await stuck();
    show();
    expect(text()).toContain('“Mine”: changes you have just made are not saved.');
    expect(text()).toContain('Until then they are held in this browser and survive a reload.');
    press('Try again');
    await until(() => write.calls.count() === 2, 'it is tried again');
    await until(() => store.save().kind === 'failed', 'it fails again');
    press('Discard');
    press('Yes, discard these changes');
    expect([store.job()?.name, store.unstored().length, TestBed.inject(UnsavedChanges).all().length]).toEqual(['Sample', 0, 0]);
  });
});
