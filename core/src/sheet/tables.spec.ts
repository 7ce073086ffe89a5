import { plan, teasel, wholeTeasel, withFigure } from '../testing/fixtures';
import {
  bankAmps,
  bankCapacityAh,
  cellsInSeries,
  cellsOf,
  cellsPerBlock,
  figureOnBank,
  nominalCellVolts,
  plausibility,
  plausibleWindow,
  scaleVolts,
  unitOfChemistry,
  unitOfVolts,
  type Chemistry,
  type Figure,
  type FigureKey,
} from './index';

const chemistries: readonly Chemistry[] = ['lfp', 'nmc', 'flooded', 'agm', 'gel'];
const shape = { cellsPerUnit: 4, cellsPerBlock: 4, unitsInSeries: 2, stringsInParallel: 3, unitCapacityAh: 100 };
const figure = (change: Partial<Figure>): Figure => ({ state: 'stated', unit: 'V', basis: 'unit', rank: 'makerForThisCharger', ...change });

describe('what each chemistry bears, per cell', () => {
  const told = (chemistry: Chemistry): string =>
    (
      [
        'absorbVoltage',
        'floatVoltage',
        'rechargeVoltage',
        'equaliseVoltage',
        'disconnectVoltage',
        'reconnectVoltage',
        'storageVoltage',
        'bmsOverVoltage',
        'bmsCellOverVoltage',
        'bmsRelease',
        'bmsUnderVoltage',
        'compensationSlope',
        'absorbTime',
      ] as const satisfies readonly FigureKey[]
    )
      .map((key) => {
        const window = plausibleWindow(chemistry, key);
        return window ? `${window.min}…${window.max}` : '–';
      })
      .join(' ');
  it('is a window for each voltage and the slope', () => {
    expect(chemistries.map(told)).toEqual([
      '3.4…3.65 3.25…3.5 3.1…3.4 – 2.5…3.25 2.8…3.35 3.1…3.4 3.55…3.9 3.55…3.9 3.3…3.65 2…3 – –',
      '3.9…4.2 3.8…4.15 3.6…4.1 – 3…3.6 3.3…3.8 3.6…3.95 4.15…4.35 4.15…4.35 3.9…4.2 2.5…3.3 – –',
      '2.3…2.5 2.15…2.35 1.95…2.2 2.4…2.75 1.7…2.1 1.95…2.25 2.1…2.35 – – – – -0.007…-0.002 –',
      '2.3…2.5 2.15…2.35 1.95…2.2 2.4…2.75 1.7…2.1 1.95…2.25 2.1…2.35 – – – – -0.007…-0.002 –',
      '2.3…2.45 2.15…2.35 1.95…2.2 2.4…2.75 1.7…2.1 1.95…2.25 2.1…2.35 – – – – -0.007…-0.002 –',
    ]);
  });
  it('decides what is plausible, ends included, and on which basis it would be', () => {
    const of = (change: Partial<Figure>) => plausibility('lfp', 'absorbVoltage', figure(change), shape);
    expect([of({ basis: 'cell', target: 3.4 }), of({ basis: 'cell', min: 3.4, max: 3.65 }), of({ state: 'notPermitted', target: 1 }), of({})]).toEqual(
      Array.from({ length: 4 }, () => ({ plausible: true })),
    );
    expect(of({ basis: 'cell', target: 14.2 })).toEqual({ plausible: false, perCell: 14.2, window: { min: 3.4, max: 3.65 }, wouldFit: ['unit'] });
    expect(of({ basis: 'unit', target: 28.4 })).toEqual(jasmine.objectContaining({ plausible: false, perCell: 7.1, wouldFit: ['bank'] }));
    expect(of({ basis: 'cell', min: 3.5, max: 3.7 })).toEqual(jasmine.objectContaining({ plausible: false, perCell: 3.7, wouldFit: [] }));
  });
  it('has nominal volts, and so many cells to a 12 V block', () => {
    expect(chemistries.map((c) => [nominalCellVolts[c], cellsPerBlock(c)])).toEqual([
      [3.2, 4],
      [3.65, 3],
      [2, 6],
      [2, 6],
      [2, 6],
    ]);
  });
  it('gives usual figures where the sheet has none: efficiency and exponent of the monitor, volts of the load output', () => {
    const usual = (chemistry: Chemistry): readonly (number | string | null | undefined)[] => {
      const whole = wholeTeasel();
      const job = withFigure(withFigure({ ...whole, sheet: { ...whole.sheet, chemistry } }, 'disconnectVoltage', null), 'reconnectVoltage', null);
      const p = plan(job);
      const exact = (role: Parameters<typeof p.setting>[1]) => p.setting('monitor', role)?.exact;
      return [exact('chargeEfficiency'), exact('peukertExponent'), exact('loadDisconnect'), exact('loadReconnect')].map((v) =>
        typeof v === 'number' ? Number(v.toFixed(3)) : v,
      );
    };
    // Eight cells in series on the launch.
    expect(chemistries.map(usual)).toEqual([
      [99, 1.03, 24.4, 26],
      [99, 1.03, 27.2, 28.8],
      [85, 1.25, 15.6, 16.8],
      [92, 1.12, 15.6, 16.8],
      [90, 1.15, 15.6, 16.8],
    ]);
  });
});

