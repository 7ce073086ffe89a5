import { ampacity, cellModels, coldFactor, conductorFor, leadAcid, leadFactor, leadPolarisation, pairOhms, voltageDrop } from './index';

/** Tables are entered twice: a slip of a finger in one of them is noticed by the other. */
describe('ampacity by the standard’s table at 30 °C', () => {
  const table = { 1.5: 19.5, 2.5: 27, 4: 36, 6: 46, 10: 63, 16: 85, 25: 112, 35: 138, 50: 168, 70: 213, 95: 258, 120: 299 };
  for (const [area, amps] of Object.entries(table))
    it(`${area} mm² bear ${amps} A, and a little less copper what the size below bears`, () => {
      expect(ampacity(Number(area))).toBe(amps);
      expect(ampacity(Number(area) * 1.001)).toBe(amps);
      expect(ampacity(Number(area) * 0.999)).toBeLessThan(amps);
    });
  it('falls with the surroundings, to nothing at 70 °C', () => {
    // IEC 60364-5-52, table B.52.14, PVC: 0.87 at 40 °C, 0.71 at 50 °C, 0.50 at 60 °C.
    expect([40, 50, 60].map((c) => Number((ampacity(16, c) / 85).toFixed(2)))).toEqual([0.87, 0.71, 0.5]);
    expect([ampacity(16, 69.9) > 0, ampacity(16, 70), ampacity(1)]).toEqual([true, 0, 0]);
  });
  it('chooses the smallest size that carries the current and keeps the drop', () => {
    expect([conductorFor(85, 1, 1), conductorFor(85.1, 1, 1), conductorFor(300, 1, 5)]).toEqual([16, 25, null]);
    // 0.017241 × (1 + 0.00393 × 30) Ω·mm²/m: 10 m of 6 mm² out and back lose 0.642 V at 10 A.
    expect(voltageDrop(10, 6, 10)).toBeCloseTo(0.6425, 4);
    expect(pairOhms(10, 6, 20)).toBeCloseTo((20 * 0.017241) / 6, 9);
    expect([conductorFor(10, 10, 0.65), conductorFor(10, 10, 0.64)]).toEqual([6, 10]);
  });
});

describe('cold factors of a panel without a coefficient', () => {
  const table = {
    25: 1,
    20: 1.02,
    15: 1.04,
    10: 1.06,
    5: 1.08,
    0: 1.1,
    '-5': 1.12,
    '-10': 1.14,
    '-15': 1.16,
    '-20': 1.18,
    '-25': 1.2,
    '-30': 1.21,
    '-35': 1.23,
    '-40': 1.25,
  };
  const panel = { vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, bypassDiodes: 3 };
  for (const [celsius, factor] of Object.entries(table))
    it(`${factor} down to ${celsius} °C`, () => {
      expect(coldFactor(panel, Number(celsius))).toEqual({ factor, from: 'table' });
      if (Number(celsius) > -40) expect(coldFactor(panel, Number(celsius) - 0.1).factor).toBeGreaterThan(factor);
    });
  it('are not asked where the label has one; below the last row the last one holds', () => {
    expect(coldFactor(panel, -60).factor).toBe(1.25);
    expect(coldFactor({ ...panel, vocPercentPerC: -0.3 }, -15)).toEqual({ factor: 1.12, from: 'coefficient' });
  });
});

describe('the generic cells', () => {
  const volts = (points: readonly (readonly [number, number])[]) => points.map(([charge, v]) => `${charge}: ${v}`).join(', ');
  it('rest at the volts of their chemistry', () => {
    expect(volts(cellModels.lfp.resting)).toBe(
      '-0.06: 0.3, -0.02: 2.2, 0: 2.65, 0.01: 2.9, 0.03: 3.06, 0.06: 3.15, 0.1: 3.2, 0.2: 3.245, 0.3: 3.277, 0.4: 3.288, 0.55: 3.294, 0.65: 3.312, 0.72: 3.329, 0.9: 3.336, 0.95: 3.342, 0.98: 3.358, 0.99: 3.385, 0.995: 3.43, 1: 3.52, 1.005: 3.66, 1.01: 3.85, 1.02: 4.3',
    );
    expect(volts(cellModels.nmc.resting)).toBe(
      '-0.06: 0.3, -0.02: 2.6, 0: 3, 0.02: 3.25, 0.05: 3.4, 0.1: 3.48, 0.2: 3.56, 0.3: 3.61, 0.4: 3.65, 0.5: 3.69, 0.6: 3.76, 0.7: 3.86, 0.8: 3.96, 0.9: 4.07, 1: 4.19, 1.02: 4.26, 1.06: 4.5',
    );
    expect(volts(cellModels.lead.resting)).toBe('-0.06: 0.2, -0.01: 1.9, 0: 2.024, 1: 2.1, 1.02: 2.1');
  });
  it('have the resistances, heats and weights that models.md tells', () => {
    const told = ({ kind, restingPerC, ohmAh, pairs, activation, efficiency, kgPerWh, heat }: (typeof cellModels)['lfp']) =>
      [kind, restingPerC, ohmAh, pairs.map((p) => `${p.ohmAh}/${p.seconds}`).join(' '), activation, efficiency, Number((1 / kgPerWh).toFixed(6)), heat].join(
        ' | ',
      );
    expect(Object.values(cellModels).map(told)).toEqual([
      'lfp | 0.0001 | 0.09 | 0.07/40 0.11/700 | 25000 | 0.998 | 110 | 1000',
      'nmc | -0.0001 | 0.06 | 0.05/30 0.06/600 | 25000 | 0.998 | 160 | 1000',
      'lead | 0.0002 | 0.42 | 0/300 | 0 | 1 | 35 | 900',
    ]);
  });
  it('of lead have the published constants', () => {
    expect(leadAcid).toEqual({
      charging: { ohmAh: 0.42, m: 0.888, c: 1.001 },
      discharging: { ohmAh: 0.699, m: 0.0464, c: 1.75 },
      gasPerAh: 0.0002,
      gasVolts: 2.23,
      gasPerVolt: 11,
      gasPerC: 0.06,
      chargePerC: 0.025,
      dischargePerC: 0.007,
    });
    expect([leadFactor(0.025, 25), leadFactor(0.025, 5), leadFactor(0.025, -100), leadFactor(0.025, 60)]).toEqual([1, 1.5, 3, 0.25]);
    expect([leadPolarisation(true, 0.5), leadPolarisation(false, 0.5)].map((x) => Number(x.toFixed(6)))).toEqual([
      Number(((0.888 * 0.5) / 0.501).toFixed(6)),
      Number(((0.0464 * 0.5) / 1.25).toFixed(6)),
    ]);
  });
});
