import { seeded } from '../testing/fixtures';
import {
  cellsPerBlock,
  chemistrySchema,
  example,
  figureInfo,
  figureKeys,
  figureOnBank,
  printWithBasis,
  readFigure,
  type BankShape,
  type Chemistry,
  type EntryContext,
  type Figure,
  type FigureEntry,
  type FigureKey,
} from './index';

const shape: BankShape = { cellsPerUnit: 8, cellsPerBlock: 4, unitsInSeries: 1, stringsInParallel: 2, unitCapacityAh: 230 };
const lfp: EntryContext = { chemistry: 'lfp', shape, basis: 'unit' };
/** A 48 V bank of 12 V AGM batteries. */
const agm: EntryContext = {
  chemistry: 'agm',
  shape: { cellsPerUnit: 6, cellsPerBlock: 6, unitsInSeries: 4, stringsInParallel: 3, unitCapacityAh: 110 },
  basis: 'unit',
};

function read(key: FigureKey, text: string, context = lfp): FigureEntry | null {
  const result = readFigure(key, text, context);
  if (!result.ok) throw new Error(result.problems[0]?.text);
  return result.value;
}
const refusal = (key: FigureKey, text: string, context = lfp): string => {
  const result = readFigure(key, text, context);
  return result.ok ? '' : (result.problems[0]?.text ?? '');
};
const numbers = (e: FigureEntry | null) => [e?.min, e?.target, e?.max];

describe('a figure as people type it', () => {
  it('with target and band in any order, with point or comma, dash, “to” or ±', () => {
    for (const text of [
      '28.1 V (28.0–28.4)',
      '28,1 V 28,0-28,4 V',
      '28.0 to 28.4, target 28.1 V',
      'min 28 V, max 28.4 V, nominal 28.1 V',
      '28.0…28.4 V aim 28.1',
    ])
      expect(numbers(read('absorbVoltage', text)))
        .withContext(text)
        .toEqual([28, 28.1, 28.4]);
    expect(numbers(read('absorbVoltage', '28.2 ± 0.2 V'))).toEqual([28, 28.2, 28.4]);
    expect(numbers(read('absorbVoltage', '28.4 V max'))).toEqual([undefined, undefined, 28.4]);
    expect(numbers(read('chargeTemperature', '-20 to 60 °C'))).toEqual([-20, undefined, 60]);
  });

  it('counted per cell, per battery, per 12 V block or for the bank', () => {
    expect(read('absorbVoltage', '3.51 V/cell')?.basis).toBe('cell');
    expect(read('bmsCellOverVoltage', '3.68 V on any cell')?.basis).toBe('cell');
    expect(read('absorbVoltage', '14.4 V per 12 V block', agm)?.basis).toBe('block');
    expect(read('compensationSlope', '-24 mV/°C/12V', agm)).toEqual(jasmine.objectContaining({ basis: 'block', target: -0.024 }));
    expect(read('compensationSlope', '−3.5 mV per °C per cell', agm)).toEqual(jasmine.objectContaining({ basis: 'cell', target: -0.0035 }));
    expect(read('absorbVoltage', '57.6 V for the bank', agm)?.basis).toBe('bank');
    expect(read('taperCurrent', '4.6 A each')?.basis).toBe('unit');
  });

  it('without a word on what it counts for takes the basis given, unless only another makes sense, and says so', () => {
    expect(read('absorbVoltage', '28.1 V')).toEqual(jasmine.objectContaining({ basis: 'unit', assumed: [] }));
    const cell = read('absorbVoltage', '3.51 V');
    expect(cell?.basis).toBe('cell');
    expect(cell?.assumed.join(' ')).toContain('per cell');
    // Outside physics on every basis: kept as given, for the finding to speak of.
    expect(read('absorbVoltage', '40 V')?.basis).toBe('unit');
  });

  it('in units of its own: mV, °F, hours and minutes, C-rates, percent, minutes per 100 Ah', () => {
    expect(numbers(read('absorbVoltage', '3500–3550 mV per cell, target 3510'))).toEqual([3.5, 3.51, 3.55]);
    expect(numbers(read('chargeTemperature', '32–113 °F'))).toEqual([0, undefined, 45]);
    expect(read('coolingRate', '9 °F/h')?.max).toBeCloseTo(5, 9);
    expect(read('absorbTime', '1 h 20 min')?.target).toBe(4800);
    expect(read('absorbTime', '40')?.target).toBe(2400);
    expect([read('taperCurrent', 'C/20')?.max, read('taperCurrent', '5 %')?.max, read('taperCurrent', '0.05C')?.max]).toEqual([0.05, 0.05, 0.05]);
    expect(read('absorbTime', '20 min/100 Ah')).toEqual(jasmine.objectContaining({ unit: 's/Ah', target: 12 }));
    expect(read('equaliseInterval', 'every 12 weeks', agm)?.target).toBe(84);
    expect(read('compensationSlope', '-2 mV/°F/cell', agm)?.target).toBeCloseTo(-0.0036, 9);
  });

  it('not permitted, not needed, or not there', () => {
    expect(read('equaliseVoltage', 'Not permitted')?.state).toBe('notPermitted');
    expect(read('floatVoltage', 'n/a')?.state).toBe('notNeeded');
    expect(read('floatVoltage', '  ')).toBeNull();
  });

  it('a slope of lead without a sign falls with temperature; a written plus is kept for the finding to speak of', () => {
    expect(read('compensationSlope', '3.5 mV/°C/cell', agm)?.target).toBe(-0.0035);
    expect(read('compensationSlope', '3.5 mV/°C/cell', agm)?.assumed.join()).toContain('Read as minus');
    expect(numbers(read('compensationSlope', '3–5 mV/K/cell', agm))).toEqual([-0.005, undefined, -0.003]);
    expect(read('compensationSlope', '+3.5 mV/°C/cell', agm)?.target).toBe(0.0035);
  });
});

