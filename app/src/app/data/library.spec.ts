import { TestBed } from '@angular/core/testing';
import { sheetSchema } from '@calm-keel/core/sheet';
import { sampleJob, setUp, until } from '../testing';
import { DATABASE } from './job-book';
import { Library } from './library';

describe('the library', () => {
  const own = () => sheetSchema.parse({ ...sampleJob().sheet, id: 'mine', battery: 'Mine' });

  it('has what ships with the application, and one’s own before it', async () => {
    setUp();
    const library = TestBed.inject(Library);
    TestBed.tick();
    await until(() => library.cards().length > 5, 'the shipped cards are there');
    expect(library.broken()).toBeFalse();
    await library.putSheet(own());
    await until(() => library.sheets()[0]?.id === 'mine', 'the own sheet is there');
    await library.removeSheet('mine');
    await until(() => library.sheets().every((s) => s.id !== 'mine'), 'it is gone');
  });

  it('an own card with a shipped id stands in its place, once', async () => {
    setUp();
    const library = TestBed.inject(Library);
    TestBed.tick();
    await until(() => library.cards().length > 5, 'the shipped cards are there');
    const shipped = library.cards().find((c) => c.id === 'varrow-p15')!;
    await library.putCard({ ...shipped, model: 'P15, mine' });
    await until(() => library.cards()[0]?.model === 'P15, mine', 'the own card stands first');
    expect(library.cards().filter((c) => c.id === 'varrow-p15').length).toBe(1);
  });

  it('still gives one’s own when what ships cannot be read, and says that it cannot', async () => {
    spyOn(window, 'fetch').and.resolveTo(new Response('gone', { status: 404 }));
    const database = setUp();
    await TestBed.inject(DATABASE).sheets.put(own());
    const library = TestBed.inject(Library);
    TestBed.tick();
    await until(() => library.broken(), 'it is noticed');
    await until(() => library.sheets().length === 1, 'the own sheet is there');
    expect(library.cards()).toEqual([]);
    await database.delete();
  });
});
