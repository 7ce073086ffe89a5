import { TestBed } from '@angular/core/testing';
import { quickCard, type Card } from '@calm-keel/core/card';
import { newJob } from '@calm-keel/core/job';
import { onItem, withItem } from '@calm-keel/core/survey';
import { setUp, tearDown, until } from '../testing';
import type { Database } from './database';
import { JobBook } from './job-book';
import { SurveyStore } from './survey-store';

const card: Card = quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [12, 24], inputVoltsMax: 100 });
const first = { id: 'i1', label: 'bU', menu: [], shown: '', options: [], looked: false };

describe('the survey in view', () => {
  let database: Database;
  let store: SurveyStore;

  beforeEach(async () => {
    database = setUp();
    store = TestBed.inject(SurveyStore);
    await store.begin(card);
    store.open('mine');
    await until(() => store.state() === 'ready', 'the survey is there');
  });
  afterEach(async () => {
    store.close();
    await tearDown(database);
  });

  const label = (): string | undefined => store.survey()?.items[0]?.label;

  it('shows an answer at once and stores it, each command once: what is turned on and off is never turned twice', async () => {
    const seen: (boolean | undefined)[] = [];
    for (let i = 0; i < 9; i++) {
      store.edit('Turn it', (survey) => ({ ...survey, runsFaster: survey.runsFaster !== true }));
      seen.push(store.survey()?.runsFaster);
    }
    expect(seen).toEqual([true, false, true, false, true, false, true, false, true]);
    await store.flush();
    expect(store.survey()?.runsFaster).toBeTrue();
    expect((await database.surveys.get('mine'))?.doc.runsFaster).toBeTrue();
  });

  it('goes back step by step, quick typing being one step, also after the page was gone', async () => {
    store.edit('Add', (survey) => withItem(survey, first));
    for (const text of ['b', 'bU', 'bUL']) store.edit('Type', (survey) => onItem(survey, 'i1', { label: text }), 'i1 label');
    await store.flush();
    store.close();
    store.open('mine');
    await until(() => label() === 'bUL' && store.undoLabel() === 'Type', 'it is read again');
    store.undo();
    await until(() => label() === 'bU', 'the typing is taken back');
    expect(store.undoLabel()).toBe('Add');
    store.undo();
    await until(() => store.survey()?.items.length === 0, 'the item is taken back');
    expect(store.undoLabel()).toBeNull();
  });

  it('applies to the newest state whichever tab wrote it', async () => {
    const row = await database.surveys.get('mine');
    await database.surveys.put({ ...row!, rev: row!.rev + 1, doc: { ...row!.doc, by: 'KM' } });
    store.edit('Choose', (survey) => ({ ...survey, way: 'list' }));
    await store.flush();
    const stored = (await database.surveys.get('mine'))!.doc;
    expect([stored.by, stored.way]).toEqual(['KM', 'list']);
    await until(() => store.survey()?.by === 'KM', 'the other tab is seen');
  });

  it('goes on with one that was begun, and says what is missing or cannot be read', async () => {
    store.edit('Add', (survey) => withItem(survey, first));
    await store.flush();
    await store.begin(card, { job: 'j', device: 'd' });
    expect((await database.surveys.get('mine'))?.doc).toEqual(
      jasmine.objectContaining({ on: { job: 'j', device: 'd' }, items: [jasmine.objectContaining({ label: 'bU' })] }),
    );
    store.open('nothing');
    await until(() => store.state() === 'missing', 'it is missing');
    await database.surveys.put({ id: 'odd', rev: 0, past: [], at: 0, doc: { format: 'calm-keel/survey', version: 2 } as never });
    store.open('odd');
    await until(() => store.state() === 'broken', 'it cannot be read');
    expect((await database.surveys.get('odd'))?.doc).toEqual({ format: 'calm-keel/survey', version: 2 } as never);
  });

  it('ends as a card in the library and on its job, with what was read as found; the job can take it back', async () => {
    const book = TestBed.inject(JobBook);
    const job = newJob('j', 'Job', '2026-06-09T08:00:00Z');
    const charger = {
      id: 'd',
      name: 'Q40 1',
      card: 'mine',
      sensor: { place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
      displayReadings: [],
      present: {},
      passcodeChanged: false,
    } as const;
    await book.add({ ...job, cards: [card], system: { ...job.system, chargers: [{ ...charger, displayReadings: [] }] } }, 'New');
    await store.begin(card, { job: 'j', device: 'd' });
    await until(() => store.survey()?.on?.job === 'j', 'the job is known');
    store.edit('Add', (survey) => withItem(survey, { ...first, shown: '28.8', role: 'absorbVoltage', unit: 'V', most: 30 }));
    expect(await store.finish()).toEqual({ job: 'j', device: 'd' });
    const row = (await database.jobs.get('j'))!;
    expect(row.doc.system.chargers[0]?.present).toEqual({ absorbVoltage: 28.8 });
    expect(row.doc.cards[0]?.parameters.find((p) => p.role === 'absorbVoltage')).toEqual(
      jasmine.objectContaining({ label: 'bU', max: 30, notKnown: ['least', 'step'] }),
    );
    expect((await database.cards.get('mine'))?.surveyed?.length).toBe(1);
    expect(await database.surveys.get('mine')).toBeUndefined();
    expect(await book.step('j', -1)).toBe('Take the survey of Q40');
  });
});
