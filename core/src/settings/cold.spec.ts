import { plan, wholeTeasel, withCharger } from '../testing/fixtures';
import { coldPlan, ownLimit, unlimitedA } from './index';

const stairs = [
  { fromC: 0, toC: 5, amps: 23 },
  { fromC: 5, toC: 12, amps: 92 },
  { fromC: 12, toC: 45, amps: 230 },
];
const launch = wholeTeasel();
const alternator = launch.system.chargers.find((c) => c.id === 'alternator')!;

describe('a source without a limit of its own', () => {
  it('gives what its machine is rated for, or else what the regulator is', () => {
    expect(alternator.machine?.ratedA).toBe(100);
    expect(unlimitedA(launch, alternator)).toBe(100);
    const bare = withCharger(launch, 'alternator', { machine: undefined }).system.chargers.find((c) => c.id === 'alternator')!;
    const card = launch.cards.find((c) => c.id === alternator.card)!;
    expect(unlimitedA(launch, bare)).toBe(card.ratings.outputA);
    expect(unlimitedA(launch, launch.system.chargers[0]!)).toBeNull();
  });

  it('is part of the total that lowered limits are shared from, and starts where the stair bears it beside them', () => {
    const cold = coldPlan(launch, 184, stairs, 'lowerLimits');
    // 23 A for the three that can be limited, and the alternator’s 100 A on top.
    expect([cold.lowered, cold.totalA]).toEqual([true, 123]);
    const limited = ['fore', 'aft', 'dcdc'].map((id) => cold.sources.find((s) => s.charger === id)!);
    expect(limited.reduce((sum, s) => sum + s.amps, 0)).toBeCloseTo(23, 6);
    expect(limited.map((s) => s.fromC)).toEqual([0, 0, 0]);
    // 123 A need the last stair: 92 A are too few.
    expect(cold.sources.find((s) => s.charger === 'alternator')).toEqual({ charger: 'alternator', amps: 100, fromC: 12 });
    expect(cold.bears).toBeTrue();
  });

  it('is not lowered where the coldest stair bears the ceiling', () => {
    const mild = coldPlan(launch, 184, [{ fromC: 0, toC: 45, amps: 184 }], 'lowerLimits');
    expect([mild.lowered, mild.totalA]).toEqual([false, 184]);
    expect(coldPlan(launch, 184, [{ fromC: 0, toC: 45, amps: 183.9 }], 'lowerLimits').lowered).toBeTrue();
  });
});

describe('where the sources start in the cold', () => {
  const from = (school: Parameters<typeof coldPlan>[3]) =>
    coldPlan(launch, 184, stairs, school).sources.map((s) => `${s.charger} ${s.amps.toFixed(1)} from ${s.fromC}`);
  it('is by school: all at the minimum, all on the stair that bears them, one after another', () => {
    expect(from('sheetMinimum')).toEqual(['fore 31.5 from 0', 'aft 31.5 from 0', 'dcdc 21.0 from 0', 'alternator 100.0 from 0']);
    expect(coldPlan(launch, 184, stairs, 'sheetMinimum').bears).toBeFalse();
    expect(from('raiseCutoff')).toEqual(['fore 31.5 from 12', 'aft 31.5 from 12', 'dcdc 21.0 from 12', 'alternator 100.0 from 12']);
    expect(from('stagger')).toEqual(['fore 31.5 from 5', 'aft 31.5 from 5', 'dcdc 21.0 from 0', 'alternator 100.0 from 12']);
    for (const school of ['raiseCutoff', 'stagger', 'lowerLimits'] as const)
      expect(coldPlan(launch, 184, stairs, school).bears)
        .withContext(school)
        .toBeTrue();
  });
});

describe('the least of what a charger itself may give', () => {
  const of = (change: object) => {
    const job = withCharger(launch, 'aft', { fuseA: undefined, wire: undefined, cableA: undefined, ...change });
    return ownLimit(
      job,
      job.system.chargers.find((c) => c.id === 'aft')!,
    );
  };
  it('is its rating, its fuse carried all day, or its cable', () => {
    expect(of({})).toEqual({ name: 'its rating', amps: 45 });
    expect(of({ fuseA: 50 })).toEqual({ name: 'its fuse, 50 A × 0.8', amps: 40 });
    expect(of({ fuseA: 60 })).toEqual({ name: 'its rating', amps: 45 });
    expect(of({ wire: { lengthM: 1, areaMm2: 4 } })).toEqual({ name: 'its cable', amps: 36 });
    expect(of({ cableA: 20, fuseA: 50 })).toEqual({ name: 'its cable', amps: 20 });
  });
  it('bounds what the plan gives it', () => {
    expect(plan(withCharger(launch, 'aft', { fuseA: 20 })).setting('aft', 'chargeCurrentLimit')?.trueValue).toBeLessThanOrEqual(16);
  });
});
