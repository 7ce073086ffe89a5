import { arrhenius, cellModels, gassingAmps, leadAcid, leadFactor, leadPolarisation, restingAt, restingSlope, restingTable, type CellKind } from './cell';

/** A bank as the model needs it. */
export interface BankModelInput {
  readonly kind: CellKind;
  readonly cells: number;
  readonly strings: number;
  /** Ah in use of one string. */
  readonly stringAh: number;
  /** Ω in series with each string: links, BMS, fuse, string cable. */
  readonly stringOhms: number;
  /** Spread of capacity between strings, as a part: 0.04 means ±2 %. */
  readonly stringSpread: number;
  /** Multiplies every cell resistance: age, cold storage. */
  readonly resistanceFactor: number;
  /** How far the fullest cell is ahead of the mean, as a part of its charge. */
  readonly cellAhead: number;
  /** State of charge at the start, 0 to 1. */
  readonly charge: number;
}

/**
 * A bank of strings side by side, each an equivalent circuit stepped in closed form. Mutable, for the hot loop; everything it holds can be
 * copied out and back with `save` and `restore`.
 *
 * In every step a string is a source E behind a resistance Z at the *end* of the step: with the current x held through the step h,
 * each RC pair ends at v·e + R·x·(1 − e), e = exp(−h/τ), exactly, and the resting volts move with the charge. So V = E + Z·x, which no step size makes unstable.
 * The method is of first order in h.
 */
export interface BankModel {
  readonly strings: number;
  /** Gets ready for a step of `h` seconds at a cell temperature. */
  prepare(h: number, celsius: number): void;
  /** Sum of string currents at a bus voltage, A; positive charges. Also sets `slope`, dI/dV. */
  amps(volts: number): number;
  slope: number;
  /** Takes the step with a bank current that the bus has settled; the strings share it as they would at this voltage. */
  take(volts: number, amps: number): void;
  /** Opens or closes a string. */
  setOpen(string: number, open: boolean): void;
  isOpen(string: number): boolean;
  /** Charge of a string, 0 to 1; of the bank, weighted. */
  chargeOf(string: number): number;
  charge(): number;
  /** Volts of a string at its own terminals inside the BMS, of its mean cell, and of its fullest one. */
  stringVolts(string: number): number;
  meanCell(string: number): number;
  highCell(string: number): number;
  stringAmps(string: number): number;
  /** Ah in the cells, and Ah that were lost to gassing and inefficiency. */
  storedAh(): number;
  lostAh(): number;
  /** Heat of the last step, W. */
  heatW(): number;
  save(): void;
  restore(): void;
}

const newtonSteps = 40;

/**
 * Makes a bank at rest.
 *
 * @throws RangeError when capacity, cells or strings are not positive numbers
 */
