import { isUnknown } from '../card';
import { unseenSensor } from '../system';
import { jobSchema, newJob } from './job';
import { wholeTeasel } from '../testing/fixtures';
import { withNewcomers, withTwin, type Newcomer } from './devices';

describe('one more charger like another', () => {
  const job = wholeTeasel();
  const aft = job.system.chargers[1]!;
  const twin = withTwin(job, aft.id, { id: 'aft2', name: 'Solar aft 2' });

  it('stands behind it with its card, array, wiring and fuse', () => {
    expect(twin.system.chargers.map((c) => c.id)).toEqual(job.system.chargers.flatMap((c) => (c.id === aft.id ? [c.id, 'aft2'] : [c.id])));
    const made = twin.system.chargers[2]!;
    expect([made.name, made.card, made.array, made.wire, made.fuseA]).toEqual(['Solar aft 2', aft.card, aft.array, aft.wire, aft.fuseA]);
    expect(made.array).toBeDefined();
    expect(jobSchema.safeParse(twin).success).toBeTrue();
  });

  it('has nothing that was read on the other alone', () => {
    const made = twin.system.chargers[2]!;
    expect(Object.keys(aft.present).length).toBeGreaterThan(0);
    expect([made.present, made.displayReadings, made.sensor.fitted, made.firmware, made.passcodeChanged]).toEqual([{}, [], undefined, undefined, false]);
    expect(twin.overrides).toEqual(job.overrides);
  });

  it('of a charger that is not there is none', () => {
    expect(withTwin(job, 'nobody', { id: 'x', name: 'X' })).toBe(job);
  });
});

describe('chargers that come with a log', () => {
  const empty = newJob('heron', 'Heron', '2026-06-01T08:00:00Z');
  const two: readonly Newcomer[] = [
    { id: 'fore', name: 'Fore', kind: 'solarMppt', outputA: 45 },
    { id: 'shaft', name: 'Shaft', kind: 'alternator', outputA: 62.5 },
  ];
  const made = withNewcomers(empty, two, 26.4);

  it('have their name, what they are and their rated output; everything else is not known', () => {
    expect(jobSchema.safeParse(made).success).toBeTrue();
    expect(made.system.chargers.map((c) => [c.id, c.name, c.present, c.sensor])).toEqual([
      ['fore', 'Fore', {}, unseenSensor],
      ['shaft', 'Shaft', {}, unseenSensor],
    ]);
    expect(made.cards.map((c) => [c.kind, c.ratings.outputA, c.ratings.systemVolts, c.model])).toEqual([
      ['solarMppt', 45, [24], 'Solar charger, MPPT, 45\u00a0A'],
      ['alternator', 62.5, [24], 'Alternator regulator, 62.5\u00a0A'],
    ]);
    expect(made.cards.every((c) => isUnknown(c, 'settings') && isUnknown(c, 'absorb') && isUnknown(c, 'saving'))).toBeTrue();
    expect(made.system.chargers.map((c) => c.card)).toEqual(made.cards.map((c) => c.id));
  });

  it('are made for any class where the log does not tell, and take no place that is taken', () => {
    expect(withNewcomers(empty, two, null).cards[0]?.ratings.systemVolts).toEqual([12, 24, 36, 48]);
    const again = withNewcomers(made, [...two, { id: 'mill', name: 'Mill', kind: 'turbine', outputA: 20 }], 26.4);
    expect(again.system.chargers.map((c) => c.id)).toEqual(['fore', 'shaft', 'mill']);
    expect(jobSchema.safeParse(again).success).toBeTrue();
    // A card of that id may be in the job already.
    const carded = withNewcomers({ ...empty, cards: [{ ...made.cards[0]!, id: 'fore-card' }] }, two.slice(0, 1), 26.4);
    expect([carded.cards.length, new Set(carded.cards.map((c) => c.id)).size]).toEqual([2, 2]);
  });
});
