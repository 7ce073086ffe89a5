import {
  awgArea,
  capital,
  clamp,
  contains,
  decimalsOf,
  fnv1a,
  digitsApart,
  formatBand,
  formatClock,
  formatDate,
  formatDay,
  formatDuration,
  formatMoment,
  formatNumber,
  formatQuantity,
  formatSigned,
  formatTemperature,
  formatTemperatureDifference,
  inset,
  isoWithOffset,
  makeBand,
  mapBand,
  measure,
  nearestAwg,
  outsideBy,
  parseNumber,
  parseQuantity,
  readingBudget,
  rectangular,
  roundToStep,
  tidy,
} from './index';

/** What is typed, the field's unit, and what it is there. */
const typed: readonly (readonly [string, string, number])[] = [
  ['28.1 V', 'V', 28.1],
  ['28.1 volts', 'V', 28.1],
  ['1 volt', 'V', 1],
  ['900 mV', 'V', 0.9],
  ['1.2 kV', 'V', 1200],
  ['30 A', 'A', 30],
  ['30 amps', 'A', 30],
  ['30 amp', 'A', 30],
  ['500 mA', 'A', 0.5],
  ['8 kA', 'A', 8000],
  ['230 Ah', 'Ah', 230],
  ['2500 mAh', 'Ah', 2.5],
  ['310 W', 'W', 310],
  ['310 watts', 'W', 310],
  ['1.5 kW', 'W', 1500],
  ['30 min', 'min', 30],
  ['30 minutes', 'min', 30],
  ['2 h', 'min', 120],
  ['2 hours', 'min', 120],
  ['2 hrs', 'min', 120],
  ['90 s', 'min', 1.5],
  ['90 seconds', 'min', 1.5],
  ['2 h', 'h', 2],
  ['1 hour', 'h', 1],
  ['30 min', 'h', 0.5],
  ['90 minutes', 'h', 1.5],
  ['60 s', 's', 60],
  ['60 sec', 's', 60],
  ['2 min', 's', 120],
  ['14 days', 'days', 14],
  ['2 weeks', 'days', 14],
  ['14 d', 'd', 14],
  ['1 day', 'd', 1],
  ['3 wks', 'd', 21],
  ['2 m', 'm', 2],
  ['2 metres', 'm', 2],
  ['2 meters', 'm', 2],
  ['150 cm', 'm', 1.5],
  ['1500 mm', 'm', 1.5],
  ['10 ft', 'm', 3.048],
  ['1 foot', 'm', 0.3048],
  ['16 mm2', 'mm²', 16],
  ['16 mm²', 'mm²', 16],
  ['16 mm^2', 'mm²', 16],
  ['16 sqmm', 'mm²', 16],
  ['4 mΩ', 'mΩ', 4],
  ['4 milliohms', 'mΩ', 4],
  ['0.004 ohm', 'mΩ', 4],
  ['0.004 Ω', 'mΩ', 4],
  ['80 %', '%', 80],
  ['80 percent', '%', 80],
  ['-0.3 %/°C', '%/°C', -0.3],
  ['-0.3 %/K', '%/°C', -0.3],
  ['0.2 C', 'C', 0.2],
  ['0.05 C20', 'C', 0.05],
  ['5 %', 'C', 0.05],
  ['15 °', '°', 15],
  ['15 degrees', '°', 15],
  ['4 °C', '°C', 4],
  ['4 c', '°C', 4],
  ['4 deg C', '°C', 4],
  ['50 °F', '°C', 10],
  ['50 deg. F', '°C', 10],
  ['4 °C', '°C difference', 4],
  ['4 K', '°C difference', 4],
  ['9 °F', '°C difference', 5],
  ['3 h', 'other', NaN],
];

describe('a number typed with a unit', () => {
  for (const [text, unit, value] of typed)
    it(`“${text}” in a field of ${unit}`, () => {
      const read = parseQuantity(text, unit);
      if (Number.isNaN(value)) expect(read.ok).toBeFalse();
      else expect(read.ok ? read.value : NaN).toBeCloseTo(value, 9);
    });

  it('keeps what stands before it: signs, decimals, a no-break space', () => {
    const value = (text: string, unit: string) => {
      const read = parseQuantity(text, unit);
      return read.ok ? read.value : null;
    };
    expect([value('− 4 °C', '°C'), value('–4°C', '°C'), value('+4 V', 'V'), value('28,1\u00a0V', 'V'), value('7 x', 'x')]).toEqual([-4, -4, 4, 28.1, 7]);
  });

  it('is refused in another unit, with the one that fits', () => {
    const said = (text: string, unit: string) => {
      const read = parseQuantity(text, unit);
      return read.ok ? null : [read.problems[0]?.code, read.problems[0]?.text];
    };
    expect(said('3 V', '')).toEqual(['unit-unfit', '“V” does not fit here. Type the number alone.']);
    expect(said('3 V', '°C difference')).toEqual(['unit-unfit', '“V” does not fit here. This is in °C.']);
    for (const [text, unit] of [
      ['3 kVA', 'V'],
      ['3 xv', 'V'],
      ['3 ma', 'Ah'],
      ['3 mmm', 'm'],
      ['3 ch', 'h'],
      ['3 °CC', '°C'],
    ] as const)
      expect(said(text, unit)?.[0]).withContext(text).toBe('unit-unfit');
  });

  it('without a unit is a number with one point or comma, and of a size that can be', () => {
    const value = (text: string) => {
      const read = parseNumber(text);
      return read.ok ? read.value : read.problems[0]?.code;
    };
    expect(['5.', ',5', '+3', '-0', '999999999999'].map(value)).toEqual([5, 0.5, 3, -0, 999999999999]);
    expect(['1000000000000', '-1000000000000'].map(value)).toEqual(['number-too-large', 'number-too-large']);
    expect(['.', '1.2.3', '1-2', 'x'].map(value)).toEqual(Array.from({ length: 4 }, () => 'number-unreadable'));
    expect(value('  ')).toBe('number-empty');
  });
});

