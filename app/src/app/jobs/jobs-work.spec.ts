import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { Database } from '../data/database';
import { Exchange, ExchangeProblem } from '../data/exchange';
import { JobBook } from '../data/job-book';
import { JobFiles, type Brought } from '../data/job-files';
import { sampleJob, setUp, tearDown, until } from '../testing';
import { JobShelf } from './job-shelf';
import { JobsWork } from './jobs-work';

describe('work on whole jobs', () => {
  let db: Database;
  let work: JobsWork;
  let went: unknown[][];

  beforeEach(() => {
    db = setUp(new Database(`jobs-work-${Date.now()}-${Math.random()}`), [provideRouter([]), JobShelf, JobsWork]);
    work = TestBed.inject(JobsWork);
    went = [];
    spyOn(TestBed.inject(Router), 'navigate').and.callFake((path: readonly unknown[]) => {
      went.push([...path]);
      return Promise.resolve(true);
    });
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('makes a job under a name, and none without one', async () => {
    work.name();
    await work.create('   ');
    expect(went).toEqual([]);
    await work.create(' Hut ');
    expect(went[0]?.at(-1)).toBe('spec');
    expect((await TestBed.inject(JobBook).get(went[0]?.[1] as string))?.doc).toEqual(jasmine.objectContaining({ name: 'Hut' }));
    expect(work.naming()).toBeNull();
  });

  it('makes a job like another: its site and chargers, and nothing of what was done there', async () => {
    const first = { ...sampleJob(), name: 'Barge', notes: 'seen on Monday' };
    const id = await TestBed.inject(JobBook).add(first, 'New');
    const shelf = TestBed.inject(JobShelf);
    await until(() => shelf.jobs().length === 1, 'the job is listed');
    work.name(shelf.jobs()[0]);
    expect(work.naming()).toEqual({ like: id, name: 'Barge, again' });
    await work.create('Barge two');
    expect(went[0]?.at(-1)).toBe('system');
    const doc = (await TestBed.inject(JobBook).get(went[0]?.[1] as string))?.doc as typeof first;
    expect(doc.name).toBe('Barge two');
    expect(doc.system.chargers.length).toBe(first.system.chargers.length);
    expect(doc.tests).toEqual([]);
  });

  it('says what is under way, and what came of it, in one place', async () => {
    let end: (brought: Brought) => void = () => undefined;
    spyOn(TestBed.inject(JobFiles), 'openDemo').and.returnValue(new Promise((resolve) => (end = resolve)));
    const under = work.openDemo();
    expect(work.busy()).toBe('Opening the demo');
    end({ ok: false, problems: [{ code: 'file', text: 'The file is empty.' }] } as unknown as Brought);
    await under;
    expect(work.busy()).toBeNull();
    expect(work.problems().map((p) => p.text)).toEqual(['The file is empty.']);
    await work.take({ ok: true, id: 'x', notes: ['It was merged.'] });
    expect(work.problems()).toEqual([]);
    expect(work.notes()).toEqual(['It was merged.']);
  });

  it('waits for an answer where a job meets one that is here, or a backup is opened, and forgets both when it is given', async () => {
    await work.take({ ok: true, meets: { name: 'Barge' } } as unknown as Brought);
    expect(work.meeting()).not.toBeNull();
    work.settled(['Both are here now.']);
    expect(work.meeting()).toBeNull();
    expect(work.notes()).toEqual(['Both are here now.']);
    await work.take({ ok: true, backup: { jobs: [] } } as unknown as Brought);
    expect(work.backup()).not.toBeNull();
    work.sisterId.set('barge');
    work.settled(null);
    expect(work.backup()).toBeNull();
    expect(work.sisterId()).toBeNull();
    expect(work.notes()).toEqual([]);
  });

  it('hands a job over, and says why it could not in the words of the exchange', async () => {
    const id = await TestBed.inject(JobBook).add({ ...sampleJob(), name: 'Barge' }, 'New');
    const give = spyOn(TestBed.inject(Exchange), 'give').and.resolveTo();
    await work.give(id);
    expect(work.notes()[0]).toContain('“Barge” waits');
    give.and.rejectWith(new ExchangeProblem('The other device is not there.'));
    await work.give(id);
    expect(work.problems()[0]?.text).toBe('The other device is not there.');
    expect(work.notes()).toEqual([]);
  });
});

describe('the shelf of jobs', () => {
  let db: Database;
  let shelf: JobShelf;
  beforeEach(async () => {
    db = setUp(new Database(`shelf-${Date.now()}-${Math.random()}`), [provideRouter([]), JobShelf, JobsWork]);
    shelf = TestBed.inject(JobShelf);
    const book = TestBed.inject(JobBook);
    await book.add({ ...sampleJob(), id: 'a', name: 'Hut on the moor' }, 'New');
    await book.add({ ...sampleJob(), id: 'b', name: 'Barge' }, 'New');
    await until(() => shelf.jobs().length === 2, 'both are listed');
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('finds a job by all the words typed, in any order, whatever their case', () => {
    shelf.search.set('MOOR hut');
    expect(shelf.jobs().map((j) => j.name)).toEqual(['Hut on the moor']);
    shelf.search.set('moor barge');
    expect(shelf.jobs()).toEqual([]);
  });

  it('shows what is put away only where that is asked for, and counts it there', async () => {
    await TestBed.inject(JobsWork).archive('a', true);
    await until(() => shelf.jobs().length === 1, 'one is put away');
    expect(shelf.filters().map((f) => [f.id, f.count])).toEqual([
      ['all', 1],
      ['stops', jasmine.any(Number)],
      ['due', jasmine.any(Number)],
      ['archived', 1],
    ] as never);
    shelf.filter.set('archived');
    expect(shelf.jobs().map((j) => j.id)).toEqual(['a']);
    expect(shelf.where()).toBe('2 jobs on this device');
  });
});
