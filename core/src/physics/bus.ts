import type { BankModel } from './bank';

/**
 * What hangs on the bus beside the bank. Each source gives clamp((target − V)/ohms, least, most): it holds `target` at its own terminals through
 * the resistance of its cable, as far as it has the current.
 */
export interface BusSources {
  readonly count: number;
  /** Volts held at the terminals. */
  readonly target: Float64Array;
  readonly ohms: Float64Array;
  /** Range of the current, A; `least` above 0 is a source that cannot let go at once. */
  readonly least: Float64Array;
  readonly most: Float64Array;
  /** V above which `least` falls as 1/V: nothing pushes more power than it has. */
  readonly fadesAbove: Float64Array;
  /** Result, A. */
  readonly amps: Float64Array;
}

/** Room for `count` sources. */
export const makeSources = (count: number): BusSources => ({
  count,
  target: new Float64Array(count),
  ohms: new Float64Array(count).fill(0.001),
  least: new Float64Array(count),
  most: new Float64Array(count),
  fadesAbove: new Float64Array(count).fill(Infinity),
  amps: new Float64Array(count),
});

/** The other things on the bus. */
export interface BusLoad {
  /** A drawn at usual volts; below `fadesBelow` volts it falls in proportion, as nothing draws current from an empty bus. */
  amps: number;
  fadesBelow: number;
  /** A diversion load: takes what would lift the bus above its volts, as far as a resistor of so many watts at those volts can. 0 W without one. */
  shuntVolts: number;
  shuntWatts: number;
  /** Result, A. */
  drawn: number;
  shunted: number;
}

/** Where the search ends: this much current out of balance, A, or so small a move, V. */
const smallAmps = 1e-10;
const smallVolts = 1e-12;

/** Ω of a diversion load's own regulation. */
const shuntOhms = 0.01;

/**
 * Bus voltage at which all currents balance. Every branch rises or falls steadily with the voltage, so there is exactly one; Newton's method,
 * kept inside a bracket that halves whenever it would leave it. Without a bank the loads and the shunt settle the voltage.
 *
 * @param near where to begin, V: the step before
 * @returns volts at the bus; the currents are left in `sources` and `load`
 */
export function solveBus(bank: BankModel, sources: BusSources, load: BusLoad, near: number): number {
  let low = 0;
  let high = 4000;
  let volts = near > 0 ? near : 1;
  const { count, target, ohms, least, most, fadesAbove, amps } = sources;
  for (let k = 0; k < 100; k++) {
    let sum = 0;
    let slope = 0;
    for (let i = 0; i < count; i++) {
      const r = ohms[i] ?? 1;
      let own = ((target[i] ?? 0) - volts) / r;
      const top = most[i] ?? 0;
      let bottom = least[i] ?? 0;
      const fades = fadesAbove[i] ?? Infinity;
      if (bottom > 0 && volts > fades) bottom = (bottom * fades) / volts;
      if (own > top) own = top;
      else if (own < bottom) {
        own = bottom;
        if (volts > fades) slope -= bottom / volts;
      } else slope -= 1 / r;
      sum += own;
    }
    if (volts < load.fadesBelow) {
      const conductance = load.amps / load.fadesBelow;
      sum -= conductance * volts;
      slope -= conductance;
    } else sum -= load.amps;
    if (load.shuntWatts > 0 && volts > load.shuntVolts) {
      // At most the whole resistor: it draws its watts at its own volts, and more only as the voltage rises.
      const whole = load.shuntWatts / load.shuntVolts ** 2;
      const wanted = (volts - load.shuntVolts) / shuntOhms;
      const partly = wanted < volts * whole;
      sum -= partly ? wanted : volts * whole;
      slope -= partly ? 1 / shuntOhms : whole;
    }
    sum -= bank.amps(volts);
    slope -= bank.slope;
    // A bus with nothing to hold it: a trace of leakage keeps the answer unique.
    sum -= volts * 1e-9;
    slope -= 1e-9;
    if (Math.abs(sum) < smallAmps) break;
    if (sum > 0) low = volts;
    else high = volts;
    const next = volts - sum / slope;
    const moved = Math.abs(next - volts);
    // At the foot of the search the bracket is no wider than rounding: Newton's own step ends it.
    volts = moved < smallVolts || (next > low && next < high) ? next : (low + high) / 2;
    if (moved < smallVolts) break;
  }
  for (let i = 0; i < count; i++) {
    const bottom = (least[i] ?? 0) * Math.min(1, (fadesAbove[i] ?? Infinity) / volts);
    amps[i] = Math.min(most[i] ?? 0, Math.max(bottom, ((target[i] ?? 0) - volts) / (ohms[i] ?? 1)));
  }
  load.drawn = load.amps * Math.min(1, load.fadesBelow > 0 ? volts / load.fadesBelow : 1);
  load.shunted =
    load.shuntWatts > 0 && volts > load.shuntVolts ? Math.min((volts * load.shuntWatts) / load.shuntVolts ** 2, (volts - load.shuntVolts) / shuntOhms) : 0;
  return volts;
}
