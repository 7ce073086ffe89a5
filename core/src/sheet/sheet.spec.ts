import { seeded, teasel } from '../testing/fixtures';
import {
  bankAmps,
  basisSchema,
  chemistrySchema,
  figureOnBank,
  figureSchema,
  nominalCellVolts,
  plausibility,
  scaleVolts,
  sheetSchema,
  unitOfChemistry,
  unitOfVolts,
  type BankShape,
  type Figure,
} from './index';

const launch: BankShape = { cellsPerUnit: 8, cellsPerBlock: 4, unitsInSeries: 1, stringsInParallel: 2, unitCapacityAh: 230 };
const mast: BankShape = { cellsPerUnit: 3, cellsPerBlock: 6, unitsInSeries: 2, stringsInParallel: 2, unitCapacityAh: 210 };
const volts = (target: number, basis: Figure['basis']): Figure => ({ state: 'stated', target, unit: 'V', basis, rank: 'makerForThisCharger' });

describe('scaling a figure', () => {
  it('multiplies volts over cells and units in series', () => {
    expect(scaleVolts(2.45, 'cell', 'bank', mast)).toBeCloseTo(14.7, 9);
    expect(scaleVolts(7.35, 'unit', 'bank', mast)).toBeCloseTo(14.7, 9);
    expect(scaleVolts(28.1, 'unit', 'cell', launch)).toBeCloseTo(3.5125, 9);
  });

  it('adds currents over strings and never over series', () => {
    expect(bankAmps(115, 'A', 'unit', launch)).toBe(230);
    expect(bankAmps(0.4, 'C', 'unit', launch)).toBeCloseTo(184, 9);
    expect(bankAmps(10, 'A', 'unit', { ...launch, unitsInSeries: 4 })).toBe(20);
  });

  it('comes back unchanged through any two bases', () => {
    const random = seeded(2);
    for (let i = 0; i < 500; i++) {
      const shape = {
        cellsPerBlock: 6,
        cellsPerUnit: 1 + Math.floor(random() * 16),
        unitsInSeries: 1 + Math.floor(random() * 5),
        stringsInParallel: 1,
        unitCapacityAh: 100,
      };
      const [a, b] = [basisSchema.options[Math.floor(random() * 4)] ?? 'cell', basisSchema.options[Math.floor(random() * 4)] ?? 'bank'];
      const value = random() * 60;
      expect(scaleVolts(scaleVolts(value, a, b, shape), b, a, shape)).toBeCloseTo(value, 9);
    }
  });

  it('scales the whole band of a figure', () => {
    expect(figureOnBank({ ...volts(2.45, 'cell'), min: 2.4, max: 2.47 }, mast)).toEqual({
      band: { min: jasmine.any(Number) as never, max: jasmine.any(Number) as never },
      target: 14.700000000000001,
    });
  });
});

describe('plausibility', () => {
  it('says on which basis a suspicious figure would make sense', () => {
    expect(plausibility('lfp', 'absorbVoltage', volts(28.1, 'unit'), launch)).toEqual({ plausible: true });
    const wrong = plausibility('lfp', 'absorbVoltage', volts(28.1, 'cell'), launch);
    expect(wrong.plausible).toBeFalse();
    if (!wrong.plausible) expect(wrong.wouldFit).toEqual(['unit']);
    const series = plausibility('lfp', 'absorbVoltage', volts(28.1, 'cell'), { ...launch, unitsInSeries: 2 });
    if (!series.plausible) expect(series.wouldFit).toEqual(['unit']);
  });

  it('finds a slope with its sign reversed and offers no basis for it', () => {
    const slope: Figure = { state: 'stated', target: 0.004, unit: 'V/°C', basis: 'cell', rank: 'makerForThisCharger' };
    const wrong = plausibility('flooded', 'compensationSlope', slope, mast);
    expect(wrong.plausible).toBeFalse();
    if (!wrong.plausible) expect(wrong.wouldFit).toEqual([]);
  });

  it('has nothing to say about a figure that is not permitted', () => {
    expect(plausibility('lfp', 'absorbVoltage', { ...volts(99, 'cell'), state: 'notPermitted' }, launch).plausible).toBeTrue();
  });
});

describe('the sheet schema', () => {
  it('refuses bands whose ends do not rise, numbers that are none, and rows out of order', () => {
    expect(figureSchema.safeParse({ ...volts(28, 'unit'), min: 29 }).success).toBeFalse();
    expect(figureSchema.safeParse(volts(NaN, 'unit')).success).toBeFalse();
    const { sheet } = teasel();
    expect(sheetSchema.safeParse({ ...sheet, derating: [...sheet.derating].reverse() }).success).toBeFalse();
    expect(sheetSchema.safeParse({ ...sheet, figures: { absorbVoltage: { ...volts(28, 'unit'), unit: 'A' } } }).success).toBeFalse();
    expect(sheetSchema.safeParse(sheet).success).toBeTrue();
  });
});

describe('a battery whose chemistry or volts are typed first', () => {
  const lfp = { nominalVolts: 12.8, capacityAh: 100, cellsInSeries: 4 };

  it('takes the cells and volts of as many 12 V blocks: 25.6 V of eight LFP cells are 24 V of twelve lead cells', () => {
    expect(unitOfChemistry(lfp, 'lfp', 'agm')).toEqual({ nominalVolts: 12, capacityAh: 100, cellsInSeries: 6 });
    expect(unitOfChemistry({ ...lfp, nominalVolts: 25.6, cellsInSeries: 8 }, 'lfp', 'gel')).toEqual({ nominalVolts: 24, capacityAh: 100, cellsInSeries: 12 });
  });

  it('comes back to itself by way of any chemistry', () => {
    for (const blocks of [1, 2, 4])
      for (const from of chemistrySchema.options)
        for (const to of chemistrySchema.options) {
          const cellsInSeries = blocks * Math.round(12 / nominalCellVolts[from]);
          const unit = { nominalVolts: Number((cellsInSeries * nominalCellVolts[from]).toFixed(6)), capacityAh: 50, cellsInSeries };
          expect(unitOfChemistry(unitOfChemistry(unit, from, to), to, from))
            .withContext(`${blocks} ${from} ${to}`)
            .toEqual(unit);
        }
  });

  it('leaves alone what never fitted: a count that somebody gave on purpose', () => {
    const odd = { nominalVolts: 12.8, capacityAh: 100, cellsInSeries: 5 };
    expect(unitOfChemistry(odd, 'lfp', 'agm')).toBe(odd);
    expect(unitOfVolts(odd, 'lfp', 25.6)).toEqual({ ...odd, nominalVolts: 25.6 });
  });

  it('follows its volts while they are typed, key by key', () => {
    const typed = [1, 12, 12.8].reduce((unit, volts) => unitOfVolts(unit, 'lfp', volts), { nominalVolts: 25.6, capacityAh: 100, cellsInSeries: 8 });
    expect(typed).toEqual(lfp);
    expect(unitOfVolts({ nominalVolts: 12, capacityAh: 1, cellsInSeries: 6 }, 'agm', 6).cellsInSeries).toBe(3);
  });
});