export function makeBank(input: BankModelInput): BankModel {
  const { cells: S, strings: P, stringAh, stringOhms, stringSpread, resistanceFactor, cellAhead } = input;
  if (!(S >= 1) || !(P >= 1) || !(stringAh > 0) || !Number.isFinite(stringAh)) throw new RangeError('a bank needs cells and a capacity');
  const model = cellModels[input.kind];
  const table = restingTable(model);
  const lead = input.kind === 'lead';
  const [pair1, pair2] = model.pairs;
  const capacity = Float64Array.from({ length: P }, (_, j) => stringAh * (1 + (P > 1 ? stringSpread * (j / (P - 1) - 0.5) : 0)));
  // One block of numbers for all that a step changes, so that a step can be taken back.
  const size = 8;
  const state = new Float64Array(P * size + 2);
  const kept = new Float64Array(P * size + 2);
  const [SOC, V1, V2, AMPS, CELL, OPEN, HEAT] = [0, 1, 2, 3, 4, 5, 6];
  const LOST = P * size;
  const at = (j: number, what: number): number => state[j * size + what] ?? 0;
  const put = (j: number, what: number, value: number): void => {
    state[j * size + what] = value;
  };
  for (let j = 0; j < P; j++) {
    put(j, SOC, input.charge);
    put(j, CELL, restingAt(table, input.charge));
  }
  // Prepared for the present step, per string, at string level: source, resistance each way, conductance of the string ohms.
  const E = new Float64Array(P);
  const Zup = new Float64Array(P);
  const Zdown = new Float64Array(P);
  let step = NaN;
  let warmth = NaN;
  let e1 = 0;
  let e2 = 0;
  let factorUp = 1;
  let factorDown = 1;
  let restShift = 0;
  let fraction = 0;

  function prepare(h: number, celsius: number): void {
    if (h !== step) {
      step = h;
      e1 = Math.exp(-h / (pair1?.seconds ?? 1));
      e2 = pair2 ? Math.exp(-h / pair2.seconds) : 0;
    }
    // Resistances move slowly with temperature: worked out anew when it has moved by a fiftieth of a degree.
    if (!(Math.abs(celsius - warmth) < 0.02)) {
      warmth = celsius;
      factorUp = resistanceFactor * (lead ? leadFactor(leadAcid.chargePerC, celsius) : arrhenius(model.activation, celsius));
      factorDown = lead ? resistanceFactor * leadFactor(leadAcid.dischargePerC, celsius) : factorUp;
      restShift = model.restingPerC * (celsius - 25);
    }
    for (let j = 0; j < P; j++) {
      const base = j * size;
      const soc = state[base] ?? 0;
      const ah = capacity[j] ?? stringAh;
      fraction = h / (3600 * ah);
      const moving = restingSlope(table, soc) * fraction;
      if (lead) {
        const up = (factorUp * leadAcid.charging.ohmAh) / ah;
        const down = (factorDown * leadAcid.discharging.ohmAh) / ah;
        E[j] = S * (restingAt(table, soc) + restShift + (state[base + 1] ?? 0) * e1);
        Zup[j] = S * (up * (1 + leadPolarisation(true, soc) * (1 - e1)) + moving);
        Zdown[j] = S * (down * (1 + leadPolarisation(false, soc) * (1 - e1)) + moving);
      } else {
        const ohms = factorUp / ah;
        E[j] = S * (restingAt(table, soc) + restShift + (state[base + 1] ?? 0) * e1 + (state[base + 2] ?? 0) * e2);
        Zup[j] = S * (ohms * (model.ohmAh + (pair1?.ohmAh ?? 0) * (1 - e1) + (pair2?.ohmAh ?? 0) * (1 - e2)) + moving);
        Zdown[j] = Zup[j] ?? 0;
      }
    }
  }

  /** Inner volts of a lead string at a bus voltage: Newton on (v − E)/Z + gas(v) = (V − v)/R, which rises with v everywhere. */
  function innerVolts(j: number, volts: number): number {
    const source = E[j] ?? 0;
    const ah = capacity[j] ?? stringAh;
    if (stringOhms === 0) return volts;
    let v = Math.min(volts, source + Math.abs(volts - source));
    if (volts < source) v = volts;
    for (let k = 0; k < newtonSteps; k++) {
      const z = v >= source ? (Zup[j] ?? 1) : (Zdown[j] ?? 1);
      const gas = gassingAmps(ah, v / S, warmth);
      const f = (v - source) / z + gas - (volts - v) / stringOhms;
      const move = f / (1 / z + (gas * leadAcid.gasPerVolt) / S + 1 / stringOhms);
      v -= move;
      if (Math.abs(move) < 1e-11) break;
    }
    return v;
  }

  function stringCurrent(j: number, volts: number): number {
    const source = E[j] ?? 0;
    if (!lead) return (volts - source) / ((Zup[j] ?? 1) + stringOhms);
    const v = innerVolts(j, volts);
    const z = v >= source ? (Zup[j] ?? 1) : (Zdown[j] ?? 1);
    return (v - source) / z + gassingAmps(capacity[j] ?? stringAh, v / S, warmth);
  }

  const bank: BankModel = {
    strings: P,
    slope: 0,
    prepare,
    amps(volts) {
      let sum = 0;
      let slope = 0;
      for (let j = 0; j < P; j++) {
        if ((state[j * size + OPEN] ?? 0) !== 0) continue;
        if (lead) {
          const source = E[j] ?? 0;
          const v = innerVolts(j, volts);
          const z = v >= source ? (Zup[j] ?? 1) : (Zdown[j] ?? 1);
          const gas = gassingAmps(capacity[j] ?? stringAh, v / S, warmth);
          sum += (v - source) / z + gas;
          slope += 1 / (1 / (1 / z + (gas * leadAcid.gasPerVolt) / S) + stringOhms);
        } else {
          const z = (Zup[j] ?? 1) + stringOhms;
          sum += (volts - (E[j] ?? 0)) / z;
          slope += 1 / z;
        }
      }
      bank.slope = slope;
      return sum;
    },
    take(volts, amps) {
      let left = amps;
      let first = -1;
      for (let j = 0; j < P; j++) {
        if (at(j, OPEN) !== 0) {
          put(j, AMPS, 0);
          continue;
        }
        const own = stringCurrent(j, volts);
        put(j, AMPS, own);
        left -= own;
        if (first < 0) first = j;
      }
      // What rounding leaves over goes into one string: no step may make or lose charge.
      if (first >= 0) put(first, AMPS, at(first, AMPS) + left);
      for (let j = 0; j < P; j++) {
        const ah = capacity[j] ?? stringAh;
        const own = at(j, AMPS);
        const soc = at(j, SOC);
        let main = own;
        if (lead) {
          const inner = at(j, OPEN) !== 0 ? (E[j] ?? 0) : innerVolts(j, volts);
          const gas = gassingAmps(ah, inner / S, warmth);
          main = own - gas;
          const up = main >= 0;
          const r1 = ((up ? factorUp * leadAcid.charging.ohmAh : factorDown * leadAcid.discharging.ohmAh) / ah) * leadPolarisation(up, soc);
          put(j, V1, at(j, V1) * e1 + r1 * main * (1 - e1));
          put(j, CELL, ((E[j] ?? 0) + main * (up ? (Zup[j] ?? 0) : (Zdown[j] ?? 0))) / S);
          put(j, SOC, soc + (main * step) / (3600 * ah));
          state[LOST] = (state[LOST] ?? 0) + (gas * step) / 3600;
        } else {
          const ohms = factorUp / ah;
          put(j, V1, at(j, V1) * e1 + ohms * (pair1?.ohmAh ?? 0) * main * (1 - e1));
          put(j, V2, at(j, V2) * e2 + ohms * (pair2?.ohmAh ?? 0) * main * (1 - e2));
          put(j, CELL, ((E[j] ?? 0) + main * (Zup[j] ?? 0)) / S);
          const stored = main > 0 ? main * model.efficiency : main;
          put(j, SOC, soc + (stored * step) / (3600 * ah));
          state[LOST] = (state[LOST] ?? 0) + ((main - stored) * step) / 3600;
        }
        put(j, HEAT, Math.max(0, (at(j, CELL) - restingAt(table, soc) - restShift) * S * main) + own * own * stringOhms * 0.5);
      }
    },
    setOpen: (j, open) => {
      put(j, OPEN, open ? 1 : 0);
    },
    isOpen: (j) => at(j, OPEN) !== 0,
    chargeOf: (j) => at(j, SOC),
    charge() {
      let sum = 0;
      let all = 0;
      for (let j = 0; j < P; j++) {
        sum += at(j, SOC) * (capacity[j] ?? 0);
        all += capacity[j] ?? 0;
      }
      return sum / all;
    },
    stringVolts: (j) => at(j, CELL) * S + at(j, AMPS) * stringOhms,
    meanCell: (j) => at(j, CELL),
    highCell: (j) => (cellAhead === 0 ? at(j, CELL) : at(j, CELL) + restingAt(table, at(j, SOC) + cellAhead) - restingAt(table, at(j, SOC))),
    stringAmps: (j) => at(j, AMPS),
    storedAh() {
      let sum = 0;
      for (let j = 0; j < P; j++) sum += at(j, SOC) * (capacity[j] ?? 0);
      return sum;
    },
    lostAh: () => state[LOST] ?? 0,
    heatW() {
      let sum = 0;
      for (let j = 0; j < P; j++) sum += at(j, HEAT);
      return sum;
    },
    // Small arrays: a loop copies them faster than a call.
    save: () => {
      for (let i = 0; i < state.length; i++) kept[i] = state[i] ?? 0;
    },
    restore: () => {
      for (let i = 0; i < state.length; i++) state[i] = kept[i] ?? 0;
    },
  };
  return bank;
}
