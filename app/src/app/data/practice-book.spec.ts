import { TestBed } from '@angular/core/testing';
import type { Exercise, Practised } from '@calm-keel/core/practice';
import { setUp, tearDown, until } from '../testing';
import type { Database } from './database';
import { PracticeBook } from './practice-book';

const exercise: Exercise = { kind: 'find', seed: 1, place: 'cabin', faults: [{ code: 'snow', spot: { device: null, role: null } }] };
const line = (id: string): Practised => ({
  id,
  by: 'KM',
  at: '2026-06-09T08:00:00Z',
  exercise,
  passed: true,
  solved: ['snow'],
  missed: [],
  wrong: [],
  hazards: [],
  hints: 0,
  steps: 2,
  seconds: 90,
});
const fileOf = (value: unknown, name = 'book.json'): File => new File([typeof value === 'string' ? value : JSON.stringify(value)], name);

describe('the book of practice on this device', () => {
  let database: Database;
  let book: PracticeBook;

  beforeEach(() => {
    database = setUp();
    book = TestBed.inject(PracticeBook);
  });
  afterEach(() => tearDown(database));

  it('lists what can be read, the oldest first, and leaves what cannot where it is', async () => {
    await book.enter({ ...line('b'), at: '2026-06-10T08:00:00Z' });
    await book.enter(line('a'));
    await database.practised.put({ id: 'c', at: '2026-06-08' } as Practised);
    await until(() => book.entries()?.length === 2, 'both lines are there');
    expect(book.entries()?.map((e) => e.id)).toEqual(['a', 'b']);
    expect(await database.practised.count()).toBe(3);
  });

  it('goes out as a file and comes in again, each line once', async () => {
    await book.enter(line('a'));
    await until(() => book.entries()?.length === 1, 'the line is there');
    const text = await book.file().text();
    expect(await book.bring(fileOf(text))).toEqual({ came: 0 });
    expect(await book.bring(fileOf({ format: 'calm-keel/practice', version: 1, entries: [line('a'), line('z')] }))).toEqual({ came: 1 });
    await until(() => book.entries()?.length === 2, 'the other came in');
  });

  it('refuses what is no book with the name of the file and of what is wrong, and changes nothing', async () => {
    const why = async (file: File): Promise<string> => {
      const came = await book.bring(file);
      return 'why' in came ? came.why : '';
    };
    expect(await why(fileOf('not json'))).toContain('“book.json” is no book of practice');
    expect(await why(fileOf({ format: 'calm-keel/job' }, 'job.json'))).toMatch(/“job\.json” is no book of practice: format/);
    expect(await why(fileOf({ format: 'calm-keel/practice', version: 1, entries: [{ ...line('a'), hints: -1 }] }))).toContain('entries.0.hints');
    expect(await database.practised.count()).toBe(0);
  });

  it('begins an exercise, takes up the newest that was not judged, and is not overwritten by a tab that is behind', async () => {
    const id = (await book.begin(exercise))!;
    expect((await book.opened(id))?.exercise).toEqual(exercise);
    expect(await book.save(id, 0, { actions: [{ do: 'log' }], claims: [], judged: false })).toBe(1);
    expect(await book.save(id, 0, { actions: [], claims: [], judged: false })).toBe('overtaken');
    expect((await book.opened(id))?.actions).toEqual([{ do: 'log' }]);
    await until(() => book.underWay()?.id === id, 'it is under way');
    await book.save(id, 1, { actions: [{ do: 'log' }], claims: [], judged: true });
    await until(() => book.underWay() === null, 'it is done');
    expect(await book.opened('other')).toBeNull();
    await database.benches.put({ ...(await database.benches.get(id))!, actions: [{ do: 'dance' } as never] });
    expect(await book.opened(id)).toBeNull();
  });

  it('lets go of the oldest exercises past twenty', async () => {
    for (let i = 0; i < 22; i++) await database.benches.put({ id: `old-${i}`, exercise, actions: [], claims: [], judged: false, rev: 0, at: i });
    await book.begin(exercise);
    expect(await database.benches.count()).toBe(20);
    expect(await database.benches.get('old-2')).toBeUndefined();
    expect(await database.benches.get('old-3')).toBeDefined();
  });

  it('remembers initials, eight letters at most, and forgets them when they are taken away', () => {
    book.setBy('  Kim Meyer ');
    expect(book.by()).toBe('Kim Meye');
    expect(localStorage.getItem('calm-keel.practice.by')).toBe('Kim Meye');
    book.setBy(' ');
    expect(localStorage.getItem('calm-keel.practice.by')).toBeNull();
  });
});
