import { seeded } from '../testing/fixtures';
import {
  celsiusDifferenceToFahrenheit,
  celsiusToFahrenheit,
  decimalsOf,
  expandedUncertainty,
  fahrenheitToCelsius,
  formatBand,
  formatDuration,
  formatNumber,
  formatSigned,
  inset,
  outsideBy,
  parseNumber,
  parseQuantity,
  readingBudget,
  roundToStep,
} from './index';

describe('rounding to a step', () => {
  it('keeps a value that is on the step, whatever its binary fraction', () => {
    for (let i = 0; i < 2000; i++)
      for (const way of ['down', 'up', 'nearest'] as const) expect(roundToStep(i * 0.1, 0.1, way)).toBe(Number((i * 0.1).toFixed(1)));
  });

  it('never passes the value on the safe side, and stays within one step', () => {
    const random = seeded(1);
    for (let i = 0; i < 3000; i++) {
      const value = random() * 100 - 20;
      const step = [0.05, 0.1, 0.5, 1, 2.5, 5][Math.floor(random() * 6)] ?? 1;
      const origin = Math.round(random() * 10);
      const down = roundToStep(value, step, 'down', origin);
      const up = roundToStep(value, step, 'up', origin);
      expect(down).toBeLessThanOrEqual(value + 1e-8);
      expect(up).toBeGreaterThanOrEqual(value - 1e-8);
      expect(value - down).toBeLessThan(step + 1e-8);
      expect(Math.abs((down - origin) / step - Math.round((down - origin) / step))).toBeLessThan(1e-6);
      expect(Math.abs(roundToStep(value, step, 'nearest', origin) - value)).toBeLessThanOrEqual(step / 2 + 1e-8);
    }
  });

  it('says how many decimals a step needs', () => {
    expect([1, 0.1, 0.05, 2.5, 0.001].map(decimalsOf)).toEqual([0, 1, 2, 1, 3]);
  });
});

describe('bands', () => {
  it('measures how far outside a value lies, with its sign', () => {
    expect(outsideBy({ min: 26.7, max: 27.1 }, 27.6)).toBeCloseTo(0.5, 9);
    expect(outsideBy({ min: 26.7, max: 27.1 }, 26.5)).toBeCloseTo(-0.2, 9);
    expect(outsideBy({ max: 26.4 }, 20)).toBe(0);
  });

  it('has no inside left when it is narrower than twice the inset', () => {
    expect(inset({ min: 1, max: 2 }, 0.6)).toBeNull();
    expect(inset({ max: 2 }, 0.6)).toEqual({ max: 1.4 });
  });
});

describe('temperatures', () => {
  it('treats readings and differences as different things', () => {
    expect(celsiusToFahrenheit(4)).toBeCloseTo(39.2, 9);
    expect(celsiusDifferenceToFahrenheit(4)).toBeCloseTo(7.2, 9);
  });

  it('comes back from °F unchanged', () => {
    for (let c = -60; c < 90; c += 0.7) expect(fahrenheitToCelsius(celsiusToFahrenheit(c))).toBeCloseTo(c, 9);
  });
});

describe('numbers as people type and read them', () => {
  it('takes a point or a comma and a true minus', () => {
    expect(parseNumber(' 28,1 ')).toEqual({ ok: true, value: 28.1 });
    expect(parseNumber('−4')).toEqual({ ok: true, value: -4 });
    expect(parseNumber('.5')).toEqual({ ok: true, value: 0.5 });
  });

  it('refuses what means two things, with a sentence', () => {
    for (const text of ['1,234.5', '28 V', '2 8', 'abc', '', '1e999', '--3', 'Infinity', 'NaN']) {
      const read = parseNumber(text);
      expect(read.ok).withContext(text).toBeFalse();
      if (!read.ok) expect(read.problems[0]?.text.length).toBeGreaterThan(20);
    }
  });

  it('takes a unit with the number where it fits, and names the one that does where it does not', () => {
    const value = (text: string, unit: string): number => {
      const read = parseQuantity(text, unit);
      return read.ok ? read.value : NaN;
    };
    expect([value('28,1 V', 'V'), value('900 mV', 'V'), value('2h', 'min'), value('30 s', 'min'), value('5 %', 'C')]).toEqual([28.1, 0.9, 120, 0.5, 0.05]);
    expect(value('39 °F', '°C')).toBeCloseTo(3.8889, 4);
    expect(value('9 °F', '°C difference')).toBeCloseTo(5, 9);
    expect(value('10 AWG', 'mm²')).toBeCloseTo(5.261, 3);
    expect(value('6 ft', 'm')).toBeCloseTo(1.8288, 9);
    expect([value('16 mm2', 'mm²'), value('−4', '°C'), value('28', '')]).toEqual([16, -4, 28]);
    const unfit = parseQuantity('28 A', 'V');
    expect(!unfit.ok && unfit.problems[0]?.text).toBe('“A” does not fit here. This is in V.');
    for (const text of ['', 'V', '28 V V 3', '1,234.5 V', '--3 V']) expect(parseQuantity(text, 'V').ok).withContext(text).toBeFalse();
  });

  it('writes a true minus, never a minus zero, and "at most" in words', () => {
    expect(formatNumber(-0.001, 1)).toBe('0.0');
    expect(formatNumber(-4, 0)).toBe('−4');
    expect(formatSigned(0.21, 2)).toBe('+0.21');
    expect(formatBand({ max: 26.4 }, 'V', 1)).toBe('at most 26.4\u00a0V');
    expect(formatBand({ min: 28, max: 28.4 }, 'V', 1)).toBe('28.0–28.4\u00a0V');
  });

  it('writes durations as a person would', () => {
    expect([25, 2400, 3600, 4800].map(formatDuration)).toEqual(['25\u00a0s', '40\u00a0min', '1\u00a0h', '1\u00a0h 20\u00a0min']);
  });
});

describe('uncertainty', () => {
  it('is k times the root sum of squares of rectangular limits', () => {
    const budget = readingBudget('Meter', 28.1, { percent: 0.1, digits: 0, resolution: 0.01 });
    const byHand = 2 * Math.sqrt((0.0281 / Math.sqrt(3)) ** 2 + (0.005 / Math.sqrt(3)) ** 2);
    expect(expandedUncertainty(budget, 2)).toBeCloseTo(byHand, 12);
    expect(byHand).toBeCloseTo(0.033, 3);
  });

  it('never shrinks when a line is added or k grows', () => {
    const random = seeded(4);
    for (let i = 0; i < 300; i++) {
      const lines = Array.from({ length: 1 + Math.floor(random() * 5) }, () => ({
        name: '',
        halfWidth: random(),
        divisor: 1 + random(),
        kind: 'systematic' as const,
      }));
      expect(expandedUncertainty(lines, 2)).toBeGreaterThanOrEqual(expandedUncertainty(lines.slice(1), 2));
      expect(expandedUncertainty(lines, 3)).toBeGreaterThanOrEqual(expandedUncertainty(lines, 2));
    }
  });
});
