import { speak } from '../quantity';
import { applyChanges, jobSchema, newJob, type Job } from '../job';
import { rehearse, scenarioNamed, variantValues } from '../rehearsal';
import { chargeCeiling, coldStairs } from '../system';
import { withoutCapacity } from '../testing/findingCases';
import { codes, find, plan, rookMoss, teasel, wholeTeasel, withCharger, withFigure, withSystem } from '../testing/fixtures';
import { allAssumed, assumableSchema, assumedValue, notSaid, withSaid } from './index';

const blank = (): Job => newJob('a', 'A', '2026-06-09T08:00:00Z');
/** The launch's chargers in a job of which nobody has said anything else. */
const begun = (): Job => ({ ...blank(), cards: teasel().cards, system: { ...blank().system, chargers: teasel().system.chargers } });
const unknownSensor = (job: Job, id: string): Job => {
  const { fitted: _gone, ...sensor } = job.system.chargers.find((c) => c.id === id)!.sensor;
  return withCharger(job, id, { sensor });
};
const words = (job: Job, device: string, role: Parameters<ReturnType<typeof plan>['setting']>[1]): string =>
  (plan(job).setting(device, role)?.derivation ?? []).map((s) => speak(s.words, 'C')).join(' ');

describe('what nobody has said', () => {
  it('is all of a new job, and nothing is found wrong with one that has neither figures nor chargers', () => {
    expect(jobSchema.safeParse(blank()).success).toBeTrue();
    expect(notSaid(blank())).toEqual(assumableSchema.options);
    expect([blank().sheet.unit.capacityAh, blank().sheet.revision, blank().sheet.date, blank().sheet.rank]).toEqual([undefined, '', '', undefined]);
    expect(codes(blank()).filter((code) => code.endsWith('NotSaid'))).toEqual([]);
  });

  it('is told once the job rests on it, the battery on its sheet and the rest on the system', () => {
    expect(codes(withFigure(blank(), 'absorbVoltage', { target: 14.2 })).filter((code) => code.endsWith('NotSaid'))).toEqual(['batteryNotSaid']);
    expect(codes(begun()).filter((code) => code.endsWith('NotSaid'))).toEqual(['batteryNotSaid', 'systemNotSaid', 'capacityNotSaid']);
    expect(find(begun(), 'systemNotSaid')?.text).toContain('batteries in series (1), strings in parallel (1), whether there is a BMS (yes)');
  });

  it('is no stop where it hurts nothing: the place of a lead bank, the loads, the meter', () => {
    const place = (job: Job): Job => ({ ...job, assumed: { bankLowC: true, recordLowC: true, maxA: true } });
    expect(find(place(rookMoss()), 'systemNotSaid')?.severity).toBe('attention');
    expect(find(place(teasel()), 'systemNotSaid')?.severity).toBe('stop');
    expect(find({ ...rookMoss(), assumed: { unitsInSeries: true } }, 'systemNotSaid')?.severity).toBe('stop');
    expect(find({ ...rookMoss(), assumed: { hasBms: true } }, 'systemNotSaid')).toBeUndefined();
  });

  it('is said as it is with one press, and then no more of it', () => {
    const said = applyChanges(
      begun(),
      ['batteryNotSaid', 'systemNotSaid'].flatMap((code) => find(begun(), code)?.remedies[0]?.changes ?? []),
    );
    expect([said.assumed, said.system.instruments[0]?.assumed]).toEqual([undefined, undefined]);
    expect(codes(said).filter((code) => code.endsWith('NotSaid'))).toEqual(['capacityNotSaid']);
  });

  it('is taken off one by one, and the job stays the same where nothing was assumed', () => {
    const { chemistry: _said, ...left } = allAssumed;
    expect(withSaid(blank(), ['chemistry', 'fuseA']).assumed).toEqual(left);
    expect('assumed' in withSaid(blank(), assumableSchema.options)).toBeFalse();
    const job = teasel();
    expect(withSaid(job, ['chemistry'])).toBe(job);
  });

  it('has the value that stands in its place', () => {
    expect(assumableSchema.options.map((key) => assumedValue(blank(), key))).toEqual(['lfp', 12.8, 4, 1, 1, true, 0, 35, -10, 35, 5, 0, 0]);
  });
});

