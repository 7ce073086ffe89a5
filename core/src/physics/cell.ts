/** Kinds of cell there is a model for. The three lead-acid chemistries share one. */
export type CellKind = 'lfp' | 'nmc' | 'lead';

/** One branch of a resistor beside a capacitor: Ω·Ah (divide by capacity for Ω), and its time constant, s. */
interface RcPair {
  readonly ohmAh: number;
  readonly seconds: number;
}

/** What the voltage of one cell follows. Generic figures of the chemistry, never a maker's. */
export interface CellModel {
  readonly kind: CellKind;
  /** Resting volts by state of charge: knots, rising in charge, from empty to a little past full. */
  readonly resting: readonly (readonly [charge: number, volts: number])[];
  /** Change of the resting volts with temperature, V/°C. */
  readonly restingPerC: number;
  /** Resistance at once, Ω·Ah at 25 °C. */
  readonly ohmAh: number;
  readonly pairs: readonly RcPair[];
  /** Activation energy of the resistances, J/mol; 0 where they follow `factors` instead. */
  readonly activation: number;
  /** Part of the charge put in that can be taken out again. */
  readonly efficiency: number;
  /** kg/Wh and J/(kg·K). */
  readonly kgPerWh: number;
  readonly heat: number;
}

/**
 * Generic cells. Resting voltages are the usual shape of low-rate curves of the chemistry; resistances scale with 1/capacity
 * (equivalent circuit with two RC pairs: Plett, Battery Management Systems, vol. 1, 2015, ch. 2). Valid from 0.5 % charge to full, −20 to 50 °C,
 * up to about 1 C. For lead-acid see `leadAcid` below.
 */
export const cellModels: Readonly<Record<CellKind, CellModel>> = {
  lfp: {
    kind: 'lfp',
    resting: [
      [-0.06, 0.3],
      [-0.02, 2.2],
      [0, 2.65],
      [0.01, 2.9],
      [0.03, 3.06],
      [0.06, 3.15],
      [0.1, 3.2],
      [0.2, 3.245],
      [0.3, 3.277],
      [0.4, 3.288],
      [0.55, 3.294],
      [0.65, 3.312],
      [0.72, 3.329],
      [0.9, 3.336],
      [0.95, 3.342],
      [0.98, 3.358],
      [0.99, 3.385],
      [0.995, 3.43],
      [1, 3.52],
      [1.005, 3.66],
      [1.01, 3.85],
      [1.02, 4.3],
    ],
    restingPerC: 0.0001,
    ohmAh: 0.09,
    pairs: [
      { ohmAh: 0.07, seconds: 40 },
      { ohmAh: 0.11, seconds: 700 },
    ],
    activation: 25_000,
    efficiency: 0.998,
    kgPerWh: 1 / 110,
    heat: 1000,
  },
  nmc: {
    kind: 'nmc',
    resting: [
      [-0.06, 0.3],
      [-0.02, 2.6],
      [0, 3.0],
      [0.02, 3.25],
      [0.05, 3.4],
      [0.1, 3.48],
      [0.2, 3.56],
      [0.3, 3.61],
      [0.4, 3.65],
      [0.5, 3.69],
      [0.6, 3.76],
      [0.7, 3.86],
      [0.8, 3.96],
      [0.9, 4.07],
      [1, 4.19],
      [1.02, 4.26],
      [1.06, 4.5],
    ],
    restingPerC: -0.0001,
    ohmAh: 0.06,
    pairs: [
      { ohmAh: 0.05, seconds: 30 },
      { ohmAh: 0.06, seconds: 600 },
    ],
    activation: 25_000,
    efficiency: 0.998,
    kgPerWh: 1 / 160,
    heat: 1000,
  },
  lead: {
    kind: 'lead',
    resting: [
      [-0.06, 0.2],
      [-0.01, 1.9],
      [0, 2.024],
      [1, 2.1],
      [1.02, 2.1],
    ],
    restingPerC: 0.0002,
    ohmAh: 0.42,
    pairs: [{ ohmAh: 0, seconds: 300 }],
    activation: 0,
    efficiency: 1,
    kgPerWh: 1 / 35,
    heat: 900,
  },
};

