import { seeded, teasel, withFigure, withSystem } from '../testing/fixtures';
import { chargeCeiling, coldStairs, cutoffMargin, displayErrorAt, displayErrorAtTrue, resumeHysteresis, systemSchema, systemVoltageOf } from './index';
import type { Bank } from './index';

describe('system voltage', () => {
  it('knows lithium and lead banks of every class and refuses what lies between', () => {
    expect([12.8, 12, 25.6, 24, 36, 51.2, 48].map(systemVoltageOf)).toEqual([12, 12, 24, 24, 36, 48, 48]);
    expect([6, 18, 30, 60].map(systemVoltageOf)).toEqual([null, null, null, null]);
    // Four, eight, twelve and sixteen cells of NMC; three and thirteen.
    expect([14.8, 29.6, 44.4, 59.2, 11.1, 48.1].map(systemVoltageOf)).toEqual([12, 24, 48, 48, 12, 48]);
    expect([14.88, 14.89, 10.56, 10.55].map(systemVoltageOf)).toEqual([12, null, 12, null]);
  });
});

describe('the charge current ceiling', () => {
  it('of the launch is bound by the recommendation, with one string off at half', () => {
    const { sheet, system } = teasel();
    const ceiling = chargeCeiling(sheet, system);
    expect(ceiling.binding?.name).toBe('Recommended');
    expect(ceiling.binding?.amps).toBeCloseTo(184, 9);
    expect(ceiling.candidates.map((c) => [c.name, Math.round(c.amps)])).toEqual([
      ['One string off', 92],
      ['Recommended', 184],
      ['Main fuse', 200],
      ['Most current', 230],
      ['String fuses', 240],
      ['Main cable', 260],
      ['BMS', 364],
    ]);
  });

  it('is never bound by a conditional line, and always by the lowest of the others', () => {
    const random = seeded(5);
    for (let i = 0; i < 200; i++) {
      const job = teasel();
      const ceiling = chargeCeiling(job.sheet, { ...job.system, bank: { ...job.system.bank, fuseA: 20 + random() * 400, cableA: 20 + random() * 400 } });
      const free = ceiling.candidates.filter((c) => !c.condition).map((c) => c.amps);
      expect(ceiling.binding?.amps).toBe(Math.min(...free));
    }
  });

  it('leaves the BMS of one string room for what it takes above its part: 2 × 60 A / 1.1 by rule, / 1.05 as measured, all of it on one string', () => {
    const bms = (bank: Partial<Bank>, basis: 'unit' | 'bank' = 'unit') => {
      const job = withFigure(teasel(), 'bmsOverCurrent', { max: 60, basis });
      return chargeCeiling(job.sheet, { ...job.system, bank: { ...job.system.bank, ...bank } }).candidates.find((c) => c.name === 'BMS')!;
    };
    expect(bms({}).amps).toBeCloseTo(109.0909, 3);
    expect(bms({}).sum).toBe('2 × 60 A, one string 10 % above its part');
    expect(bms({ stringExcessPercent: 5 }).amps).toBeCloseTo(114.2857, 3);
    expect(bms({ stringsInParallel: 1 })).toEqual({ name: 'BMS', sum: '1 × 60 A', amps: 60 });
    expect(bms({}, 'bank').amps).toBe(60);
  });

  it('turns the derating table into stairs for both strings', () => {
    const { sheet, system } = teasel();
    expect(coldStairs(sheet, system).map((s) => [s.fromC, s.toC, Math.round(s.amps)])).toEqual([
      [0, 5, 23],
      [5, 12, 92],
      [12, 45, 184],
    ]);
    expect(coldStairs({ ...sheet, figures: {} }, system)).toEqual([]);
  });
});

describe('sensors', () => {
  it('cost a margin of pad, lag and error; the lag is the ramp response of a first-order system', () => {
    const { site } = teasel().system;
    const sensor = { fitted: true, place: 'pad', errorC: 0.5, offsetC: 2.5, lagSeconds: 540, warmLeadC: 1.5 } as const;
    expect(cutoffMargin(sensor, site).total).toBeCloseTo(0.5 + 2.5 + (5 * 540) / 3600, 9);
    // The same by stepping a first-order lag along the ramp.
    let reading = 20;
    let cell = 20;
    for (let s = 0; s < 20 * 3600; s++) {
      cell -= site.coolingCPerHour / 3600;
      reading += (cell - reading) / 540;
    }
    expect(reading - cell).toBeCloseTo(cutoffMargin(sensor, site).lag, 2);
  });

  it('that read too cold earn no credit, and resume keeps two degrees at least', () => {
    const { site } = teasel().system;
    const sensor = { fitted: true, place: 'batteryCase', errorC: 0.2, offsetC: -3, lagSeconds: 0, warmLeadC: 0 } as const;
    expect(cutoffMargin(sensor, site).total).toBeCloseTo(0.2, 9);
    expect(resumeHysteresis(sensor)).toBe(2);
    expect(resumeHysteresis({ ...sensor, warmLeadC: 4 })).toBeCloseTo(4.2, 9);
  });
});

describe('display error', () => {
  it('is interpolated between comparisons and never extrapolated', () => {
    const readings = [
      { meterV: 26, displayV: 26.1 },
      { meterV: 28, displayV: 28.3 },
    ];
    expect(displayErrorAt(readings, 27.2)).toBeCloseTo(0.2, 9);
    expect(displayErrorAt(readings, 20)).toBeCloseTo(0.1, 9);
    expect(displayErrorAt(readings, 40)).toBeCloseTo(0.3, 9);
    expect(displayErrorAt([], 28)).toBe(0);
  });

  it('looked up by true volts is the same error', () => {
    const random = seeded(6);
    for (let i = 0; i < 200; i++) {
      const readings = [
        { meterV: 24, displayV: 24 + random() - 0.5 },
        { meterV: 29, displayV: 29 + random() - 0.5 },
      ];
      const truth = 24 + random() * 5;
      const error = displayErrorAtTrue(readings, truth);
      expect(displayErrorAt(readings, truth + error)).toBeCloseTo(error, 9);
    }
  });
});

describe('the system schema', () => {
  it('refuses what cannot be: a coldest above the hottest, ids that stand twice, an instrument nobody has', () => {
    const job = teasel();
    expect(systemSchema.safeParse(job.system).success).toBeTrue();
    expect(systemSchema.safeParse(withSystem(job, { site: { ...job.system.site, bankLowC: 50 } }).system).success).toBeFalse();
    expect(systemSchema.safeParse(withSystem(job, { loads: { minA: 5, maxA: 2 } }).system).success).toBeFalse();
    expect(systemSchema.safeParse(withSystem(job, { chargers: [...job.system.chargers, ...job.system.chargers] }).system).success).toBeFalse();
    expect(systemSchema.safeParse(withSystem(job, { provingInstrument: 'none' }).system).success).toBeFalse();
  });
});
