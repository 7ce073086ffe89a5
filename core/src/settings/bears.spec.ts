import { plan, rookMoss, teasel, wholeTeasel, withSystem } from '../testing/fixtures';
import type { Job } from '../job';
import { schoolQuestions } from './schoolInfo';

const bears = (job: Job, school: string): boolean => schoolQuestions.find((q) => q.school === school)!.bears(plan(job));
const site = (job: Job, change: Partial<Job['system']['site']>): Job => withSystem(job, { site: { ...job.system.site, ...change } });
/** The job with some of its devices alone. */
const only = (job: Job, ...ids: readonly string[]): Job =>
  withSystem(job, {
    chargers: job.system.chargers.filter((c) => ids.includes(c.id)),
    companions: job.system.companions.filter((c) => ids.includes(c.id)),
  });

describe('a choice is asked where it changes something, and not where it cannot', () => {
  const launch = wholeTeasel();

  it('of lithium alone: float, equalise, the place of the sensor', () => {
    for (const school of ['lithiumFloat', 'lithiumEqualise', 'lithiumSensor'])
      expect([bears(launch, school), bears(rookMoss(), school)])
        .withContext(school)
        .toEqual([true, false]);
  });

  it('of cold: where the bank falls below the coldest stair of the sheet, and not at it', () => {
    const coldest = plan(launch).stairs[0]!.fromC;
    for (const school of ['coldProtection', 'cutoffFigure', 'coldCurrent']) {
      expect(bears(site(launch, { bankLowC: coldest - 0.1 }), school))
        .withContext(school)
        .toBeTrue();
      expect(bears(site(launch, { bankLowC: coldest }), school))
        .withContext(school)
        .toBeFalse();
    }
  });

  it('of sharing a current: two sources or more', () => {
    expect(bears(teasel(), 'allocation')).toBeTrue();
    expect(bears(only(teasel(), 'aft'), 'allocation')).toBeFalse();
    // A monitor charges nothing.
    expect(bears(only(launch, 'aft', 'monitor'), 'allocation')).toBeFalse();
  });

  it('of monitors and alternators: where there is one', () => {
    for (const school of ['monitorCapacity', 'monitorFull'])
      expect([bears(launch, school), bears(only(launch, 'fore', 'aft'), school)])
        .withContext(school)
        .toEqual([true, false]);
    expect([bears(launch, 'alternator'), bears(teasel(), 'alternator')]).toEqual([true, false]);
  });

  it('of nobody there: from one month on', () => {
    expect([0.9, 1, undefined].map((unattendedMonths) => bears(site(launch, { unattendedMonths }), 'unattended'))).toEqual([false, true, false]);
  });

  it('of where a limit is measured: where a charger has one', () => {
    expect([bears(teasel(), 'limitMeasured'), bears(only(launch, 'alternator'), 'limitMeasured')]).toEqual([true, false]);
  });
});
