import { jobSchema } from './job';
import { wholeTeasel } from '../testing/fixtures';
import { withTwin } from './devices';

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
