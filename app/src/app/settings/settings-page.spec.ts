import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { jobSchema, type Job } from '@calm-keel/core/job';
import type { Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { sampleCard, sampleCharger, sampleJob, setUp, tearDown, until, voltParameter } from '../testing';
import { SettingsPage } from './settings-page';

const card = sampleCard({
  id: 'plain',
  kind: 'solarMppt',
  ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
  parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage')],
});
const stat = sampleCard({
  id: 'stat',
  kind: 'thermostat',
  ratings: { outputA: 0, systemVolts: [24], contact: { volts: 30, amps: 10 }, chemistries: ['lfp'] },
  parameters: [{ role: 'thermostatSetpoint', label: 'Set', menu: [], unit: '°C', min: -20, max: 60, step: 1 }],
});

describe('the page of the settings', () => {
  let database: Database;
  afterEach(() => tearDown(database));

  function job(companions: readonly object[] = []): Job {
    const sample = sampleJob();
    const chargers = ['roof', 'rack'].map((id) => sampleCharger({ id, name: id === 'roof' ? 'Roof' : 'Rack' }));
    return jobSchema.parse({ ...sample, cards: [card, stat], system: { ...sample.system, chargers, companions } });
  }

  async function open(document = job(), view?: string) {
    database = setUp(undefined, [provideRouter([{ path: '**', children: [] }])]);
    const store = TestBed.inject(JobStore);
    store.open(await TestBed.inject(JobBook).add(document, 'New'));
    await until(() => store.state() === 'ready', 'the job is there');
    const router = TestBed.inject(Router);
    const asked: unknown[] = [];
    spyOn(router, 'navigate').and.callFake((_: unknown, extras) => {
      asked.push((extras?.queryParams as { view?: unknown } | undefined)?.view);
      return Promise.resolve(true);
    });
    const fixture = TestBed.createComponent(SettingsPage);
    fixture.componentRef.setInput('view', view);
    fixture.detectChanges();
    const host = fixture.nativeElement as HTMLElement;
    const tabs = (): string[] => [...host.querySelectorAll('[role=tab]')].map((t) => t.textContent.trim());
    const chosen = (): string | undefined => host.querySelector('[role=tab][aria-selected=true]')?.textContent.trim();
    const key = (at: EventTarget, name: string): void => {
      at.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true }));
      fixture.detectChanges();
    };
    return { store, fixture, host, asked, tabs, chosen, key };
  }

  it('shows the view of its address, and the ladder where it says none that there is', async () => {
    const { fixture, host, chosen } = await open(job(), 'table');
    expect([chosen(), host.querySelector('h1')?.textContent]).toEqual(['Table', 'Settings as a table']);
    for (const [view, name] of [
      ['temperature', 'Cold and heat'],
      ['differences', 'What differs'],
      ['relay', 'Ladder'],
      ['nonsense', 'Ladder'],
      [undefined, 'Ladder'],
    ] as const) {
      fixture.componentRef.setInput('view', view);
      fixture.detectChanges();
      expect(chosen()).withContext(String(view)).toBe(name);
    }
  });

  it('has a relay’s view only where there is a thermostat, and choosing it chooses that', async () => {
    expect((await open()).tabs()).toEqual(['Ladder', 'Cold and heat', 'Table', 'What differs']);
    await tearDown(database);
    const { host, asked, tabs, fixture } = await open(job([{ id: 'stat-1', name: 'Thermostat', card: 'stat', present: {}, switches: ['roof'] }]));
    expect(tabs().at(-1)).toBe('Relay');
    [...host.querySelectorAll<HTMLElement>('[role=tab]')].at(-1)?.click();
    fixture.detectChanges();
    expect(asked).toEqual(['relay']);
    expect(TestBed.inject(Selection).charger()).toBe('stat-1');
  });

  it('goes to the table and back by T, and not while something is typed', async () => {
    const { asked, key, host, fixture } = await open();
    key(document.body, 't');
    expect(asked).toEqual(['table']);
    fixture.componentRef.setInput('view', 'table');
    fixture.detectChanges();
    key(document.body, 't');
    expect(asked).toEqual(['table', null]);
    const field = document.createElement('input');
    host.append(field);
    key(field, 't');
    expect(asked.length).toBe(2);
  });

  it('tries the next value of a device, and Escape lets it be what it was', async () => {
    const { store, host, key } = await open();
    const rung = [...host.querySelectorAll<SVGElement>('.rung')].find((g) => g.getAttribute('aria-label')?.startsWith('Roof: absorb'))!;
    const set = store.settled()!.setting('roof', 'absorbVoltage')!.trueValue!;
    key(rung, 'ArrowUp');
    expect(store.trial()).toEqual(jasmine.objectContaining({ charger: 'roof', role: 'absorbVoltage' }));
    expect(store.trial()?.value).toBeCloseTo(set + 0.1, 9);
    key(rung, 'ArrowUp');
    expect(store.trial()?.value).toBeCloseTo(set + 0.2, 9);
    // One thing is tried at a time.
    const other = [...host.querySelectorAll<SVGElement>('.rung')].find((g) => g.getAttribute('aria-label')?.startsWith('Roof: float'))!;
    key(other, 'ArrowDown');
    expect(store.trial()).toEqual(jasmine.objectContaining({ charger: 'roof', role: 'floatVoltage' }));
    key(document.body, 'Escape');
    expect(store.trial()).toBeNull();
  });

  it('leaves nothing tried behind when it is left', async () => {
    const { store, host, key, fixture } = await open();
    const rung = [...host.querySelectorAll<SVGElement>('.rung')].find((g) => g.getAttribute('aria-label')?.startsWith('Roof: absorb'))!;
    key(rung, 'ArrowUp');
    expect(store.trial()).not.toBeNull();
    fixture.destroy();
    expect(store.trial()).toBeNull();
  });

  it('without a charger says so, with the way to one', async () => {
    const { host } = await open(sampleJob());
    expect(host.textContent).toContain('No charger yet, so there is nothing to set.');
    expect(host.querySelector('[role=tablist]')).toBeNull();
  });
});
