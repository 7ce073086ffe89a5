import { awgArea, nearestAwg } from '../quantity';
import { seeded } from '../testing/fixtures';
import {
  ampacity,
  bestPoint,
  clearSky,
  clearYear,
  coldFactor,
  coldMostVolts,
  coldOpenVolts,
  conductorFor,
  declination,
  designAmps,
  hotOperatingVolts,
  pairOhms,
  powerCurve,
  stringVolts,
  sunOnPlane,
  voltageDrop,
  type PanelData,
} from './index';

const panel: PanelData = { vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 };
const unknown: PanelData = { ...panel, vocPercentPerC: undefined };

describe('an array in the cold and in the heat', () => {
  it('worked by hand: 3 × 40 V with −0.3 %/°C at −14 °C is 120 × 1.117 = 134.04 V', () => {
    expect(coldOpenVolts(panel, 3, -14)).toBeCloseTo(134.04, 9);
    // 33 V × (1 − 0.004 × (36 + 30 − 25)) = 27.588 V a panel: the coefficient of the open circuit does not count.
    expect(hotOperatingVolts(panel, 3, 36)).toBeCloseTo(82.764, 9);
    expect(hotOperatingVolts({ ...panel, vmpPercentPerC: -0.35 }, 3, 36)).toBeCloseTo(3 * 33 * (1 - 0.0035 * 41), 9);
    // 3 % of label and 3 °C of night sky: 3 × 40 × (1 + 0.003 × 42) × 1.03.
    expect(coldMostVolts(panel, 3, -14)).toBeCloseTo(139.1736, 9);
    expect(designAmps(panel, 2)).toBe(25);
  });

  it('by the table where the coefficient is unknown: −14 °C stands in the row down to −15, factor 1.16', () => {
    expect(coldFactor(unknown, -14)).toEqual({ factor: 1.16, from: 'table' });
    expect(coldFactor(unknown, -15).factor).toBe(1.16);
    expect(coldFactor(unknown, -15.1).factor).toBe(1.18);
    expect([coldFactor(unknown, 30).factor, coldFactor(unknown, -60).factor]).toEqual([1, 1.25]);
  });

  it('the table never falls as it gets colder', () => {
    for (let t = 30; t > -50; t--) expect(coldFactor(unknown, t - 1).factor).toBeGreaterThanOrEqual(coldFactor(unknown, t).factor);
  });
});

describe('the power curve of shaded strings', () => {
  it('passes through the label: open circuit, and the operating point within one percent', () => {
    expect(stringVolts(panel, [1], 0)).toBeCloseTo(40, 1);
    expect(stringVolts(panel, [1], 9.4)).toBeCloseTo(33, 1);
    const best = bestPoint(powerCurve(panel, [[1]]), 0, 1000);
    expect(Math.abs((best?.watts ?? 0) / (33 * 9.4) - 1)).toBeLessThan(0.01);
  });

  it('in series a shaded panel is bypassed and costs itself; in parallel it costs what it lacks in light', () => {
    const at = (strings: number[][]): number => bestPoint(powerCurve(panel, strings), 0, 1000)?.watts ?? 0;
    const full = at([[1, 1, 1]]);
    const series = at([[1, 1, 0.1]]);
    // Two panels left, less three diodes' drop.
    expect(series).toBeLessThan((full * 2) / 3);
    expect(series).toBeGreaterThan((full * 2) / 3 - 3 * 0.6 * 10);
    expect(at([[1], [1], [0.1]])).toBeGreaterThan(series);
    expect(at([[1], [1], [0.1]])).toBeLessThan(full * 0.72);
  });

  it('without bypass diodes one dark panel stops its string', () => {
    expect(bestPoint(powerCurve({ ...panel, bypassDiodes: 0 }, [[1, 1, 0]]), 0, 1000)?.watts).toBeLessThan(1);
  });

  it('split per charger is never worse than side by side, and light taken away never adds power', () => {
    const random = seeded(23);
    const at = (strings: readonly number[][]): number => bestPoint(powerCurve(panel, strings), 0, 1000)?.watts ?? 0;
    for (let i = 0; i < 25; i++) {
      const strings = Array.from({ length: 1 + Math.floor(random() * 3) }, () => Array.from({ length: 2 }, () => random()));
      const together = at(strings);
      expect(strings.reduce((sum, s) => sum + at([s]), 0) * 1.02).toBeGreaterThanOrEqual(together);
      const darker = strings.map((s) => s.map((g) => g * 0.8));
      expect(at(darker)).toBeLessThanOrEqual(together * 1.001);
    }
  });

  it('outside what the input takes there is no point', () => {
    expect(bestPoint(powerCurve(panel, [[1]]), 50, 100)).toBeNull();
  });
});

