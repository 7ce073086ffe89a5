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
