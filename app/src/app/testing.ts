import { provideZonelessChangeDetection, type EnvironmentProviders, type Provider, type Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { cardSchema, type Card } from '@calm-keel/core/card';
import { jobSchema, newJob, type Job } from '@calm-keel/core/job';
import type { Snapshot } from '@calm-keel/core/runsheet';
import { Database } from './data/database';
import { DATABASE, JobBook } from './data/job-book';
import { JobStore } from './data/job-store';

/** A job with an LFP bank of 25.6 V and figures, no chargers. For specs in the page. */
export function sampleJob(): Job {
  const job = newJob('sample', 'Sample', '2026-06-09T08:00:00Z');
  const figure = { state: 'stated', unit: 'V', basis: 'unit', rank: 'makerForThisCharger' } as const;
  const { assumed: _all, ...said } = job;
  return jobSchema.parse({
    ...said,
    sheet: {
      ...job.sheet,
      document: 'Charging sheet',
      revision: '1',
      date: '2026-06',
      unit: { nominalVolts: 25.6, capacityAh: 230, cellsInSeries: 8 },
      figures: {
        absorbVoltage: { ...figure, min: 28, target: 28.1, max: 28.4 },
        floatVoltage: { ...figure, min: 26.7, target: 26.9, max: 27.1 },
        rechargeVoltage: { ...figure, max: 26.4 },
        bmsOverVoltage: { ...figure, max: 29.2 },
        disconnectVoltage: { ...figure, target: 24.6 },
      },
    },
  });
}

/** A plain card that needs no sensor and saves by itself, with what a spec sets on it: id, model, kind, ratings, parameters. */
export function sampleCard(own: Record<string, unknown>): Card {
  return cardSchema.parse({
    format: 'calm-keel/card',
    version: 1,
    maker: 'Plain',
    model: 'P1',
    describes: { firmware: '1', menuRevision: 'a' },
    constraints: [],
    commit: { kind: 'auto', how: '', proof: '' },
    absorb: { start: { kind: 'touch' }, end: 'time', timerCounts: 'atVoltage', currentSeen: 'ownOutput' },
    sensor: { reads: 'none', usedFor: [], withoutSensor: 'ignoresCutoff' },
    display: { calibratable: true, stepV: 0.1 },
    regulationPercent: 0.5,
    survivesBatteryLoss: true,
    defaultPasscode: false,
    programming: { powered: '', disconnected: [] },
    keys: [],
    ...own,
  });
}

/** A solar charger of the card “plain” with a sensor on the battery case, with what a spec sets on it. */
export function sampleCharger(own: Record<string, unknown>): Record<string, unknown> {
  return {
    card: 'plain',
    sensor: { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0.5, lagSeconds: 720, warmLeadC: 1 },
    displayReadings: [],
    present: {},
    array: {
      panel: { name: '', watts: 300, vocV: 40, vmpV: 33, iscA: 10, impA: 9, bypassDiodes: 3 },
      inSeries: 2,
      inParallel: 1,
      tilt: 10,
      azimuth: 180,
      shaded: 0,
      shadeLight: 0,
    },
    passcodeChanged: true,
    ...own,
  };
}

/** A voltage parameter of such a card: 20 to 32 V in steps of 0.1 V. */
export function voltParameter(role: string): Record<string, unknown> {
  return { role, label: role, menu: [], unit: 'V', min: 20, max: 32, step: 0.1 };
}

/** What was read back on the device “solo” at a moment. */
export const soloSnapshot = (at: string, floatVoltage: number, more: Partial<Snapshot> = {}): Snapshot => ({
  at,
  date: at.slice(0, 10),
  device: 'solo',
  by: 'KM',
  way: 'display',
  verified: 'readBack',
  values: { absorbVoltage: 28.1, floatVoltage },
  ...more,
});

let count = 0;

/** A testing module on a database of its own, on a device that remembers nothing of the spec before. */
export function setUp(database = new Database(`spec-${Date.now()}-${count++}`), providers: (Provider | EnvironmentProviders)[] = []): Database {
  localStorage.clear();
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), { provide: DATABASE, useValue: database }, ...providers] });
  return database;
}

/** A store with a job open in it, on a database of its own. */
export async function openStore(job: Job, providers: (Provider | EnvironmentProviders)[] = []): Promise<JobStore> {
  setUp(undefined, providers);
  const store = TestBed.inject(JobStore);
  // What the page would set aside as damaged never opens: say at once what is wrong with it.
  store.open(await TestBed.inject(JobBook).add(jobSchema.parse(job), 'New'));
  await until(() => store.state() === 'ready', 'the job is there');
  return store;
}