describe('the sun', () => {
  it('stands by closed forms: solstices at ±23.45°, noon height 90 − latitude + declination', () => {
    expect(declination(172)).toBeCloseTo(23.45, 2);
    expect(declination(355)).toBeCloseTo(-23.45, 2);
    const noon = sunOnPlane(50, 172, 12, 0, 180);
    expect((Math.asin(noon.sinHeight) * 180) / Math.PI).toBeCloseTo(90 - 50 + 23.45, 1);
    // A level plane sees the sun at its height; a plane square to it sees all of it.
    expect(noon.cosIncidence).toBeCloseTo(noon.sinHeight, 9);
    expect(sunOnPlane(50, 172, 12, 50 - declination(172), 180).cosIncidence).toBeCloseTo(1, 6);
  });

  it('is dark below the horizon, and symmetric about noon on a plane that looks south', () => {
    expect(clearSky(sunOnPlane(50, 355, 2, 30, 180))).toBe(0);
    expect(clearSky(sunOnPlane(50, 100, 9, 30, 180))).toBeCloseTo(clearSky(sunOnPlane(50, 100, 15, 30, 180)), 6);
    expect(clearSky(sunOnPlane(50, 172, 12, 27, 180))).toBeGreaterThan(900);
    expect(clearSky(sunOnPlane(50, 172, 12, 27, 180))).toBeLessThan(1150);
    // The southern hemisphere is the northern one turned round, half a year later.
    expect(clearSky(sunOnPlane(-35, 355, 12, 20, 0))).toBeCloseTo(clearSky(sunOnPlane(35, 172, 12, 20, 180)), 0);
  });

  it('over a year clips nothing under a high ceiling and more under a lower one', () => {
    const free = clearYear(50, 35, 180, 1000, 1e9);
    expect(free.clippedKWh).toBe(0);
    expect(free.kWh).toBeGreaterThan(1800);
    expect(free.kWh).toBeLessThan(3200);
    const half = clearYear(50, 35, 180, 1000, 500);
    const third = clearYear(50, 35, 180, 1000, 333);
    expect(half.clippedKWh).toBeGreaterThan(0);
    expect(third.clippedKWh).toBeGreaterThan(half.clippedKWh);
    expect(half.kWh).toBeCloseTo(free.kWh, 6);
  });
});

describe('a conductor', () => {
  it('worked by hand: 16 mm², 0.9 m, 45 A at 20 °C loses 2 × 0.9 × 0.017241 / 16 × 45 = 0.0873 V', () => {
    expect(voltageDrop(0.9, 16, 45, 20)).toBeCloseTo(0.08728, 5);
    // At 50 °C copper has 1 + 0.00393 × 30 = 1.1179 times that.
    expect(voltageDrop(0.9, 16, 45) / voltageDrop(0.9, 16, 45, 20)).toBeCloseTo(1.1179, 6);
    expect(pairOhms(10, 1, 20)).toBeCloseTo(0.34482, 6);
  });

  it('carries what the table says, less when warm, as the code’s own correction factors have it', () => {
    expect(ampacity(16)).toBe(85);
    expect(ampacity(20)).toBe(85);
    expect(ampacity(1)).toBe(0);
    for (const [celsius, factor] of [
      [20, 1.12],
      [35, 0.94],
      [40, 0.87],
      [50, 0.71],
      [60, 0.5],
    ] as const)
      expect(Math.abs(ampacity(16, celsius) / 85 - factor)).toBeLessThan(0.01);
    expect(ampacity(16, 70)).toBe(0);
  });

  it('is chosen by ampacity and by drop, whichever asks for more', () => {
    expect(conductorFor(45, 0.5, 1)).toBe(6);
    expect(conductorFor(45, 10, 0.5)).toBe(35);
    expect(conductorFor(1000, 1, 1)).toBeNull();
  });

  it('of a gauge has the area of the standard', () => {
    expect(awgArea(10)).toBeCloseTo(5.261, 3);
    expect(awgArea(0)).toBeCloseTo(53.475, 2);
    expect([nearestAwg(5.26), nearestAwg(16), nearestAwg(70), nearestAwg(107)]).toEqual(['10 AWG', '5 AWG', '2/0 AWG', '4/0 AWG']);
  });
});
