import { provideZonelessChangeDetection, type EnvironmentProviders, type Provider } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { jobSchema, newJob, type Job } from '@calm-keel/core';
import { DATABASE } from './data/job-book';
import { Database } from './data/database';

/** A job with an LFP bank of 25.6 V and figures, no chargers. For specs in the page. */
export function sampleJob(): Job {
  const job = newJob('sample', 'Sample', '2026-06-09T08:00:00Z');
  const figure = { state: 'stated', unit: 'V', basis: 'unit', rank: 'makerForThisCharger' } as const;
  return jobSchema.parse({
    ...job,
    sheet: {
      ...job.sheet,
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

let count = 0;

/** A testing module on a database of its own. */
export function setUp(database = new Database(`spec-${Date.now()}-${count++}`), providers: (Provider | EnvironmentProviders)[] = []): Database {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), { provide: DATABASE, useValue: database }, ...providers] });
  return database;
}

/** Waits until a condition holds; fails the spec after two seconds. */
export async function until(condition: () => boolean, what: string): Promise<void> {
  const end = performance.now() + 2000;
  while (!condition()) {
    if (performance.now() > end) {
      fail(`waited in vain until ${what}`);
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}
