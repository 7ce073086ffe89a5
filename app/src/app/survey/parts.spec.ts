import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { quickCard } from '@calm-keel/core/card';
import { withItem, type Survey, type SurveyItem } from '@calm-keel/core/survey';
import { LogWork } from '../data/log-work';
import { SurveyStore } from '../data/survey-store';
import { draw, setUp, until } from '../testing';
import { SurveyChanges } from './survey-changes';
import { SurveyHabits } from './survey-habits';
import { SurveyManual } from './survey-manual';
import { SurveyPlate } from './survey-plate';
import { SurveyResult } from './survey-result';
import { SurveyWay } from './survey-way';

const item = (id: string, label: string, more: Partial<SurveyItem> = {}): SurveyItem => ({
  id,
  label,
  menu: [],
  shown: '28.0',
  options: [],
  looked: true,
  ...more,
});

async function open(...items: SurveyItem[]): Promise<SurveyStore> {
  setUp(undefined, [
    provideRouter([]),
    { provide: LogWork, useValue: { api: { tables: () => Promise.resolve({ ok: true, value: ['Parameter\tMin\tMax\tStep\nbUL\t26 V\t30 V\t0.1'] }) } } },
  ]);
  const store = TestBed.inject(SurveyStore);
  await store.begin(quickCard({ id: 'mine', maker: 'Ostmark', model: 'Q40', kind: 'solarMppt', outputA: 40, systemVolts: [12, 24], inputVoltsMax: 100 }));
  store.open('mine');
  await until(() => store.state() === 'ready', 'the survey is there');
  store.edit('Items', (survey) => items.reduce<Survey>((now, i) => withItem(now, i), survey));
  return store;
}

describe('one change that moves others', () => {
  it('has choices first, notes only what moved, and can be removed', async () => {
    const store = await open(
      item('abs', 'bUL', { role: 'absorbVoltage', unit: 'V' }),
      item('flo', 'FLo', { role: 'floatVoltage', unit: 'V', shown: '27.0' }),
      item('typ', 'bAt', { role: 'batteryType', unit: 'choice', shown: 'GEL', options: ['GEL', 'USE'] }),
    );
    const { host, enter, text, press, all } = draw(SurveyChanges);
    expect([...host.querySelectorAll('#changed-item option')].map((o) => o.textContent)).toEqual(['Choose', 'bAt', 'bUL', 'FLo']);
    enter('#changed-item', 'typ');
    // What it shows already is no change.
    expect([...host.querySelectorAll('#changed-to option')].map((o) => o.textContent)).toEqual(['Choose', 'USE']);
    enter('#changed-to', 'USE');
    expect(text('[role=status]')).toBe('bAt at USE moves nothing else.');
    enter('#again-abs', '29.2');
    expect(text('[role=status]')).toMatch(/^bAt at USE moves .+ to 29\.2\.$/);
    press('Note this change');
    expect(store.survey()!.changes).toEqual([{ item: 'typ', to: 'USE', shows: { abs: '29.2', flo: '27.0' } }]);
    expect(host.querySelector<HTMLSelectElement>('#changed-item')!.value).toBe('');
    expect(all('.noted')[0]).toContain('to 29.2.');
    press('Remove');
    expect(store.survey()!.changes).toEqual([]);
  });
});

describe('what a charger does by itself', () => {
  it('is asked one question at a time; not known leaves none behind; an answer waits for its seconds', async () => {
    const store = await open();
    const { text, host, press, fixture, button } = draw(SurveyHabits);
    const asked = Number(/of (\d+)/.exec(text('.why'))![1]);
    expect(text('.why')).toBe(`1 of ${asked}`);
    expect(button('Yes, next question').disabled).toBeTrue();
    const first = host.querySelector<HTMLButtonElement>('.big button')!;
    first.click();
    fixture.detectChanges();
    expect(first.getAttribute('aria-pressed')).toBe('true');
    expect(Object.keys(store.survey()!.habits)).toHaveSize(1);
    press('Not known');
    expect(store.survey()!.habits).toEqual({});
    expect(text('.why')).toBe(`2 of ${asked}`);
    // Behind the last one the part is done.
    let done = 0;
    fixture.componentInstance.done.subscribe(() => done++);
    for (let i = 1; i < asked; i++) press('Not known');
    expect(done).toBe(1);
  });

  it('asks for seconds only where an answer wants them, and an empty field takes them out again', async () => {
    const store = await open();
    store.edit('There', (survey) => ({ ...survey, habits: { ...survey.habits, save: 'key' }, at: { ...survey.at, question: 'timeout' } }));
    const { host, fill, press, text } = draw(SurveyHabits);
    if (!text('h1')) throw new Error('no question');
    expect(host.querySelector('ck-number-field')).toBeNull();
    const goes = [...host.querySelectorAll<HTMLButtonElement>('.big button')].map((b) => b.textContent.trim());
    for (const words of goes) {
      press(words);
      if (host.querySelector('ck-number-field')) break;
    }
    expect(store.survey()!.habits.timeout).toBe('goes');
    fill('Lost after', '20');
    expect(store.survey()!.timeoutS).toBe(20);
    fill('Lost after', '');
    expect(store.survey()!.timeoutS).toBeUndefined();
  });
});