describe('what cannot be read', () => {
  it('is said in a sentence that shows how it is written', () => {
    expect(refusal('absorbVoltage', '28 kV')).toContain('“kv” is not understood');
    expect(refusal('absorbVoltage', '40 min')).toContain('no unit of absorb voltage');
    expect(refusal('absorbVoltage', '28.4–28.0 V')).toContain('greater end first');
    expect(refusal('absorbVoltage', '27 V (28.0–28.4)')).toContain('outside its own band');
    expect(refusal('absorbVoltage', '28 28.1 28.2 28.4')).toContain('more numbers');
    expect(refusal('absorbVoltage', 'V')).toContain('no');
    expect(refusal('absorbVoltage', '±0.2 V')).toContain('needs a value before it');
    expect(refusal('absorbVoltage', '28 V per cell per battery')).toContain('two things');
    expect(refusal('taperCurrent', '4 A (0.04 C)')).toContain('two units');
    expect(refusal('taperCurrent', 'C/0')).toContain('C/0');
    expect(refusal('absorbTime', '40 min or 2 h')).toContain('more numbers');
  });

  it('never throws and never gives a number that is none, whatever is typed', () => {
    const random = seeded(77);
    const pieces = [
      '28.1',
      '0',
      '-',
      '–',
      '±',
      'V',
      '/cell',
      'per',
      '12 V',
      'C',
      '/',
      'min',
      'max',
      'to',
      '(',
      ')',
      ',',
      '.',
      '°',
      'F',
      'h',
      '100 Ah',
      '%',
      '<b>',
      '\t',
      'e',
      '9'.repeat(20),
    ];
    for (let i = 0; i < 3000; i++) {
      const text = Array.from({ length: 1 + Math.floor(random() * 8) }, () => pieces[Math.floor(random() * pieces.length)]).join(random() < 0.5 ? ' ' : '');
      const key = figureKeys[Math.floor(random() * figureKeys.length)] ?? 'absorbVoltage';
      const result = readFigure(key, text, random() < 0.5 ? lfp : agm);
      if (!result.ok) expect(result.problems[0]?.text).toMatch(/\.$/);
      else if (result.value)
        for (const n of numbers(result.value))
          expect(n === undefined || Number.isFinite(n))
            .withContext(`${key}: ${text}`)
            .toBeTrue();
    }
  });

  it('is never the example that the sentence itself gives', () => {
    for (const key of figureKeys)
      for (const [, text] of example(key).matchAll(/“([^”]+)”/g))
        expect(readFigure(key, text ?? '', figureInfo[key].chemistries.includes('lfp') ? lfp : agm).ok)
          .withContext(`${key}: ${text}`)
          .toBeTrue();
  });
});