describe('American wire gauges', () => {
  it('have the areas of the published table', () => {
    // ASTM B258, mm².
    for (const [gauge, area] of [
      [-3, 107.2],
      [-2, 85.03],
      [-1, 67.43],
      [0, 53.48],
      [2, 33.63],
      [4, 21.15],
      [6, 13.3],
      [10, 5.261],
      [14, 2.081],
      [18, 0.823],
    ] as const)
      expect(Math.abs(awgArea(gauge) / area - 1))
        .withContext(String(gauge))
        .toBeLessThan(0.001);
  });

  it('are named by the nearest, 1/0 to 4/0 with their stroke', () => {
    expect([107.2, 85, 67.4, 53.5, 42.4, 33.6, 13.3, 2.08, 0.205].map(nearestAwg)).toEqual([
      '4/0 AWG',
      '3/0 AWG',
      '2/0 AWG',
      '1/0 AWG',
      '1 AWG',
      '2 AWG',
      '6 AWG',
      '14 AWG',
      '24 AWG',
    ]);
    // Half-way in ratio, not in area: between 16.8 (5 AWG) and 21.2 mm² (4 AWG) lies 18.8.
    expect([18.7, 19].map(nearestAwg)).toEqual(['5 AWG', '4 AWG']);
    expect([500, 0.1].map(nearestAwg)).toEqual(['4/0 AWG', '24 AWG']);
  });
});

describe('a clock', () => {
  const at = Date.UTC(2026, 0, 5, 23, 4, 9) / 1000;
  it('shows the log’s own time, with its date where it is wanted', () => {
    expect([formatClock(at, null), formatClock(at, 60), formatClock(at, -90), formatClock(at, 60, true)]).toEqual([
      '23:04',
      '00:04',
      '21:34',
      '6 Jan 2026 00:04',
    ]);
    expect([formatDate(at, null), formatDate(at, 60), formatDay(at)]).toEqual(['5 Jan 2026', '6 Jan 2026', '5 Jan']);
    expect([formatMoment(at, false), formatMoment(at, true)]).toEqual(['23:04', '5 Jan 23:04']);
  });
  it('names every month', () => {
    expect(Array.from({ length: 12 }, (_, month) => formatDay(Date.UTC(2026, month, 1) / 1000))).toEqual(
      ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'].map((m) => `1 ${m}`),
    );
  });
  it('writes ISO times with the log’s own offset, and parts of a second only where there are any', () => {
    expect([isoWithOffset(at, null), isoWithOffset(at, 0), isoWithOffset(at, 60), isoWithOffset(at, -210), isoWithOffset(at + 0.25, 0)]).toEqual([
      '2026-01-05T23:04:09',
      '2026-01-05T23:04:09Z',
      '2026-01-06T00:04:09+01:00',
      '2026-01-05T19:34:09-03:30',
      '2026-01-05T23:04:09.250Z',
    ]);
  });
});

describe('numbers as they are shown', () => {
  it('have their digits, sign and unit', () => {
    expect([formatNumber(1.25, 1), formatNumber(-0.04, 1), formatNumber(-0.06, 1), formatQuantity(-4, '°C', 0)]).toEqual(['1.3', '0.0', '−0.1', '−4\u00a0°C']);
    expect([formatSigned(0, 1), formatSigned(-2, 0), formatSigned(0.04, 1), formatSigned(3, 0)]).toEqual(['0.0', '−2', '0.0', '+3']);
    expect([formatBand({ min: 0 }, '°C', 0), formatBand({}, 'V', 1)]).toEqual(['at least 0\u00a0°C', 'any']);
    expect([formatTemperature(10, 'C'), formatTemperature(10, 'F'), formatTemperature(-40, 'F', 1)]).toEqual(['10\u00a0°C', '50\u00a0°F', '−40.0\u00a0°F']);
    expect([formatTemperatureDifference(5, 'C'), formatTemperatureDifference(5, 'F'), formatTemperatureDifference(5, 'F', 0)]).toEqual([
      '5.0\u00a0°C',
      '9.0\u00a0°F',
      '9\u00a0°F',
    ]);
    expect(capital('absorb')).toBe('Absorb');
  });
  it('change from seconds to minutes to hours where a person would', () => {
    expect([0, 59.4, 59.6, 89, 91, 3569, 3571, 7200, 7260, -25, -90, -5400].map(formatDuration)).toEqual(
      ['0 s', '59 s', '1 min', '1 min', '2 min', '59 min', '1 h', '2 h', '2 h 1 min', '−25 s', '−1 min', '−1 h 30 min'].map((t) =>
        t.replace(/(\d) (s|min|h)\b/g, '$1\u00a0$2'),
      ),
    );
  });
});

