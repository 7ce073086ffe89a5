import { sampleJob } from '../testing';
import { UnsavedChanges } from './unsaved';

describe('changes that are held beside the database', () => {
  const changes = { id: 'sample', name: 'Sample', label: 'Rename', rev: 3, at: 1000, doc: { ...sampleJob(), name: 'Held' } };
  beforeEach(() => {
    localStorage.clear();
  });
  afterEach(() => {
    localStorage.clear();
  });

  it('come back as they were, one entry for each job and page, the newest first', () => {
    const [one, two] = [new UnsavedChanges(), new UnsavedChanges()];
    expect(one.page).not.toBe(two.page);
    expect([one.hold(changes), one.hold({ ...changes, label: 'Note', at: 2000 }), two.hold({ ...changes, at: 3000 })]).toEqual([true, true, true]);
    one.look();
    expect(one.all()).toEqual([
      { ...changes, at: 3000, page: two.page },
      { ...changes, label: 'Note', at: 2000, page: one.page },
    ]);
    one.drop({ id: 'sample', page: two.page });
    expect(one.all().map((u) => u.page)).toEqual([one.page]);
  });

  it('of another program, cut short or altered are left where they are and not told of', () => {
    const held = new UnsavedChanges();
    held.hold(changes);
    const key = Object.keys(localStorage).find((k) => k.startsWith('calm-keel.unsaved.')) ?? '';
    const text = localStorage.getItem(key) ?? '';
    for (const [i, bad] of [
      '',
      'null',
      '7',
      text.slice(0, 400),
      text.replace('"rev":3', '"rev":"3"'),
      JSON.stringify({ ...JSON.parse(text), doc: '{}' }),
    ].entries())
      localStorage.setItem(`calm-keel.unsaved.bad.${i}`, bad);
    // Its name must be what it says of itself.
    localStorage.setItem('calm-keel.unsaved.elsewhere.sample', text);
    held.look();
    expect(held.all().map((u) => u.doc.name)).toEqual(['Held']);
    expect(Object.keys(localStorage).filter((k) => k.startsWith('calm-keel.unsaved.')).length).toBe(8);
  });

  it('that find no room there are not held in an older form either', () => {
    const held = new UnsavedChanges();
    held.hold(changes);
    spyOn(Storage.prototype, 'setItem').and.throwError('full');
    expect([held.hold({ ...changes, label: 'Note' }), held.all()]).toEqual([false, []]);
  });
});
