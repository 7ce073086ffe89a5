import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { sampleJob, setUp, tearDown, until } from '../testing';
import type { DamagedRow, Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { DamagedPanel } from './damaged-panel';

describe('what is damaged on this device', () => {
  let db: Database;
  let book: JobBook;
  let fixture: ComponentFixture<DamagedPanel>;
  const row: DamagedRow = { table: 'jobs', key: 'sample', name: 'Sample', why: 'its document is missing.', raw: { id: 'sample', doc: 3 } };
  const show = (rows: readonly DamagedRow[], shelf = false): void => {
    fixture = TestBed.createComponent(DamagedPanel);
    fixture.componentRef.setInput('rows', rows);
    fixture.componentRef.setInput('shelf', shelf);
    fixture.detectChanges();
  };
  const text = () => {
    fixture.detectChanges();
    return (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ');
  };
  const buttons = () => [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].map((b) => b.textContent.trim());
  const press = (name: string) => {
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find((b) => b.textContent.trim() === name)?.click();
    fixture.detectChanges();
  };

  beforeEach(async () => {
    db = setUp();
    book = TestBed.inject(JobBook);
    await book.add(sampleJob(), 'New');
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('is listed with what is wrong and the ways out; nothing is shown where nothing is', () => {
    show([]);
    expect(text().trim()).toBe('');
    show([row]);
    expect(text()).toContain('Damaged on this device, 1');
    expect(text()).toContain('Sample: its document is missing.');
    expect(buttons()).toEqual(['Go back to the last step that can be read', 'Save it as it is', 'Put it away']);
    show([{ ...row, raw: undefined }]);
    expect(buttons()).toEqual(['Go back to the last step that can be read', 'Put it away']);
  });

  it('goes back to the last step that can be read, or says that there is none', async () => {
    await db.jobs.put({ id: 'sample', doc: 3 } as never);
    show([row]);
    press('Go back to the last step that can be read');
    await until(() => text().includes('“Sample” can be read again'), 'it is repaired');
    expect((await book.get('sample'))?.doc.name).toBe('Sample');
    await db.jobs.put({ id: 'sample', doc: 3 } as never);
    await db.history.clear();
    press('Go back to the last step that can be read');
    await until(() => text().includes('No step of its history can be read either'), 'it says so');
  });

  it('is put away as it is, put back, and deleted only when asked twice', async () => {
    await db.jobs.put({ id: 'sample', doc: 3 } as never);
    show([row], true);
    press('Put it away');
    await until(() => text().includes('Put away, cannot be read'), 'it is put away');
    fixture.componentRef.setInput('rows', []);
    expect([await db.jobs.count(), text().includes('Job Sample: its document is missing.')]).toEqual([0, true]);
    press('Put it back');
    await until(() => !text().includes('Put away, cannot be read'), 'it is back');
    expect(await db.jobs.get('sample')).toEqual({ id: 'sample', doc: 3 } as never);
    await book.putAside(row);
    await until(() => text().includes('Put away, cannot be read'), 'it is put away again');
    press('Delete it for good');
    press('No, keep it');
    expect(await db.aside.count()).toBe(1);
    press('Delete it for good');
    press('Yes, delete it for good');
    await until(() => !text().includes('Put away, cannot be read'), 'it is gone');
    expect([await db.aside.count(), await db.jobs.count()]).toEqual([0, 0]);
  });
});
