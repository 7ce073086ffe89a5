import { TestBed } from '@angular/core/testing';
import { quickCard } from '@calm-keel/core/card';
import { withItem } from '@calm-keel/core/survey';
import type { Database } from '../data/database';
import { SurveyStore } from '../data/survey-store';
import { setUp, tearDown, until } from '../testing';
import { SurveyItemStep } from './survey-item';

describe('a setting in the survey', () => {
  let database: Database;
  afterEach(() => tearDown(database));

  it('has every choice that is typed, however fast one follows the other', async () => {
    database = setUp();
    const store = TestBed.inject(SurveyStore);
    await store.begin(quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [12, 24], inputVoltsMax: 100 }));
    store.open('mine');
    await until(() => store.state() === 'ready', 'the survey is there');
    store.edit('Add', (survey) =>
      withItem(survey, { id: 'i1', label: 'bAt', menu: [], shown: 'USE', role: 'batteryType', unit: 'choice', options: [], looked: false }),
    );
    await store.flush();
    const fixture = TestBed.createComponent(SurveyItemStep);
    fixture.componentRef.setInput('item', store.survey()!.items[0]);
    fixture.detectChanges();
    const field = (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>('[aria-label="Another choice"]')!;
    // Nothing is drawn anew between them.
    for (const choice of ['GEL', 'Sld', 'FLd']) {
      field.value = choice;
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    }
    await store.flush();
    expect(store.survey()?.items[0]?.options).toEqual(['GEL', 'Sld', 'FLd']);
  });
});
