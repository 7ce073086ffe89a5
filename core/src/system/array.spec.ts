import { cardOf } from '../settings';
import { teasel } from '../testing/fixtures';
import { arrayFacts, arraySchema, chargerAmpacity, chargerDrop, clearYearOf, compareLayouts, needsStringFuses, panelSchema, type PanelArray } from './index';

const site = { ...teasel().system.site, latitude: 54 };
const card = cardOf(teasel(), teasel().system.chargers[0]!)!;
const panel = { name: '', watts: 310, vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 };
const three: PanelArray = { panel, inSeries: 3, inParallel: 1, tilt: 10, azimuth: 180, shaded: 1, shadeLight: 0.1 };

describe('an array on its charger', () => {
  it('as the launch has it forward: 134 V at −14 °C of 150, 139 V at most, 83 V in the heat, 930 W under a ceiling of 1265 W', () => {
    const facts = arrayFacts(three, card, site, 28.1, 45);
    expect(facts.coldVolts).toBeCloseTo(134.04, 6);
    expect([facts.mostVolts, facts.mostA, facts.stcW]).toEqual([150, 50, 930]);
    expect(facts.coldMostVolts).toBeCloseTo(139.17, 2);
    expect(facts.hotVolts).toBeCloseTo(82.76, 2);
    expect(facts.leastVolts).toBeCloseTo(30.1, 9);
    expect(facts.designA).toBeCloseTo(12.5, 9);
    expect(facts.ceilingW).toBeCloseTo(1264.5, 6);
  });

  it('loses nothing in a clear year under that ceiling, and something under a third of it', () => {
    const facts = arrayFacts(three, card, site, 28.1, 45);
    expect(clearYearOf(three, site, facts)?.clippedKWh).toBe(0);
    expect(clearYearOf(three, site, { ...facts, ceilingW: 400 })?.clippedKWh).toBeGreaterThan(100);
    const { latitude: _l, ...nowhere } = site;
    expect(clearYearOf(three, nowhere, facts)).toBeNull();
  });

  it('compares its layouts: side by side keeps more in shade, series has the highest cold volts', () => {
    const [series, parallel] = compareLayouts(three, card, site, 30.1);
    expect([series?.name, parallel?.name]).toEqual(['In series', 'Side by side']);
    expect(parallel?.shadeW ?? 0).toBeGreaterThan(series?.shadeW ?? Infinity);
    expect(series?.coldVolts).toBeCloseTo(134.04, 6);
    expect([series?.stringFuses, parallel?.stringFuses]).toEqual([false, true]);
    expect(Math.abs((series?.sunW ?? 0) / (parallel?.sunW ?? 1) - 1)).toBeLessThan(0.02);
  });

  it('loses a ninth to one dark part of three of one panel of three, and a third to the whole panel', () => {
    const part = (shaded: number, shadedParts?: number): number => {
      const [series] = compareLayouts({ ...three, shaded, shadeLight: 0, ...(shadedParts === undefined ? {} : { shadedParts }) }, card, site, 30.1);
      return (series?.shadeW ?? 0) / (series?.sunW ?? 1);
    };
    // Eight of nine parts of 11 V, less one diode of 0.6 V: (88 − 0.6) / 99.
    expect(part(0, 1)).toBeCloseTo(0.883, 2);
    expect(part(0, 0)).toBe(1);
    expect(part(0, 3)).toBeCloseTo(part(1), 9);
    expect(part(1)).toBeCloseTo((66 - 1.8) / 99, 2);
    expect(part(1, 1)).toBeLessThan(part(1));
  });

  it('says when the hottest day leaves too few volts to reach the bank', () => {
    // 33 V × (1 − 0.4 % × (36 + 30 − 25)) = 27.59 V.
    const [series, parallel] = compareLayouts(three, card, site, 28.1);
    expect(parallel?.hotVolts).toBeCloseTo(27.59, 2);
    expect([series?.reaches, parallel?.reaches]).toEqual([true, false]);
    expect(compareLayouts(three, card, site, 27.5)[1]?.reaches).toBeTrue();
  });

  it('asks for string fuses by the panels’ label where it gives one, else from three strings on', () => {
    const fuses = (strings: number, maxFuseA?: number): boolean => needsStringFuses({ ...panel, ...(maxFuseA === undefined ? {} : { maxFuseA }) }, strings);
    expect([fuses(2), fuses(3), fuses(2, 9), fuses(3, 20), fuses(4, 20)]).toEqual([false, true, true, false, true]);
  });

  it('names what does not fit the input, and compares a charger for each string', () => {
    const layouts = compareLayouts({ ...three, inSeries: 2, inParallel: 2, shaded: 2 }, card, site, 30.1);
    expect(layouts.map((l) => l.name)).toEqual(['In series', 'Side by side', 'As built, 2s2p', 'A charger for each string']);
    expect(layouts[0]?.fits).withContext('four in series pass 150 V when cold').toBeFalse();
    expect(layouts[3]?.shadeW ?? 0).toBeGreaterThanOrEqual((layouts[2]?.shadeW ?? 0) * 0.98);
  });

  it('refuses panels that cannot be', () => {
    expect(panelSchema.safeParse({ ...panel, vmpV: 41 }).success).toBeFalse();
    expect(panelSchema.safeParse({ ...panel, impA: 10 }).success).toBeFalse();
    expect(arraySchema.safeParse(three).success).toBeTrue();
  });
});

describe('the cable of a charger', () => {
  const charger = teasel().system.chargers[0]!;
  it('bears what is entered, else what the table says of its size, else nobody knows', () => {
    expect(chargerAmpacity({ ...charger, cableA: 70, wire: { lengthM: 1, areaMm2: 16 } })).toBe(70);
    expect(chargerAmpacity({ ...charger, wire: { lengthM: 1, areaMm2: 16 } })).toBe(85);
    expect(chargerAmpacity(charger)).toBeNull();
    expect(chargerDrop(charger, 45)).toBeNull();
    expect(chargerDrop({ ...charger, wire: { lengthM: 0.9, areaMm2: 16 } }, 45)).toBeCloseTo(0.0976, 3);
  });
});
