/**
 * What a made-up sheet says: figures drawn by a seed within the normal range of a chemistry. Nothing of it is any maker's.
 */
import { randomFrom } from '../../core/src/physics/random';
import { figureInfo, figureKeys, isLithium, nominalCellVolts, type Basis, type Chemistry, type Figure, type FigureKey } from '../../core/src/sheet';
import { tidy } from '../../core/src/quantity';

export type Said = Partial<Record<FigureKey, Pick<Figure, 'state' | 'min' | 'target' | 'max' | 'unit' | 'basis'>>>;

/** A made-up battery and everything that could be printed of it. */
export interface Truth {
  readonly seed: number;
  readonly chemistry: Chemistry;
  readonly maker: string;
  readonly battery: string;
  readonly revision: string;
  readonly date: string;
  readonly cells: number;
  readonly nominalVolts: number;
  readonly capacityAh: number;
  readonly figures: Said;
  readonly derating: readonly { readonly toC: number; readonly limit: number; readonly unit: 'C' | 'A' }[];
}

const makers = ['Torrin', 'Ennadale', 'Marl', 'Quillon', 'Ostrey', 'Brack', 'Haddow', 'Ferring'];

/** Draws a battery. */
export function drawTruth(seed: number, wish: { readonly chemistry?: Chemistry; readonly cells?: number } = {}): Truth {
  const random = randomFrom(seed * 7919 + 13);
  const between = (least: number, most: number, step: number): number => tidy(Math.round((least + random() * (most - least)) / step) * step);
  const pick = <T>(list: readonly T[]): T => list[Math.min(list.length - 1, Math.floor(random() * list.length))] as T;
  const chemistry = wish.chemistry ?? pick(['lfp', 'lfp', 'agm', 'gel', 'flooded', 'nmc'] as const);
  const lithium = isLithium(chemistry);
  const cells = wish.cells ?? (chemistry === 'nmc' ? pick([7, 14]) : lithium ? pick([4, 8, 16]) : pick([3, 6, 6]));
  const volts = (least: number, most: number): number => tidy(Math.round(between(least, most, 0.01) * cells * 10) / 10);
  const cellVolts = { lfp: [3.5, 3.58], nmc: [4.05, 4.12], flooded: [2.38, 2.46], agm: [2.38, 2.45], gel: [2.34, 2.4] } as const;
  const absorb = volts(cellVolts[chemistry][0], cellVolts[chemistry][1]);
  const spread = between(0.1, 0.2, 0.1);
  const float = lithium ? volts(chemistry === 'nmc' ? 3.95 : 3.36, chemistry === 'nmc' ? 4.0 : 3.42) : volts(2.22, 2.28);
  const target = (n: number, by: number, basis: Basis = 'unit', unit: Figure['unit'] = 'V') =>
    ({ state: 'stated', min: tidy(n - by), target: n, max: tidy(n + by), unit, basis }) as const;
  const one = (end: 'min' | 'target' | 'max', n: number, unit: Figure['unit'], basis: Basis = 'unit') => ({ state: 'stated', [end]: n, unit, basis }) as const;
  const capacityAh = pick([50, 100, 120, 150, 200, 280]);
  const figures: Said = {
    absorbVoltage: target(absorb, spread),
    floatVoltage: target(float, 0.1),
    rechargeVoltage: one('max', lithium ? volts(chemistry === 'nmc' ? 3.85 : 3.28, chemistry === 'nmc' ? 3.9 : 3.32) : volts(2.08, 2.14), 'V'),
    disconnectVoltage: one('target', lithium ? volts(chemistry === 'nmc' ? 3.2 : 2.9, chemistry === 'nmc' ? 3.3 : 3.05) : volts(1.83, 1.95), 'V'),
    reconnectVoltage: one('target', lithium ? volts(chemistry === 'nmc' ? 3.5 : 3.15, chemistry === 'nmc' ? 3.6 : 3.22) : volts(2.05, 2.12), 'V'),
    absorbTime: one('target', between(0.5, 4, 0.5) * 3600, 's'),
    taperCurrent: one('max', pick([0.01, 0.02, 0.03, 0.05]), 'C'),
    chargeCurrentMax: one('max', tidy(capacityAh * pick([0.2, 0.5, 1])), 'A'),
    chargeCurrentRecommended: one('max', pick([0.1, 0.15, 0.2, 0.3]), 'C'),
    chargeTemperature: { state: 'stated', min: lithium ? 0 : -10, max: pick([40, 45, 50]), unit: '°C', basis: 'unit' },
    storageVoltage: one('target', lithium ? volts(chemistry === 'nmc' ? 3.7 : 3.26, chemistry === 'nmc' ? 3.8 : 3.3) : volts(2.13, 2.16), 'V'),
    seriesMax: one('max', pick([1, 2, 4]), 'count'),
    parallelMax: one('max', pick([2, 4, 10]), 'count'),
    ...(lithium
      ? {
          equaliseVoltage: { state: 'notPermitted', unit: 'V', basis: 'unit' } as const,
          compensationSlope: { state: 'notNeeded', unit: 'V/°C', basis: 'unit' } as const,
          bmsOverVoltage: one('max', volts(chemistry === 'nmc' ? 4.2 : 3.65, chemistry === 'nmc' ? 4.25 : 3.7), 'V'),
          bmsUnderVoltage: one('min', volts(chemistry === 'nmc' ? 2.8 : 2.5, chemistry === 'nmc' ? 2.9 : 2.6), 'V'),
          bmsLowTemperature: one('min', pick([0, -2, 2]), '°C'),
        }
      : {
          equaliseVoltage: chemistry === 'flooded' ? one('target', volts(2.55, 2.65), 'V') : ({ state: 'notPermitted', unit: 'V', basis: 'unit' } as const),
          ...(chemistry === 'flooded'
            ? { equaliseTime: one('target', pick([1, 2, 3]) * 3600, 's'), equaliseInterval: one('target', pick([30, 60, 90]), 'd') }
            : {}),
          compensationSlope: one('target', -pick([0.003, 0.0035, 0.004, 0.005]), 'V/°C', 'cell'),
          compensationReference: one('target', pick([20, 25]), '°C'),
        }),
  };
  return {
    seed,
    chemistry,
    maker: pick(makers),
    battery: `${pick(['LX', 'B', 'KT', 'MN', 'R'])}-${capacityAh}`,
    revision: pick(['A', 'B', 'C', '2', '3', '1.4']),
    date: `20${pick([22, 23, 24, 25])}-${String(between(1, 12, 1)).padStart(2, '0')}`,
    cells,
    nominalVolts: tidy(cells * nominalCellVolts[chemistry]),
    capacityAh,
    figures,
    derating: lithium
      ? [
          { toC: 0, limit: 0, unit: 'C' },
          { toC: 10, limit: 0.1, unit: 'C' },
          { toC: 20, limit: 0.3, unit: 'C' },
        ]
      : [],
  };
}

