import { plan, rookMoss, teasel, withFigure } from '../testing/fixtures';
import { requirementsOf } from './index';

const named = (job: ReturnType<typeof teasel>, code: string, charger?: string) =>
  requirementsOf(plan(job)).find((r) => r.code === code && r.charger === charger);

describe('requirements', () => {
  it('of the launch: one maximum for the bank, six for each charger', () => {
    const list = requirementsOf(plan(teasel()));
    expect(list.filter((r) => r.charger === undefined).map((r) => r.code)).toEqual(['neverAboveMaximum']);
    expect(list.filter((r) => r.charger === 'aft').length).toBe(6);
    expect(named(teasel(), 'absorbLevel', 'aft')?.band).toEqual({ min: 28, max: 28.4 });
    expect(named(teasel(), 'absorbCompleted', 'aft')?.taperA).toBeCloseTo(18.4, 9);
    expect(named(teasel(), 'noChargeBelowMinimum', 'aft')?.band).toEqual({ min: 0 });
  });

  it('as programmed stand around what the keyed value makes, not around the sheet', () => {
    const band = named(teasel(), 'absorbAsProgrammed', 'fore')?.band;
    expect(((band?.min ?? 0) + (band?.max ?? 0)) / 2).toBeCloseTo(28.09, 6);
  });

  it('of lead move with temperature and allow the sheet’s equalise at most', () => {
    const most = named(rookMoss(), 'neverAboveMaximum');
    expect(most?.band.max).toBeCloseTo(15.6, 9);
    expect(most?.compensation?.slope).toBeCloseTo(-0.024, 9);
    expect(named(teasel(), 'neverAboveMaximum')?.compensation).toBeUndefined();
  });

  it('are not made up for figures the sheet lacks', () => {
    expect(named(withFigure(teasel(), 'chargeTemperature', null), 'noChargeBelowMinimum', 'aft')).toBeUndefined();
    expect(named(withFigure(withFigure(teasel(), 'absorbTime', null), 'taperCurrent', null), 'absorbCompleted', 'aft')).toBeUndefined();
  });
});