describe('scaling to the bank', () => {
  it('counts cells for volts and slopes, strings for amps, capacity for multiples of it', () => {
    expect([cellsInSeries(shape), bankCapacityAh(shape), ...(['cell', 'block', 'unit', 'bank'] as const).map((b) => cellsOf(b, shape))]).toEqual([
      8, 300, 1, 4, 4, 8,
    ]);
    expect([scaleVolts(3.5, 'cell', 'bank', shape), scaleVolts(28, 'bank', 'cell', shape), scaleVolts(14, 'block', 'bank', shape)]).toEqual([28, 3.5, 28]);
    expect([bankAmps(50, 'A', 'unit', shape), bankAmps(50, 'A', 'bank', shape), bankAmps(0.2, 'C', 'unit', shape), bankAmps(0.2, 'C', 'bank', shape)]).toEqual([
      150, 50, 60, 60,
    ]);
  });
  it('scales a whole figure by its unit', () => {
    const of = (change: Partial<Figure>) => figureOnBank(figure(change), shape);
    expect(of({ basis: 'cell', min: 3.5, target: 3.51, max: 3.55 })).toEqual({ band: { min: 28, max: 28.4 }, target: 28.08 });
    expect(of({ unit: 'V/°C', basis: 'unit', target: -0.03 })).toEqual({ band: {}, target: -0.06 });
    expect(of({ unit: 'A', basis: 'unit', max: 50 })).toEqual({ band: { max: 150 } });
    expect(of({ unit: 's/Ah', basis: 'unit', target: 36 }).target).toBe(3600);
    expect(of({ unit: 's/Ah', basis: 'bank', target: 36 }).target).toBe(10_800);
    expect(of({ unit: 's', basis: 'bank', target: 36 }).target).toBe(36);
  });
});

describe('a battery of another chemistry or voltage', () => {
  it('has as many blocks, with that chemistry’s cells and volts', () => {
    expect(unitOfChemistry({ nominalVolts: 12.8, cellsInSeries: 4 }, 'lfp', 'agm')).toEqual({ nominalVolts: 12, cellsInSeries: 6 });
    expect(unitOfChemistry({ nominalVolts: 24, cellsInSeries: 12 }, 'gel', 'lfp')).toEqual({ nominalVolts: 25.6, cellsInSeries: 8 });
    expect(unitOfChemistry({ nominalVolts: 12.8, cellsInSeries: 4 }, 'lfp', 'nmc')).toEqual({ nominalVolts: 10.95, cellsInSeries: 3 });
    // Cells that never fitted the volts, and parts of a block, stay.
    expect(unitOfChemistry({ nominalVolts: 12.8, cellsInSeries: 5 }, 'lfp', 'agm')).toEqual({ nominalVolts: 12.8, cellsInSeries: 5 });
    expect(unitOfChemistry({ nominalVolts: 6, cellsInSeries: 3 }, 'agm', 'lfp')).toEqual({ nominalVolts: 6, cellsInSeries: 3 });
  });
  it('has the cells of its new volts where they fitted before', () => {
    expect([
      unitOfVolts({ nominalVolts: 12, cellsInSeries: 6 }, 'agm', 6),
      unitOfVolts({ nominalVolts: 12, cellsInSeries: 5 }, 'agm', 6),
      unitOfVolts({ nominalVolts: 12, cellsInSeries: 6 }, 'agm', 0.5),
    ]).toEqual([
      { nominalVolts: 6, cellsInSeries: 3 },
      { nominalVolts: 6, cellsInSeries: 5 },
      { nominalVolts: 0.5, cellsInSeries: 1 },
    ]);
    expect(teasel().sheet.unit.cellsInSeries).toBe(8);
  });
});
