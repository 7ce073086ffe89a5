import { Location } from '@angular/common';
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import { jobSchema, type Job } from '@calm-keel/core/job';
import { Database } from '../data/database';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { sampleCard, sampleCharger, sampleJob, setUp, tearDown, until, voltParameter } from '../testing';
import { ChosenAddress } from './chosen-address';

@Component({ selector: 'ck-empty', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Empty {}

/** The sample job with two solar chargers, fore and aft. */
function twoChargers(): Job {
  const card = sampleCard({
    id: 'plain',
    kind: 'solarMppt',
    ratings: { outputA: 30, systemVolts: [24], arrayVoltsMax: 100, chemistries: ['lfp'] },
    parameters: [voltParameter('absorbVoltage')],
  });
  const job = sampleJob();
  return jobSchema.parse({ ...job, cards: [card], system: { ...job.system, chargers: [...['fore', 'aft'].map((id) => sampleCharger({ id, name: id }))] } });
}

describe('what is chosen, in the address', () => {
  let db: Database;
  let router: Router;
  let selection: Selection;
  const settled = async (): Promise<void> => {
    await until(() => router.currentNavigation() === null, 'the address is written');
  };
  const is = async (address: string): Promise<void> => {
    await until(() => {
      TestBed.tick();
      return router.url === address;
    }, `the address is ${address}; it is ${router.url}`);
    await settled();
    expect(router.url).toBe(address);
  };

  beforeEach(async () => {
    db = setUp(new Database(`address-${Date.now()}-${Math.random()}`), [provideRouter([{ path: 'job/:id/:station', component: Empty }]), ChosenAddress]);
    const id = await TestBed.inject(JobBook).add(twoChargers(), 'New');
    expect(id).toBe('sample');
    const store = TestBed.inject(JobStore);
    store.open(id);
    await until(() => store.state() === 'ready', 'the job is there');
    router = TestBed.inject(Router);
    router.setUpLocationChangeListener();
    selection = TestBed.inject(Selection);
    await RouterTestingHarness.create('/job/sample/system?device=aft');
    TestBed.inject(ChosenAddress);
    await is('/job/sample/system?device=aft');
  });
  afterEach(async () => {
    await tearDown(db);
  });

  it('an address chooses its device, and a device of no such name is chosen by none', async () => {
    expect(selection.charger()).toBe('aft');
    await router.navigateByUrl('/job/sample/system?device=nothing');
    await is('/job/sample/system');
  });

  it('a device chosen is a step that the way back takes back', async () => {
    selection.charger.set('fore');
    await is('/job/sample/system?device=fore');
    selection.charger.set(null);
    await is('/job/sample/system');
    TestBed.inject(Location).back();
    await is('/job/sample/system?device=fore');
    expect(selection.charger()).toBe('fore');
    TestBed.inject(Location).back();
    await is('/job/sample/system?device=aft');
    expect(selection.charger()).toBe('aft');
  });

  it('goes along to a station whose address says nothing, without a step of its own', async () => {
    await router.navigateByUrl('/job/sample/prove');
    await is('/job/sample/prove?device=aft');
    TestBed.inject(Location).back();
    await is('/job/sample/system?device=aft');
  });

  it('a setting and a figure stand in the address of their station, and only what is not the first', async () => {
    await router.navigateByUrl('/job/sample/settings?device=aft&setting=floatVoltage');
    await is('/job/sample/settings?device=aft&setting=floatVoltage');
    expect(selection.role()).toBe('floatVoltage');
    selection.role.set('absorbVoltage');
    await is('/job/sample/settings?device=aft');
    selection.figure.set('floatVoltage');
    await router.navigateByUrl('/job/sample/spec');
    await is('/job/sample/spec?device=aft&figure=floatVoltage');
    await router.navigateByUrl('/job/sample/settings?setting=toString');
    expect(selection.role()).toBe('absorbVoltage');
  });

  it('leaves alone what another station means by the same word', async () => {
    await router.navigateByUrl('/job/sample/paper?figure=bmsOverVoltage&device=fore');
    await is('/job/sample/paper?figure=bmsOverVoltage&device=fore');
    selection.charger.set('aft');
    await is('/job/sample/paper?figure=bmsOverVoltage&device=aft');
  });

  it('where the work itself goes from device to device, the way back does not', async () => {
    await router.navigateByUrl('/job/sample/program');
    await is('/job/sample/program?device=aft');
    selection.charger.set('fore');
    await is('/job/sample/program?device=fore');
    TestBed.inject(Location).back();
    await is('/job/sample/system?device=aft');
  });
});