/** A text with plain blanks, one at a time. */
export const plain = (text: string): string => text.replace(/\s+/g, ' ').trim();
const textOf = (element: Element | null): string => plain(element?.textContent ?? '');

/** Draws a component with its inputs, and what a spec wants to read and press on it. */
export function draw<T>(type: Type<T>, inputs: Record<string, unknown> = {}) {
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  fixture.detectChanges();
  const host = fixture.nativeElement as HTMLElement;
  const text = (selector?: string): string => textOf(selector === undefined ? host : host.querySelector(selector));
  const all = (selector: string): string[] => [...host.querySelectorAll(selector)].map(textOf);
  /** The first button that begins with these words. */
  const button = (words: string): HTMLButtonElement => {
    const found = [...host.querySelectorAll('button')].find((b) => textOf(b).startsWith(words));
    if (!found) throw new Error(`no button “${words}” in ${text()}`);
    return found;
  };
  const press = (words: string): void => {
    button(words).click();
    fixture.detectChanges();
  };
  /** Enters a value in the field of this selector. */
  const enter = (selector: string, value: string): void => {
    const field = host.querySelector<HTMLInputElement>(selector);
    if (!field) throw new Error(`no field ${selector} in ${text()}`);
    field.value = value;
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new Event('change'));
    fixture.detectChanges();
  };
  /** Enters a value in the field whose label begins with these words. */
  const fill = (label: string, value: string): void => {
    const found = [...host.querySelectorAll('label')].find((l) => textOf(l).startsWith(label));
    const input = found && (found.htmlFor ? host.querySelector(`#${CSS.escape(found.htmlFor)}`) : found.querySelector('input, select'));
    if (!(input instanceof HTMLInputElement || input instanceof HTMLSelectElement)) throw new Error(`no field “${label}” in ${text()}`);
    input.value = value;
    input.dispatchEvent(new Event('input'));
    input.dispatchEvent(new Event('change'));
    fixture.detectChanges();
  };
  return { fixture, host, text, all, button, press, enter, fill };
}

/** Ends what a spec began: whatever still listens is stopped before its database goes, or it would be opened again, and the deletion blocked. */
export async function tearDown(database: Database): Promise<void> {
  TestBed.resetTestingModule();
  localStorage.clear();
  // What was asked of the database a moment ago is still on its way.
  await database.transaction('rw', database.tables, () => Promise.resolve());
  database.close({ disableAutoOpen: true });
  await database.delete({ disableAutoOpen: true });
}

/** Waits until a condition holds; fails the spec after five minutes: a busy machine is slow to write, and only what never comes is at fault. */
export async function until(condition: () => boolean, what: string): Promise<void> {
  const end = performance.now() + 300_000;
  while (!condition()) {
    if (performance.now() > end) {
      fail(`waited in vain until ${what}`);
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}

/** One solar charger that saves by a key within twenty seconds, with a float found too high. */
export function soloJob(): Job {
  const job = sampleJob();
  const card = sampleCard({
    id: 'p1',
    kind: 'solarMppt',
    ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
    parameters: [voltParameter('absorbVoltage'), voltParameter('floatVoltage')],
    commit: { kind: 'keyPress', timeoutSeconds: 20, how: 'Press Set.', proof: 'Look at the list.' },
    entry: { raise: 'Up', lower: 'Down', keep: 'Set' },
    telemetry: {
      protocol: 'modbusTcp',
      identity: { register: 0, value: 7 },
      live: [{ what: 'volts', register: 1, scale: 0.01 }],
      values: [
        { role: 'absorbVoltage', register: 10, scale: 0.1 },
        { role: 'floatVoltage', register: 11, scale: 0.1 },
      ],
      commit: { register: 20, value: 1 },
    },
  });
  const sensor = { fitted: true, place: 'batteryCase', errorC: 0.5, offsetC: 0, lagSeconds: 540, warmLeadC: 1 } as const;
  return jobSchema.parse({
    ...job,
    cards: [card],
    accepted: [],
    system: {
      ...job.system,
      site: { ...job.system.site, bankLowC: 5, recordLowC: 2 },
      // A meter so good that no target has to be moved for its sake.
      instruments: job.system.instruments.map((i) => ({ ...i, volts: { percent: 0.05, digits: 0, resolution: 0.01 } })),
      chargers: [
        {
          id: 'solo',
          name: 'Solo',
          card: 'p1',
          sensor,
          displayReadings: [],
          present: { absorbVoltage: 28.1, floatVoltage: 27.6 },
          passcodeChanged: true,
          link: 'solo',
        },
      ],
    },
  });
}
