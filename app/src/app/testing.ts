import { provideZonelessChangeDetection, type EnvironmentProviders, type Provider } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { cardSchema, type Card } from '@calm-keel/core/card';
import { jobSchema, newJob, type Job } from '@calm-keel/core/job';
import { DATABASE } from './data/job-book';
import { Database } from './data/database';

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

let count = 0;

/** A testing module on a database of its own. */
export function setUp(database = new Database(`spec-${Date.now()}-${count++}`), providers: (Provider | EnvironmentProviders)[] = []): Database {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), { provide: DATABASE, useValue: database }, ...providers] });
  return database;
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
