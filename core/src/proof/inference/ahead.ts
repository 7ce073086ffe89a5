import { claimedSeconds } from '../log';
import { mostly, riseOver } from '../statistics';
import type { HeldLevels } from './held';
import type { Scene } from './scene';

/** A voltage below recharge for so long begins a new charge, s. */
const rechargeS = 45;

/** What lies ahead of each sample: looked up once, from behind. */
export interface Ahead {
  /** Places of the next sample at the absorb level, of the next that is below recharge for long, of the next with current; the number of samples where there is none. */
  readonly nextAt: Int32Array;
  readonly nextLow: Int32Array;
  readonly nextOn: Int32Array;
  /** The most it gave, A, and current that is more than a trickle. */
  readonly mostA: number;
  readonly strongA: number;
  /** Whether it has a float that can be told from absorb, and the least voltage that is still float, V. */
  readonly floats: boolean;
  readonly floorV: number;
  /** The absorb level is reached here: finely, so that a slow rise is bulk until it arrives. */
  reached(i: number): boolean;
  /** The voltage is still at the absorb level: coarsely. */
  at(i: number): boolean;
  /** Where the source is gone for good: the next stretch of ten minutes without current and below float. */
  endOfDay(i: number): number;
  /** Float is held from here on for long: the voltage stands there while the current moves. */
  standsAt(i: number): boolean;
  /** Of a stretch below the level: how long float stood, and how long strong current flowed well above float, which no float does, s. */
  below(from: number, to: number): { readonly stands: number; readonly against: number };
}

/** Looks ahead of every sample of a scene. */
export function aheadOf(scene: Scene, { absorbV, floatV, rechargeV }: HeldLevels): Ahead {
  const { time, n, volts, calm, floatCalm, rechargeCalm, amps, levels, longest, intervalS, stepV, noiseV, toleranceV: tolerance, on, sunAt } = scene;
  const fine = Math.min(tolerance * 0.8, Math.max(0.4 * levels.toleranceV, 0.6 * stepV, 1.2 * noiseV));
  const reached = (i: number): boolean => on(i) && ((calm[i] ?? NaN) >= absorbV - fine || (volts[i] ?? NaN) >= absorbV - fine / 2);
  const at = (i: number): boolean => (volts[i] ?? NaN) >= absorbV - tolerance;
  const nextAt = new Int32Array(n + 1).fill(n);
  const nextLow = new Int32Array(n + 1).fill(n);
  const nextOn = new Int32Array(n + 1).fill(n);
  let lowFor = 0;
  let mostA = 0;
  for (let i = n - 1; i >= 0; i--) {
    const step = claimedSeconds(time, i + 1 < n ? i + 1 : i, longest);
    nextAt[i] = reached(i) ? i : (nextAt[i + 1] ?? n);
    nextOn[i] = on(i) ? i : (nextOn[i + 1] ?? n);
    const low = rechargeV !== null && (rechargeCalm[i] ?? NaN) < rechargeV;
    lowFor = low ? lowFor + step : 0;
    nextLow[i] = low && (lowFor >= rechargeS || intervalS > rechargeS) ? i : (nextLow[i + 1] ?? n);
    mostA = Math.max(mostA, amps[i] ?? 0);
  }
  const strongA = Math.max(3 * levels.zeroA, 0.06 * mostA);
  const floats = levels.floatV !== null && floatV !== null && absorbV - floatV > 1.5 * tolerance;
  const floorV = (floatV ?? absorbV) - tolerance;

  function below(from: number, to: number): { stands: number; against: number } {
    if (floatV === null) return { stands: 0, against: 0 };
    let stand = 0;
    let best = 0;
    let against = 0;
    let lowV = 0;
    let highV = 0;
    for (let k = from; k < to; k++) {
      const v = floatCalm[k] ?? NaN;
      const step = claimedSeconds(time, k, longest);
      if (v > floatV + 1.6 * tolerance && (amps[k] ?? 0) > strongA) against += step;
      if (!(Math.abs(v - floatV) <= tolerance)) {
        stand = 0;
        continue;
      }
      if (stand === 0) lowV = highV = v;
      lowV = Math.min(lowV, v);
      highV = Math.max(highV, v);
      stand = highV - lowV > tolerance + stepV ? 0 : stand + step;
      best = Math.max(best, stand);
    }
    return { stands: best, against };
  }

  function endOfDay(i: number): number {
    let k = i;
    while (k < n) {
      while (k < n && on(k)) k++;
      const b = nextOn[k] ?? n;
      if (k >= n) return n;
      const dead = sunAt(k) === false || (floatCalm[k] ?? 0) < floorV || (floatCalm[Math.min(b, n - 1)] ?? 0) < floorV;
      if (dead && (time[Math.min(b, n - 1)] ?? 0) - (time[k] ?? 0) >= 600) return k;
      k = b;
    }
    return n;
  }

  // Coarse steps hide how the voltage follows the current.
  const standing = floats && floatV !== null && stepV <= levels.toleranceV / 2 ? floatStands(scene, floatV) : null;
  return { nextAt, nextLow, nextOn, mostA, strongA, floats, floorV, reached, at, endOfDay, below, standsAt: (i) => standing?.[i] === 1 };
}

/** Float is believed without a word of absorb before it where it was held for so long, s, */
const heldForS = 2400;
/** while the current moved by this part of itself. */
const movedPart = 0.3;

/** The first samples of long stretches in which the voltage stood at float and the current moved without it: something regulates there. */
function floatStands({ time, n, floatCalm, amps, longest, toleranceV: tolerance, stepV, on }: Scene, floatV: number): Uint8Array {
  const marks = new Uint8Array(n);
  let i = 0;
  while (i < n) {
    if (!on(i) || !(Math.abs((floatCalm[i] ?? NaN) - floatV) <= tolerance)) {
      i++;
      continue;
    }
    const first = i;
    let seconds = 0;
    const v: number[] = [];
    const a: number[] = [];
    for (; i < n && on(i) && Math.abs((floatCalm[i] ?? NaN) - floatV) <= tolerance; i++) {
      seconds += claimedSeconds(time, i, longest);
      v.push(floatCalm[i] ?? NaN);
      a.push(amps[i] ?? 0);
    }
    if (seconds < heldForS || v.length < 6) continue;
    const [low, high] = mostly(a);
    if (high - low < movedPart * high) continue;
    if (Math.abs(riseOver(a, v, high - low)) <= 0.25 * tolerance + 0.3 * stepV) marks[first] = 1;
  }
  return marks;
}
