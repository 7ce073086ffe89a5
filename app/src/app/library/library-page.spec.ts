import { TestBed } from '@angular/core/testing';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import type { Database } from '../data/database';
import { Library } from '../data/library';
import { sampleCard, setUp, tearDown, until } from '../testing';
import { LibraryPage } from './library-page';

const solar = { kind: 'solarMppt', ratings: { outputA: 30, arrayVoltsMax: 100, systemVolts: [24], chemistries: ['lfp'] }, parameters: [] };

describe('the library’s page', () => {
  let database: Database;
  afterEach(() => tearDown(database));

  const button = (page: HTMLElement, name: string): HTMLButtonElement | undefined =>
    [...page.querySelectorAll('button')].find((b) => b.textContent.trim() === name);

  const title = (page: HTMLElement): string | undefined => page.querySelector('h2.title')?.textContent.trim();

  it('offers nothing to be done with an item before there is one, and does not show another in the place of the one that is on its way', async () => {
    let send: (() => void) | undefined;
    const shipped = [sampleCard({ id: 'varrow-s45', ...solar, model: 'Shipped' })];
    spyOn(window, 'fetch').and.callFake(async (address) => {
      const cards = new Request(address).url.includes('cards');
      if (cards) await new Promise<void>((resolve) => (send = resolve));
      return new Response(JSON.stringify(cards ? shipped : []));
    });
    database = setUp(undefined, [provideRouter([{ path: 'library', component: LibraryPage }], withComponentInputBinding())]);
    const library = TestBed.inject(Library);
    await library.putCard(sampleCard({ id: 'mine', ...solar, model: 'Mine' }));
    const harness = await RouterTestingHarness.create('/library');
    const fixture = harness.fixture;
    const page = fixture.nativeElement as HTMLElement;
    fixture.detectChanges();
    await until(() => library.ownCards().length === 1 && send !== undefined, 'the own card is there and the shipped ones are not');
    fixture.detectChanges();
    expect(title(page)).toBe('The library is being read');
    expect(button(page, 'Make a copy of my own')).toBeUndefined();
    expect(button(page, 'Save as a file')).toBeUndefined();
    expect(button(page, 'Bring in a file')).toBeDefined();

    send!();
    await until(() => title(page) === 'Plain Shipped', 'the shipped card is shown');
    button(page, 'Make a copy of my own')!.click();
    await until(() => title(page) === 'Plain Shipped, own' && button(page, 'Survey it') !== undefined, 'the copy is shown, and can be surveyed');
    expect(library.ownCards().length).toBe(2);
  });
});
