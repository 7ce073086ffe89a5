import { TestBed } from '@angular/core/testing';
import { SwUpdate, type VersionEvent } from '@angular/service-worker';
import { Subject } from 'rxjs';
import { setUp, tearDown } from '../testing';
import { storageProblem, type Database } from './database';
import { Updates } from './updates';

describe('newer versions', () => {
  const events = new Subject<VersionEvent>();
  const unrecoverable = new Subject<{ reason: string }>();
  let db: Database;
  let updates: Updates;
  beforeEach(() => {
    db = setUp(undefined, [
      { provide: SwUpdate, useValue: { isEnabled: true, versionUpdates: events, unrecoverable, checkForUpdate: () => Promise.resolve(false) } },
    ]);
    updates = TestBed.inject(Updates);
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('are told of when they are here, not when they are only seen, and put off until the next', () => {
    events.next({ type: 'VERSION_DETECTED', version: { hash: 'a' } });
    expect(updates.told()).toBeFalse();
    const ready: VersionEvent = { type: 'VERSION_READY', currentVersion: { hash: 'a' }, latestVersion: { hash: 'b' } };
    events.next(ready);
    expect([updates.ready(), updates.broken(), updates.told()]).toEqual([true, false, true]);
    updates.later();
    expect(updates.told()).toBeFalse();
    events.next(ready);
    expect(updates.told()).toBeTrue();
  });

  it('that have taken files of the one in use away are told of', () => {
    unrecoverable.next({ reason: 'gone' });
    expect([updates.broken(), updates.told()]).toEqual([true, true]);
  });

  it('a station that cannot be fetched is told of with its address, as each browser says it; any other failure is not', () => {
    for (const message of [
      'Failed to fetch dynamically imported module: http://127.0.0.1/chunk-A.js',
      'error loading dynamically imported module: chunk-A.js',
      'Importing a module script failed.',
    ]) {
      updates.noteLost(new TypeError(message), '/job/a/prove');
      expect([updates.lost(), updates.told()]).toEqual(['/job/a/prove', true]);
      updates.later();
      expect([updates.lost(), updates.told()]).toEqual([null, false]);
      expect(storageProblem(new TypeError(message))).toContain('Reload the page, then try again');
    }
    updates.noteLost(new TypeError('Cannot read properties of null'), '/job/a/prove');
    updates.noteLost('Importing a module script failed.', '/job/a/prove');
    expect(updates.lost()).toBeNull();
  });
});