describe('a battery of which nobody has said the capacity', () => {
  it('gives no amps and no minutes by it, and says why', () => {
    const job = withoutCapacity(wholeTeasel());
    expect([plan(job).facts.ratedAh, plan(job).facts.capacityAh]).toEqual([null, null]);
    expect(plan(job).setting('fore', 'taperCurrent')?.noValue).toBe('missingFigure');
    expect(words(job, 'fore', 'taperCurrent')).toContain('The sheet prints the taper current by capacity, and the battery’s capacity is not known.');
    expect(words(job, 'monitor', 'fullDetectCurrent')).toContain('capacity is not known');
    expect(plan(job).setting('monitor', 'capacity')?.value).toBeNull();
    expect(words(job, 'monitor', 'capacity')).toBe('The capacity of the battery is not known. Enter it on Spec.');
  });

  it('leaves what is printed in amps and minutes as it is', () => {
    const known = plan(wholeTeasel());
    const unknown = plan(withoutCapacity(wholeTeasel()));
    for (const role of ['absorbVoltage', 'absorbTime', 'floatVoltage', 'lowTempCutoff'] as const)
      expect(unknown.setting('fore', role)?.value).withContext(role).toBe(known.setting('fore', role)!.value);
  });

  it('limits the bank by no multiple of it', () => {
    const { sheet, system } = withoutCapacity(wholeTeasel());
    const names = (policy: 'lowest' | 'third'): string[] => chargeCeiling(sheet, system, policy).candidates.map((c) => c.name);
    expect(names('lowest')).not.toContain('Recommended');
    expect(names('lowest')).toContain('Main fuse');
    expect(names('third')).not.toContain('About a third');
    const ceiling = chargeCeiling(sheet, system).binding!.amps;
    expect(coldStairs(sheet, system).map((s) => s.amps)).toEqual(coldStairs(sheet, system).map(() => ceiling));
  });

  it('is grave only where a figure counts by it', () => {
    expect(find(withoutCapacity(teasel()), 'capacityNotSaid')?.severity).toBe('stop');
    const amps = ['taperCurrent', 'chargeCurrentRecommended'].reduce<Job>(
      (job, key) => withFigure(job, key as 'taperCurrent', null),
      withoutCapacity(teasel()),
    );
    const plain: Job = { ...amps, sheet: { ...amps.sheet, derating: [] } };
    expect(find(plain, 'capacityNotSaid')?.severity).toBe('attention');
    expect(find(plain, 'capacityNotSaid')?.text).toBe('Nobody has entered the capacity of the battery.');
    expect(find({ ...plain, sheet: { ...plain.sheet, derating: [{ toC: 5, limit: 0.1, unit: 'C' }] } }, 'capacityNotSaid')?.severity).toBe('stop');
    expect(find(withSystem(plain, { chargers: [] }), 'capacityNotSaid')).toBeUndefined();
  });

  it('cannot be rehearsed, and says what to enter', () => {
    const p = plan(withoutCapacity(teasel()));
    const run = rehearse({ plan: p, scenario: scenarioNamed(p, 'clear-day')!, values: variantValues(p, 'asSet') });
    expect(run.ok ? [] : run.problems.map((x) => x.text)).toContain('The capacity of the battery is not known. Enter its Ah on Spec.');
  });
});

describe('a sensor of which nobody has said whether it is fitted', () => {
  it('counts as none against the cold, and is told as what it is', () => {
    const found = find(unknownSensor(teasel(), 'fore'), 'coldProtection');
    expect([found?.severity, found?.charger]).toEqual(['stop', 'fore']);
    expect(found?.text).toContain('nobody has said whether its battery sensor is fitted');
    expect(find(unknownSensor(teasel(), 'fore'), 'sensorUnplugged')?.text).toBe(
      'Solar fore: the cutoff needs the battery sensor, and nobody has said whether it is fitted. Without it the charger stops charging.',
    );
  });

  it('compensates nothing that anybody may count on', () => {
    expect(find(unknownSensor(rookMoss(), 'mast'), 'compensationMissingLead')?.text).toContain(
      'compensates by a battery sensor, and nobody has said whether it is fitted',
    );
  });
});