describe('the table of a manual', () => {
  it('is looked over before any of it is taken, and what the list has is not taken twice', async () => {
    const store = await open(item('abs', 'bUL', { role: 'absorbVoltage', unit: 'V' }));
    const { enter, text, press, host, fixture } = draw(SurveyManual);
    let taken = 0;
    fixture.componentInstance.taken.subscribe(() => taken++);
    enter('textarea', 'Parameter\tMin\tMax\tStep\nbUL\t26 V\t30 V\t0.1\nFLo\t25 V\t29 V\t0.1');
    expect(text('[role=status]')).toContain('1 new setting, ');
    expect(text('[role=status]')).toContain('1 are in the list already');
    expect(store.survey()!.items).toHaveSize(1);
    press('Add this one');
    expect(store.survey()!.items.map((i) => i.label)).toEqual(['bUL', 'FLo']);
    expect(store.survey()!.from).toBe('document');
    expect([taken, host.querySelector('textarea')!.value]).toEqual([1, '']);
  });

  it('says of a file that is too large what to do instead, and reads nothing of it', async () => {
    const store = await open();
    const { fixture, text } = draw(SurveyManual);
    const file = new File(['x'], 'manual.pdf');
    Object.defineProperty(file, 'size', { value: 60_000_001 });
    await (fixture.componentInstance as unknown as { open: (f: File) => Promise<void> }).open(file);
    fixture.detectChanges();
    expect(text('[role=alert]')).toContain('more than 60 MB');
    expect(store.survey()!.items).toEqual([]);
  });

  it('shows what a file holds as text first', async () => {
    const store = await open();
    const { fixture, host } = draw(SurveyManual);
    await (fixture.componentInstance as unknown as { open: (f: File) => Promise<void> }).open(new File(['x'], 'table.csv', { type: 'text/csv' }));
    fixture.detectChanges();
    expect(host.querySelector('textarea')!.value).toContain('bUL');
    expect(store.survey()!.items).toEqual([]);
  });
});

describe('the plate', () => {
  it('says who looked and where; a document is asked only where there is one', async () => {
    const store = await open();
    const { fill, host, text } = draw(SurveyPlate);
    fill('Your initials', 'KM');
    expect(store.survey()!.by).toBe('KM');
    expect(text()).not.toContain('Document and page');
    fill('Looked up', 'document');
    fill('Document and page', 'Manual, p. 4');
    expect([store.survey()!.from, store.survey()!.document]).toEqual(['document', 'Manual, p. 4']);
    fill('Document and page', '');
    expect('document' in store.survey()!).toBeFalse();
    expect(host.querySelector('.press')!.textContent).toContain('how it is set');
  });
});

describe('how it is set', () => {
  it('asks for keys only where there are some, and not known says nothing', async () => {
    const store = await open();
    const { host, fixture, button, press, fill, text } = draw(SurveyWay);
    expect(button('Next: its settings').disabled).toBeTrue();
    const ways = [...host.querySelectorAll<HTMLButtonElement>('.big button')];
    const keyed = ways.map((way) => {
      way.click();
      fixture.detectChanges();
      return [store.survey()!.way!, text().includes('Its keys')] as const;
    });
    expect(
      keyed
        .filter(([, has]) => has)
        .map(([way]) => way)
        .sort(),
    ).toEqual(['contact', 'list', 'menus', 'numbers']);
    store.edit('List', (survey) => ({ ...survey, way: 'list' }));
    fixture.detectChanges();
    fill('Raises a value', 'Up');
    expect(store.survey()!.raise).toBe('Up');
    fill('Raises a value', '');
    expect('raise' in store.survey()!).toBeFalse();
    press('Not known');
    expect('way' in store.survey()!).toBeFalse();
  });
});

describe('what a survey has come to', () => {
  it('counts what has a meaning, what nobody touches, and says that the list was not walked to its end', async () => {
    const store = await open(item('abs', 'bUL', { role: 'absorbVoltage', unit: 'V' }), item('x', 'LIt', { role: null }));
    const { text, fixture, press } = draw(SurveyResult);
    expect(text('.sum')).toBe('1 setting with a meaning, 1 that nobody touches, the list not walked to its end');
    store.edit('Walked', (survey) => ({ ...survey, walked: true, on: { job: 'barge', device: 'aft' } }));
    fixture.detectChanges();
    expect(text('.sum')).toContain('as found on the device, the whole list walked');
    expect(text('.press')).toBe('Use it in the job');
    const went: unknown[] = [];
    fixture.componentInstance.go.subscribe((to) => went.push(to));
    press('Find out');
    press('Back to its settings');
    expect(went[0]).toEqual({ part: jasmine.any(String) });
    expect(went[1]).toEqual({ part: 'walk' });
  });
});