describe('a figure printed and read again', () => {
  it('is the same figure, on every basis, in every unit', () => {
    const random = seeded(31);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
    for (let i = 0; i < 1500; i++) {
      const key = pick(figureKeys);
      const chemistry = pick(figureInfo[key].chemistries as readonly Chemistry[]);
      const unit = pick(figureInfo[key].units as readonly Figure['unit'][]);
      const basis = pick(['cell', 'unit', 'bank', 'block'] as const);
      const scale = unit === 's' ? 60 : unit === 's/Ah' ? 0.6 : unit === 'V/°C' ? -0.001 : 1;
      const base = 1 + Math.floor(random() * 50);
      const [a, b, c] = [base, base + 1, base + 3].map((n) => Number((n * scale).toFixed(6))).sort((x, y) => x - y);
      const ends = pick([{ target: b! }, { min: a! }, { max: c! }, { min: a!, max: c! }, { min: a!, target: b!, max: c! }]);
      const figure: Figure = { state: 'stated', unit, basis, rank: 'makerForThisCharger', ...ends };
      const text = printWithBasis(figure);
      const context: EntryContext = { chemistry, shape: { ...shape, cellsPerBlock: cellsPerBlock(chemistry) }, basis };
      const again = read(key, text, context);
      const lone = Object.keys(ends).length === 1 && 'target' in ends && figureInfo[key].lone !== 'target';
      const got = numbers(again);
      const wanted = lone
        ? figureInfo[key].lone === 'max'
          ? [undefined, undefined, figure.target]
          : [figure.target, undefined, undefined]
        : [figure.min, figure.target, figure.max];
      got.forEach((n, k) =>
        wanted[k] === undefined ? expect(n).withContext(`${key}: ${text}`).toBeUndefined() : expect(n).withContext(`${key}: ${text}`).toBeCloseTo(wanted[k], 6),
      );
      expect(again?.unit).withContext(text).toBe(unit);
    }
  });
});

describe('a 48 V bank from a sheet in volts per cell and mV/°C per 12 V block', () => {
  it('comes out as worked by hand: 2.40 V × 24 cells = 57.6 V, −24 mV × 4 blocks = −96 mV/°C', () => {
    const figure = (key: FigureKey, text: string): Figure => ({ ...read(key, text, agm)!, rank: 'makerForThisCharger' });
    expect(figureOnBank(figure('absorbVoltage', '2.40 V/cell (2.38–2.42)'), agm.shape).target).toBeCloseTo(57.6, 9);
    expect(figureOnBank(figure('absorbVoltage', '2.40 V/cell (2.38–2.42)'), agm.shape).band.max).toBeCloseTo(58.08, 9);
    expect(figureOnBank(figure('compensationSlope', '-24 mV/°C per 12 V'), agm.shape).target).toBeCloseTo(-0.096, 9);
    expect(figureOnBank(figure('chargeCurrentMax', '27 A'), agm.shape).band.max).toBe(81);
    // 20 min per 100 Ah over 3 × 110 Ah is 66 min.
    expect(figureOnBank(figure('absorbTime', '20 min/100 Ah for the bank'), agm.shape).target).toBeCloseTo(66 * 60, 6);
  });

  it('every chemistry knows how many of its cells make a 12 V block', () => {
    expect(chemistrySchema.options.map(cellsPerBlock)).toEqual([4, 3, 6, 6, 6]);
  });
});
