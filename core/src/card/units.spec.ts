import {
  deviceDecimals,
  deviceGrid,
  deviceRange,
  deviceUnitLabel,
  displayText,
  factoryOf,
  fromDevice,
  toDevice,
  type DeviceSetting,
  type NumberParameter,
  type Parameter,
} from './index';
import { numberParameter as parameter } from '../testing/fixtures';

const at: DeviceSetting = { systemVolts: 24, cellsInSeries: 12, ratingA: 45, floatVolts: 27 };
const choice = {
  role: 'batteryType',
  label: '',
  menu: [],
  unit: 'choice',
  options: [{ value: 'own', label: 'Own' }],
  factory: 'own',
  access: 'basic',
  keys: [],
} as unknown as Parameter;

/** A unit, what stands on the display, what it is at the bank, and how the unit is written. */
const units: readonly (readonly [NumberParameter['unit'], number, number, string])[] = [
  ['V', 28.1, 28.1, 'V'],
  ['V/12V', 14.05, 28.1, 'V per 12 V'],
  ['V/cell', 2.34, 28.08, 'V per cell'],
  ['V below float', 0.6, 26.4, 'V below float'],
  ['mV/°C/12V', 24, 0.004, 'mV/°C per 6 cells'],
  ['mV/°C', 48, 0.004, 'mV/°C'],
  ['mV/°C/cell', 4, 0.004, 'mV/°C/cell'],
  ['s', 90, 90, 's'],
  ['min', 90, 5400, 'min'],
  ['h', 1.5, 5400, 'h'],
  ['d', 14, 14, 'd'],
  ['A', 30, 30, 'A'],
  ['Ah', 230, 230, 'Ah'],
  ['%', 80, 80, '%'],
  ['% of rating', 80, 36, '% of rating'],
  ['°C', 4, 4, '°C'],
  ['°F', 50, 10, '°F'],
  ['°C difference', 4, 4, '°C'],
  ['°F difference', 9, 5, '°F'],
  ['ratio', 1.12, 1.12, ''],
];

describe('a charger’s unit', () => {
  for (const [unit, shown, real, label] of units)
    it(`${unit}: ${shown} on the display is ${real} at the bank`, () => {
      const p = parameter({ unit });
      expect(fromDevice(p, shown, at)).toBeCloseTo(real, 9);
      expect(toDevice(p, real, at)).toBeCloseTo(shown, 9);
      expect(deviceUnitLabel(p)).toBe(label);
    });

  it('turns a slope that is written without its sign', () => {
    for (const unit of ['mV/°C/12V', 'mV/°C', 'mV/°C/cell'] as const) {
      const p = parameter({ unit, slopeSign: 'positive' });
      expect(fromDevice(p, 4, at))
        .withContext(unit)
        .toBeLessThan(0);
      expect(toDevice(p, -0.004, at))
        .withContext(unit)
        .toBeGreaterThan(0);
      expect(fromDevice(parameter({ unit, slopeSign: 'negative' }), -4, at))
        .withContext(unit)
        .toBeLessThan(0);
    }
  });

  it('below float needs a float, both ways', () => {
    const { floatVolts: _none, ...without } = at;
    expect(() => toDevice(parameter({ unit: 'V below float' }), 26.4, without)).toThrowError(RangeError, 'an offset below float needs a float voltage');
  });
});

describe('what a device can hold', () => {
  it('is its range on this system, in its own steps', () => {
    const p = parameter({ min: 12.6, max: 14.9, step: 0.1, per12V: true, factory: 14.4 });
    expect([deviceRange(p, 24), deviceRange(p, 12), deviceRange({ ...p, per12V: false }, 48)]).toEqual([
      { min: 25.2, max: 29.8 },
      { min: 12.6, max: 14.9 },
      { min: 12.6, max: 14.9 },
    ]);
    expect([
      factoryOf(p, 24),
      factoryOf(p, 12),
      factoryOf({ ...p, per12V: false }, 24),
      factoryOf(parameter({ per12V: true }), 24),
      factoryOf(choice, 24),
    ]).toEqual([28.8, 14.4, 14.4, undefined, 'own']);
    expect(deviceGrid(parameter({ min: 0, max: 1, step: 0.25 }), 12)).toEqual([0, 0.25, 0.5, 0.75, 1]);
    expect(deviceGrid(parameter({ min: 0, max: 0.99, step: 0.25 }), 12)).toEqual([0, 0.25, 0.5, 0.75]);
    expect(deviceGrid(parameter({ min: 0, max: 100, step: 0.001 }), 12).length).toBe(20_000);
  });

  it('is shown with the decimals of its step, and one at least for parts', () => {
    expect([1, 5, 0.5, 0.1, 0.05, 2.5].map((step) => deviceDecimals(parameter({ step })))).toEqual([0, 0, 1, 1, 2, 1]);
    expect([displayText(parameter({ step: 0.1 }), 28), displayText(parameter({ unit: 'ratio', step: 0.01 }), 1.1), displayText(choice, 'own')]).toEqual([
      '28.0\u00a0V',
      '1.10',
      '“own”',
    ]);
    expect(displayText(parameter({}), 'off')).toBe('“off”');
  });
});