/**
 * Lead-acid: modified Shepherd equation with a gassing current beside the main reaction, in the form and with the constants of
 * Schiffer, Sauer, Bindner, Cronin, Lundsager and Kaiser, J. Power Sources 168 (2007) 66–78:
 * charging    U = U₀ − g·DOD + (ρc/C)·I·(1 + Mc·SOC/(Cc − SOC)),
 * discharging U = U₀ − g·DOD + (ρd/C)·I·(1 + Md·DOD/(Cd − DOD)),
 * gassing     I_gas = C·i₀·exp(c_u (U − 2.23 V) + c_T (T − 25 °C)); what gasses does not charge.
 * The resistance at once is ρ/C; the rest of the polarisation builds up over `pairs[0].seconds`, so that at rest the published curve holds.
 * The temperature factors of the resistances are those of Copetti, Lorenzo and Chenlo, Progress in Photovoltaics 1 (1993) 283–292.
 */
export const leadAcid = {
  charging: { ohmAh: 0.42, m: 0.888, c: 1.001 },
  discharging: { ohmAh: 0.699, m: 0.0464, c: 1.75 },
  /** A per Ah at 2.23 V and 25 °C: 20 mA in 100 Ah. */
  gasPerAh: 0.0002,
  gasVolts: 2.23,
  gasPerVolt: 11,
  gasPerC: 0.06,
  chargePerC: 0.025,
  dischargePerC: 0.007,
} as const;

/** Gas constant, J/(mol·K). */
const gasConstant = 8.314462618;

/** Arrhenius factor of a resistance against 25 °C: exp(Ea/R · (1/T − 1/298.15 K)). */
export const arrhenius = (activation: number, celsius: number): number =>
  activation === 0 ? 1 : Math.exp((activation / gasConstant) * (1 / (celsius + 273.15) - 1 / 298.15));

/** Temperature factor of lead-acid resistance: 1 − k (T − 25), kept between a quarter and three (Copetti et al. 1993; held level outside −40…50 °C). */
export const leadFactor = (perC: number, celsius: number): number => Math.min(3, Math.max(0.25, 1 - perC * (celsius - 25)));

/** Gassing current of a lead-acid cell, A (equation above). */
export const gassingAmps = (capacityAh: number, volts: number, celsius: number): number =>
  capacityAh * leadAcid.gasPerAh * Math.exp(leadAcid.gasPerVolt * (volts - leadAcid.gasVolts) + leadAcid.gasPerC * (celsius - 25));

/** Polarisation resistance of lead-acid at a charge, as a multiple of ρ/C; the direction of the current decides which. */
export const leadPolarisation = (charging: boolean, charge: number): number => {
  const { m, c } = charging ? leadAcid.charging : leadAcid.discharging;
  const x = charging ? charge : 1 - charge;
  return (m * Math.max(0, x)) / Math.max(1e-4, c - x);
};

/** Even steps of the resting-volts table. */
const tableSteps = 4096;
const tableFrom = -0.06;
const tableSpan = 1.12;

/** Resting volts on an even grid, so that a look-up is one multiplication. */
export type RestingTable = Float64Array;

const tables = new WeakMap<CellModel, RestingTable>();

/** A model's knots laid on the grid, joined by straight lines and held level past the last one. Laid once and kept; not to be written to. */
export function restingTable(model: CellModel): RestingTable {
  const kept = tables.get(model);
  if (kept) return kept;
  const table = laid(model);
  tables.set(model, table);
  return table;
}

function laid(model: CellModel): RestingTable {
  const table = new Float64Array(tableSteps + 2);
  const { resting } = model;
  let k = 0;
  for (let i = 0; i < table.length; i++) {
    const charge = tableFrom + (tableSpan * i) / tableSteps;
    while (k < resting.length - 2 && (resting[k + 1]?.[0] ?? Infinity) < charge) k++;
    const [s0, v0] = resting[k] ?? [0, 0];
    const [s1, v1] = resting[k + 1] ?? [1, v0];
    table[i] = v0 + (v1 - v0) * Math.max(0, (charge - s0) / (s1 - s0));
  }
  return table;
}

/** Resting volts at a charge, and the slope there in V per unit of charge. */
export function restingAt(table: RestingTable, charge: number): number {
  const x = Math.min(tableSteps, Math.max(0, ((charge - tableFrom) / tableSpan) * tableSteps));
  const i = Math.floor(x);
  const low = table[i] ?? 0;
  return low + ((table[i + 1] ?? low) - low) * (x - i);
}

/** Slope of the resting volts at a charge, V per unit of charge. */
export function restingSlope(table: RestingTable, charge: number): number {
  const i = Math.floor(Math.min(tableSteps, Math.max(0, ((charge - tableFrom) / tableSpan) * tableSteps)));
  return (((table[i + 1] ?? 0) - (table[i] ?? 0)) * tableSteps) / tableSpan;
}