describe('a step', () => {
  it('is counted from where the device begins, and a half goes down', () => {
    expect([roundToStep(7.4, 5, 'nearest', 0), roundToStep(7.5, 5, 'nearest', 0), roundToStep(7.6, 5, 'nearest', 0)]).toEqual([5, 5, 10]);
    expect([roundToStep(9, 5, 'down', 2), roundToStep(9, 5, 'up', 2), roundToStep(9, 5, 'nearest', 2)]).toEqual([7, 12, 7]);
    expect([roundToStep(28.31, 0.1, 'down'), roundToStep(28.31, 0.1, 'up')]).toEqual([28.3, 28.4]);
  });
  it('needs up to nine decimals, and binary noise is none of them', () => {
    expect([0.1 + 0.2, 1 / 3, 12, 0.000000001].map(decimalsOf)).toEqual([1, 9, 0, 9]);
    expect([tidy(28.300000000000004), tidy(5_000_000.1234567891), tidy(-0.30000000000000004)]).toEqual([28.3, 5_000_000.123456789, -0.3]);
  });
});

describe('a band', () => {
  it('holds its ends, and tells how far outside a value lies', () => {
    const band = { min: 26.7, max: 27.1 };
    expect([26.7, 27.1, 26.9].map((v) => contains(band, v))).toEqual([true, true, true]);
    expect([26.69, 27.11].map((v) => contains(band, v))).toEqual([false, false]);
    expect(outsideBy({ min: 1 }, 0.5)).toBe(-0.5);
    expect([clamp(band, 20), clamp(band, 30), clamp(band, 27), clamp({}, 5), clamp({ min: 6 }, 5), clamp({ max: 4 }, 5)]).toEqual([26.7, 27.1, 27, 5, 6, 4]);
  });
  it('is moved inward, closed to a point, and then gone', () => {
    expect(inset({ min: 1, max: 2 }, 0.25)).toEqual({ min: 1.25, max: 1.75 });
    expect(inset({ min: 1, max: 2 }, 0.5)).toEqual({ min: 1.5, max: 1.5 });
    expect([inset({ min: 1, max: 2 }, 0.51), inset({ min: 1 }, 3)]).toEqual([null, { min: 4 }]);
  });
  it('leaves out ends that nobody gave', () => {
    expect([makeBand(1, undefined), makeBand(undefined, 2), makeBand(undefined, undefined)]).toEqual([{ min: 1 }, { max: 2 }, {}]);
    expect([mapBand({ min: 1, max: 2 }, (x) => x * 3), mapBand({ max: 2 }, (x) => x * 3)]).toEqual([{ min: 3, max: 6 }, { max: 6 }]);
  });
});

describe('an uncertainty', () => {
  it('of a reading has two lines: what the instrument promises, and half of its last digit', () => {
    const lines = readingBudget('Meter', -20, { percent: 0.5, digits: 2, resolution: 0.01 });
    expect(lines.map(({ name, halfWidth, divisor, kind }) => [name, Number(halfWidth.toFixed(6)), divisor, kind])).toEqual([
      // 20 V × 0.5 % + 2 × 0.01 V.
      ['Meter: 0.5 % of reading + 2 digits', 0.12, rectangular, 'systematic'],
      ['Meter: resolution', 0.005, rectangular, 'systematic'],
    ]);
    expect(rectangular).toBeCloseTo(1.7320508, 7);
    expect(readingBudget('Meter', 20, { percent: 1, digits: 0, resolution: 0.1 })[0]?.name).toBe('Meter: 1 % of reading');
    const budget = [
      { name: 'a', halfWidth: 3, divisor: 1, kind: 'random' as const },
      { name: 'b', halfWidth: 8, divisor: 2, kind: 'random' as const },
    ];
    expect(measure(7, budget, 2)).toEqual({ value: 7, uncertainty: 10, budget });
  });
});

describe('the check of a text', () => {
  it('is FNV-1a with 32 bits, as published', () => {
    // Test vectors of its authors.
    expect([fnv1a(''), fnv1a('a'), fnv1a('foobar')]).toEqual(['811c9dc5', 'e40c292c', 'bf9cf968']);
  });
});

describe('two numbers beside each other', () => {
  it('are written with as many decimals as it takes to tell them apart, and no more than three', () => {
    expect([digitsApart(20, 19.6, 0), digitsApart(20, 19.4, 0), digitsApart(14.84, 14.8, 1), digitsApart(1, 1.00001, 0), digitsApart(29.2, 29.2, 1)]).toEqual([
      1, 0, 2, 3, 1,
    ]);
  });
});
