import { getPosition } from 'suncalc';
import { airAt, ampsAtVolts, bestWatts, cloudTrack, lagged, lumpAfter, panelC, panelCurve, randomFrom, sunOnPlane } from './index';

/** Mean of a track over its time. */
function mean({ time, light }: { time: Float64Array; light: Float64Array }, seconds: number): number {
  let sum = 0;
  for (let i = 1; i < time.length && (time[i - 1] ?? 0) < seconds; i++) {
    const to = Math.min(seconds, time[i] ?? 0);
    const from = time[i - 1] ?? 0;
    const slope = ((light[i] ?? 0) - (light[i - 1] ?? 0)) / ((time[i] ?? 0) - from || 1);
    const end = (light[i - 1] ?? 0) + slope * (to - from);
    sum += (((light[i - 1] ?? 0) + end) / 2) * (to - from);
  }
  return sum / seconds;
}

describe('the sky', () => {
  it('has the clearness that was asked for, over many days', () => {
    const seconds = 60 * 86_400;
    for (const clearness of [0.15, 0.3, 0.45, 0.6, 0.75, 0.9]) {
      const means = [1, 2, 3].map((seed) => mean(cloudTrack(seed, clearness, seconds), seconds));
      const all = means.reduce((a, b) => a + b, 0) / 3;
      expect(Math.abs(all - clearness))
        .withContext(String(clearness))
        .toBeLessThan(0.05);
    }
  });

  it('is the same for the same seed and another for another, with fast edges and no light below none', () => {
    const one = cloudTrack(7, 0.6, 86_400);
    expect(cloudTrack(7, 0.6, 86_400)).toEqual(one);
    expect(cloudTrack(8, 0.6, 86_400).time).not.toEqual(one.time);
    let edges = 0;
    for (let i = 1; i < one.time.length; i++) {
      expect(one.time[i]!).toBeGreaterThanOrEqual(one.time[i - 1]!);
      expect(one.light[i]!).toBeGreaterThan(0);
      if (one.time[i]! - one.time[i - 1]! <= 10 && Math.abs(one.light[i]! - one.light[i - 1]!) > 0.3) edges++;
    }
    expect(edges).toBeGreaterThan(20);
    expect(Math.max(...one.light)).toBeGreaterThan(1);
    expect(new Set(cloudTrack(1, 1, 86_400).light)).toEqual(new Set([1]));
  });

  it('has its sun where an almanac has it', () => {
    // On the meridian of Greenwich clock time is solar time but for the equation of time, at most 16 minutes: 4 degrees of the sun's way.
    for (const [month, day] of [
      [3, 20],
      [6, 21],
      [9, 22],
      [12, 21],
    ] as const)
      for (const latitude of [54, 0, -33]) {
        const date = new Date(Date.UTC(2026, month - 1, day, 12, 0));
        const ofYear = Math.round((Date.UTC(2026, month - 1, day) - Date.UTC(2026, 0, 1)) / 86_400_000) + 1;
        const { sinHeight } = sunOnPlane(latitude, ofYear, 12, 0, 180);
        const ours = (Math.asin(sinHeight) * 180) / Math.PI;
        expect(Math.abs(ours - getPosition(date, latitude, 0).altitude))
          .withContext(`${latitude}° on ${day}.${month}.`)
          .toBeLessThan(1.5);
      }
  });
});

describe('arrays', () => {
  const panel = { name: '', watts: 310, vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 };

  it('give their label’s power at the label’s conditions, and 0.4 % less for every degree above', () => {
    expect(bestWatts(310, 1000, 25)).toBe(310);
    expect(bestWatts(310, 500, 25)).toBe(155);
    expect(bestWatts(310, 1000, 65)).toBeCloseTo(310 * 0.84, 9);
    expect(panelC(20, 800)).toBeCloseTo(45, 9);
  });

  it('joined straight to a battery give nearly their short-circuit current, and none at open circuit', () => {
    const curve = panelCurve(panel);
    expect(ampsAtVolts(curve, 1000, 25, 14)).toBeGreaterThan(9.9);
    expect(ampsAtVolts(curve, 1000, 25, 33)).toBeCloseTo(9.4, 1);
    expect(ampsAtVolts(curve, 1000, 25, 40)).toBeCloseTo(0, 1);
    expect(ampsAtVolts(curve, 0, 25, 14)).toBe(0);
  });
});

describe('heat', () => {
  it('follows a step as 1 − exp(−t/τ), however it is cut into steps', () => {
    expect(lagged(20, 0, 540, 540)).toBeCloseTo(20 * Math.exp(-1), 12);
    let now = 20;
    for (let i = 0; i < 54; i++) now = lagged(now, 0, 10, 540);
    expect(now).toBeCloseTo(20 * Math.exp(-1), 9);
    expect(lagged(20, 3, 1, 0)).toBe(3);
  });

  it('settles at the air plus heat × τ/C', () => {
    const lump = { heatCapacity: 100_000, seconds: 14_400 };
    expect(lumpAfter(lump, 10, 10, 50, 1e9)).toBeCloseTo(10 + (50 * 14_400) / 100_000, 6);
  });

  it('is coldest at dawn and warmest twelve hours later', () => {
    const random = randomFrom(3);
    for (let i = 0; i < 50; i++) {
      const [dawn, swing] = [random() * 30 - 15, random() * 15];
      expect(airAt(5.5, dawn, swing, 5.5)).toBeCloseTo(dawn, 9);
      expect(airAt(17.5, dawn, swing, 5.5)).toBeCloseTo(dawn + swing, 9);
    }
  });
});