/** The figures of a truth that a sheet prints: some of them, on the basis it prints. */
export const saidOf = (truth: Truth, keys: readonly FigureKey[]): Said =>
  Object.fromEntries(keys.flatMap((key) => (truth.figures[key] ? [[key, truth.figures[key]]] : [])));

/** The same volts per cell, to two decimals, as some sheets print all of them. */
export function perCell(truth: Truth, said: Said): Said {
  const cut = (n: number | undefined): number | undefined => (n === undefined ? undefined : tidy(Math.round((n / truth.cells) * 100) / 100));
  return Object.fromEntries(
    figureKeys.flatMap((key) => {
      const f = said[key];
      if (!f) return [];
      if (f.unit !== 'V' || f.state !== 'stated' || (figureInfo[key].units as readonly string[])[0] !== 'V') return [[key, f]];
      const ends = Object.fromEntries((['min', 'target', 'max'] as const).flatMap((end) => (f[end] === undefined ? [] : [[end, cut(f[end])]])));
      return [[key, { state: f.state, unit: f.unit, basis: 'cell' as const, ...ends }]];
    }),
  );
}

type One = NonNullable<Said[FigureKey]>;
/** A figure a sheet has, for layouts that print it whatever it is. */
export const figureIn = (said: Said, key: FigureKey): One => said[key] ?? { state: 'stated', unit: 'V', basis: 'unit' };
/** A figure of which only some ends are printed. */
export const only = (figure: One, ...ends: readonly ('min' | 'target' | 'max')[]): One => ({
  state: figure.state,
  unit: figure.unit,
  basis: figure.basis,
  ...Object.fromEntries(ends.flatMap((end) => (figure[end] === undefined ? [] : [[end, figure[end]]]))),
});
