import { plan, rookMoss, teasel, withFigure } from '../testing/fixtures';
import { requirementsOf } from './index';

const named = (job: ReturnType<typeof teasel>, code: string, charger?: string) =>
  requirementsOf(plan(job)).find((r) => r.code === code && r.charger === charger);

describe('requirements', () => {
  it('of the launch: what is asked of the bank, and of each charger', () => {
    const list = requirementsOf(plan(teasel()));
    expect(list.filter((r) => r.charger === undefined).map((r) => r.code)).toEqual([
      'neverAboveMaximum',
      'currentForTemperature',
      'currentCeiling',
      'chargersAgree',
      'noDisconnect',
      'loadsStayOn',
    ]);
    expect(new Set(list.filter((r) => r.charger === 'aft').map((r) => r.code))).toEqual(
      new Set([
        'absorbLevel',
        'absorbCompleted',
        'floatLevel',
        'noChargeBelowMinimum',
        'noChargeAboveMaximum',
        'rechargeLevel',
        'noEqualise',
        'compensation',
        'displayAgrees',
        'survivesPowerCut',
        'passcodeChanged',
        'absorbAsProgrammed',
        'floatAsProgrammed',
        'rechargeAsProgrammed',
        'currentAsProgrammed',
        'slopeAsProgrammed',
        'cutoffAsProgrammed',
        'resumeAsProgrammed',
      ]),
    );
    expect(list.every((r) => r.seenBy.length > 0)).toBeTrue();
    expect(new Set(list.map((r) => `${r.code}/${r.charger ?? ''}`)).size).toBe(list.length);
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

  it('of compensation: the sheet’s slope for lead, none for lithium, and what each charger was told', () => {
    expect(named(rookMoss(), 'compensation', 'mast')?.band.min).toBeCloseTo(-4.6, 6);
    expect(named(rookMoss(), 'compensation', 'mast')?.band.max).toBeCloseTo(-3.4, 6);
    expect(named(teasel(), 'compensation', 'aft')?.band).toEqual({ min: -0.35, max: 0.35 });
    expect(named(teasel(), 'compensation', 'aft')?.name).toBe('No compensation');
    expect(named(withFigure(teasel(), 'compensationSlope', null), 'compensation', 'aft')).toBeUndefined();
  });

  it('are not made up for figures the sheet lacks', () => {
    expect(named(withFigure(teasel(), 'chargeTemperature', null), 'noChargeBelowMinimum', 'aft')).toBeUndefined();
    expect(named(withFigure(withFigure(teasel(), 'absorbTime', null), 'taperCurrent', null), 'absorbCompleted', 'aft')).toBeUndefined();
  });
});
