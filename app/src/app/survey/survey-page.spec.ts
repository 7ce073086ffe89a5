import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { quickCard } from '@calm-keel/core/card';
import { withItem, type Survey } from '@calm-keel/core/survey';
import type { Database } from '../data/database';
import { SurveyStore } from '../data/survey-store';
import { setUp, tearDown, until } from '../testing';
import { SurveyPage } from './survey-page';

describe('the page of a survey', () => {
  let database: Database;
  afterEach(() => tearDown(database));

  const item = (survey: Survey, id: string, label: string): Survey =>
    withItem(survey, { id, label, menu: [], shown: '28.0', role: 'absorbVoltage', unit: 'V', options: [], looked: true });

  async function open(change?: (survey: Survey) => Survey) {
    database = setUp(undefined, [provideRouter([])]);
    const store = TestBed.inject(SurveyStore);
    await store.begin(quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [12, 24], inputVoltsMax: 100 }));
    const fixture = TestBed.createComponent(SurveyPage);
    fixture.componentRef.setInput('id', 'mine');
    fixture.detectChanges();
    await until(() => store.state() === 'ready', 'the survey is there');
    if (change) store.edit('Note', change);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const text = (): string => host.textContent.replace(/\s+/g, ' ');
    const key = (name: string, more: KeyboardEventInit = {}): void => {
      document.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true, ...more }));
      fixture.detectChanges();
    };
    const press = (words: string): void => {
      const found = [...host.querySelectorAll('button')].find((b) => b.textContent.trim().startsWith(words));
      if (!found) throw new Error(`no button “${words}” in ${text()}`);
      found.click();
      fixture.detectChanges();
    };
    return { store, fixture, host, text, key, press };
  }

  it('begins at the plate, leads back to the library, and marks where one is', async () => {
    const { host, text } = await open();
    expect(text()).toContain('Ostmark Q40');
    expect(host.querySelector('.leave')?.getAttribute('href')).toBe('/library');
    const marks = [...host.querySelectorAll('.ruler i')].map((m) => m.className);
    expect(marks.filter((m) => m.includes('here'))).toEqual([marks[0]!]);
  });

  it('leafs through the settings by keys, not past their ends, and says which one it is', async () => {
    const { store, key, text } = await open((survey) => ({
      ...item(item(survey, 'i1', 'bUL'), 'i2', 'FLo'),
      at: { part: 'walk', item: 'i1' },
    }));
    expect(text()).toMatch(/Survey\. Setting 1/);
    expect(text()).toContain('2 settings so far');
    key('PageUp');
    expect(store.survey()?.at.item).toBe('i1');
    key('PageDown');
    expect([store.survey()?.at.item, text().includes('Setting 2')]).toEqual(['i2', true]);
    key('PageDown');
    expect(store.survey()?.at.item).toBe('i2');
  });

  it('adds a setting from its list, and Escape closes the list without one', async () => {
    const { store, key, press, host } = await open((survey) => ({ ...item(survey, 'i1', 'bUL'), at: { part: 'walk', item: 'i1' } }));
    press('List');
    expect(host.querySelector('ck-survey-list')).not.toBeNull();
    // Over the list the keys of the walk do nothing.
    key('PageDown');
    expect(store.survey()?.items.length).toBe(1);
    key('Escape');
    expect(host.querySelector('ck-survey-list')).toBeNull();
    press('List');
    press('Add a setting at the end');
    expect(store.survey()?.items.map((i) => i.label)).toEqual(['bUL', '']);
    expect(host.querySelector('ck-survey-list')).toBeNull();
  });

  it('drops what was begun and left empty once the list is ended', async () => {
    const { store, press } = await open((survey) => ({
      ...withItem(item(survey, 'i1', 'bUL'), { id: 'i2', label: '', menu: [], shown: '', options: [], looked: false }),
      at: { part: 'walk', item: 'i2' },
    }));
    press('There is no more: the list ends here');
    expect([store.survey()?.items.map((i) => i.id), store.survey()?.walked, store.survey()?.at.part]).toEqual([['i1'], true, 'habits']);
  });

  it('takes one step back by Ctrl+Z, and not where text is typed', async () => {
    const { store, key, host } = await open((survey) => ({ ...item(survey, 'i1', 'bUL'), at: { part: 'walk', item: 'i1' } }));
    const field = host.querySelector('input')!;
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true }));
    await store.flush();
    expect(store.survey()?.items.length).toBe(1);
    key('z', { ctrlKey: true });
    await until(() => store.survey()?.items.length === 0, 'the setting is gone again');
    expect(store.survey()?.at.part).toBe('plate');
  });

  it('of a charger on a job leads back to where it was begun', async () => {
    const { store, host, fixture } = await open();
    store.edit('On a job', (survey) => ({ ...survey, on: { job: 'barge', device: 'aft' } }));
    fixture.detectChanges();
    expect(host.querySelector('.leave')?.getAttribute('href')).toBe('/job/barge/system');
    fixture.componentRef.setInput('from', 'program');
    fixture.detectChanges();
    expect(host.querySelector('.leave')?.getAttribute('href')).toBe('/job/barge/program');
    expect(TestBed.inject(Router).url).toBe('/');
  });
});
