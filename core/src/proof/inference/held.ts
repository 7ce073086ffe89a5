import { claimedSeconds } from '../log';
import { findPlateau } from './plateau';
import type { Scene } from './scene';

/** What a charger was seen to hold. */
export interface HeldLevels {
  /** V at the reference temperature; the setting where none was seen. */
  readonly absorbV: number;
  readonly absorbSeen: boolean;
  readonly floatV: number | null;
  readonly floatSeen: boolean;
  /** The recharge setting, moved by as much as float lies off. */
  readonly rechargeV: number | null;
}

/** Least time at a level to believe it, s. */
const leastPlateauS = 480;

/** Finds what a charger really holds in absorb and in float. */
export function heldLevels(scene: Scene): HeldLevels {
  const { levels, adriftV } = scene;
  const { absorbV, absorbSeen } = heldInAbsorb(scene);
  const { floatV, floatSeen } = heldInFloat(scene, absorbV, absorbSeen);
  const drift =
    floatSeen && levels.floatV !== null && floatV !== null ? Math.min(0, floatV - levels.floatV) : adriftV > 0 && absorbSeen ? absorbV - levels.absorbV : 0;
  return { absorbV, absorbSeen, floatV, floatSeen, rechargeV: levels.rechargeV === null ? null : levels.rechargeV + drift };
}

/** The level held in absorb: a plateau, else where full current stopped at once, else the setting, if it was not passed for long. */
function heldInAbsorb(scene: Scene): Pick<HeldLevels, 'absorbV' | 'absorbSeen'> {
  const { time, n, volts, calm, equaliseCalm, levels, longest, stepV, toleranceV: tolerance, adriftV, on } = scene;
  const wide = levels.absorbV * 0.033;
  // An equalise towers over absorb: what lies at its level is none of absorb's.
  const equaliseV = levels.equaliseV !== null && levels.equaliseV - levels.absorbV >= 3 * tolerance ? levels.equaliseV : Infinity;
  const towers = (i: number): boolean => (equaliseCalm[i] ?? NaN) >= equaliseV - tolerance;
  // The way up to it, and without a temperature all of it, lies above absorb.
  const equalised = adriftV > 0 ? equaliseV < Infinity : equaliseCalm.some((_, i) => on(i) && towers(i));
  const past = equalised ? 0.5 : 0.1;
  const search = (counts: (i: number) => boolean) =>
    findPlateau({ time, volts, counts, longest }, levels.absorbV - wide - adriftV / 2, levels.absorbV + wide + adriftV, levels.absorbV, tolerance, past, stepV);
  const beneath = (i: number): boolean => on(i) && !towers(i);
  // Without a temperature absorb itself may lie where equalise was set.
  const top = adriftV > 0 ? (search(on) ?? search(beneath)) : search(beneath);
  // Without a temperature the setting itself lies anywhere within what compensation may make of it.
  const nearSetting = top !== null && Math.abs(top.volts - levels.absorbV) <= 1.5 * tolerance + adriftV;
  const isFloat =
    top !== null &&
    levels.floatV !== null &&
    (Math.abs(top.volts - levels.floatV) < 0.6 * Math.abs(top.volts - levels.absorbV) ||
      (Math.abs(top.volts - levels.absorbV) > 1.5 * tolerance && (cameDownTo(scene, top.volts) || callsItFloat(scene, top.volts))));
  const absorbSeen =
    top !== null &&
    !isFloat &&
    top.seconds >= leastPlateauS &&
    (nearSetting
      ? top.sharpness > 2 || regulates(scene, top.volts, tolerance, 300, 0.15)
      : top.sharpness > 1 && regulates(scene, top.volts, Math.max(levels.toleranceV, 0.8 * stepV), 600, 0.25));
  const stops = absorbSeen ? null : stoppedAt(scene, wide + adriftV);
  let absorbV = absorbSeen && top ? top.volts : (stops ?? levels.absorbV);
  if (!absorbSeen && stops === null) {
    // Well past the setting for long, and nothing held it: whatever its level is, it was not reached.
    let past = 0;
    let highest = -Infinity;
    for (let i = 1; i < n; i++) {
      if (!on(i)) continue;
      highest = Math.max(highest, calm[i] ?? -Infinity);
      if ((calm[i] ?? 0) > levels.absorbV + 1.5 * tolerance) past += claimedSeconds(time, i, longest);
    }
    if (past > 600) absorbV = highest + tolerance;
  }
  return { absorbV, absorbSeen };
}

/** The level held in float: looked for below absorb, after it. */
function heldInFloat(scene: Scene, absorbV: number, absorbSeen: boolean): Pick<HeldLevels, 'floatV' | 'floatSeen'> {
  const { time, n, volts, floatVolts, levels, longest, stepV, toleranceV: tolerance, adriftV, on, sunAt } = scene;
  const at = (i: number): boolean => (volts[i] ?? NaN) >= absorbV - tolerance;
  let floatV = levels.floatV;
  let floatSeen = false;
  if (levels.floatV !== null && absorbV - levels.floatV > 2 * tolerance) {
    const after = new Uint8Array(n);
    // Forwards: absorb was there on this day. Backwards: it does not come again, so that a cloud in absorb is not taken for float.
    for (const way of [1, -1]) {
      let since = way === 1 ? 0 : 1;
      let quiet = 0;
      for (let i = way === 1 ? 0 : n - 1; i >= 0 && i < n; i += way) {
        quiet = on(i) || sunAt(i) === true ? 0 : quiet + claimedSeconds(time, i, longest);
        // A sister may have held it: the level was there all the same.
        if (at(i) && (on(i) || sunAt(i) === true)) since = way === 1 ? 1 : 0;
        else if (quiet > 7200) since = way === 1 ? 0 : 1;
        after[i] = way === 1 ? since : (after[i] ?? 0) & since;
      }
    }
    const span = levels.floatV * 0.03;
    const held = findPlateau(
      { time, volts: floatVolts, counts: (i) => after[i] === 1 && on(i) && (volts[i] ?? NaN) < absorbV - 1.5 * tolerance, longest },
      levels.floatV - span,
      Math.min(levels.floatV + span, absorbV - 1.5 * tolerance),
      levels.floatV,
      tolerance,
      0.6,
      stepV,
    );
    if (
      held &&
      held.seconds >= 1200 &&
      absorbV - held.volts > 0.4 * (absorbV - levels.floatV) &&
      (Math.abs(held.volts - levels.floatV) <= 1.5 * tolerance ? held.sharpness > 0.8 : held.seconds > 3600 && held.sharpness > 2.5)
    ) {
      floatV = held.volts;
      floatSeen = true;
    }
  } else if (adriftV > 0 && absorbSeen && levels.floatV !== null) floatV = levels.floatV + absorbV - levels.absorbV;
  return { floatV, floatSeen };
}

/** Where strong current stopped at once while the voltage stood, and then sank without current: where absorb ended. The median of such; null without one. */
function stoppedAt({ time, calm, floatCalm, amps, levels, toleranceV: tolerance }: Scene, wide: number): number | null {
  const { zeroA } = levels;
  if (levels.floatV === null) return null;
  let most = 0;
  for (const a of amps) if (a > most) most = a;
  const stays = (from: number, level: number): boolean => {
    let k = from;
    for (; k < time.length && (time[k] ?? 0) - (time[from] ?? 0) < 900; k++) if (k > from && Math.abs((floatCalm[k] ?? NaN) - level) > tolerance) return false;
    return k < time.length;
  };
  const found: number[] = [];
  for (let i = 2; i + 1 < time.length; i++) {
    if (!((amps[i - 1] ?? 0) > Math.max(3 * zeroA, 0.06 * most))) continue;
    const v = calm[i - 2] ?? NaN;
    if (!(Math.abs(v - levels.absorbV) <= wide) || v - levels.floatV < 0.4 * (levels.absorbV - levels.floatV)) continue;
    if ((amps[i] ?? 0) > zeroA) {
      // Or it falls onto float at once and stays there.
      const from = calm[i - 4] ?? v;
      if (from - (calm[i + 4] ?? NaN) > 0.4 * (levels.absorbV - levels.floatV) && stays(i + 4, levels.floatV) && Math.abs(from - levels.absorbV) <= wide) {
        found.push(from);
        i += 8;
      }
      continue;
    }
    let k = i;
    while (k < time.length && !((amps[k] ?? 0) > zeroA)) k++;
    // A while of silence, and it comes back small, at float or above.
    if (k >= time.length || (time[k] ?? 0) - (time[i] ?? 0) < 45) continue;
    if ((floatCalm[k] ?? 0) < levels.floatV - 2 * tolerance || (amps[k] ?? 0) > 0.3 * most || (calm[k] ?? 0) > v - tolerance) continue;
    found.push(v);
  }
  found.sort((a, b) => a - b);
  return found[Math.floor(found.length / 2)] ?? null;
}

/** Whether the charger itself reports float for most of its time at a level: which of its levels that is, it knows. */
function callsItFloat({ n, calm, toleranceV: tolerance, on, saidAt }: Scene, level: number): boolean {
  let [float, absorb] = [0, 0];
  for (let i = 0; i < n; i++) {
    if (!on(i) || !(Math.abs((calm[i] ?? NaN) - level) <= tolerance)) continue;
    const said = saidAt(i);
    if (said === 'float') float++;
    else if (said === 'absorb') absorb++;
  }
  return float > absorb;
}

/** A level is one that was come down to where at least this part of the time at it was. */
const cameDownPart = 0.25;
/** Above a level for so long, in at least two samples, is no overshoot, s. */
const aboveS = 120;

/**
 * Whether the voltage came down to a level and stayed there: a float, whatever it lies near to. Absorb is risen to. Stretches of twenty minutes count,
 * by the side they were come to from.
 */
function cameDownTo({ time, calm, longest, intervalS, toleranceV: tolerance, on }: Scene, level: number): boolean {
  let [fallen, risen] = [0, 0];
  let fromAbove = false;
  let [above, below, stretch] = [0, 0, 0];
  const close = (): void => {
    if (stretch >= leastStretchS) {
      if (fromAbove) fallen += stretch;
      else risen += stretch;
    }
    stretch = 0;
  };
  for (let i = 0; i < time.length; i++) {
    const off = (calm[i] ?? NaN) - level;
    const step = claimedSeconds(time, i, longest);
    if (off > 1.5 * tolerance) {
      above += step;
      below = 0;
      if (above >= Math.max(aboveS, 2 * intervalS)) {
        close();
        fromAbove = true;
      }
    } else if (off < -1.5 * tolerance) {
      below += step;
      above = 0;
      if (below >= Math.max(aboveS, 2 * intervalS)) {
        close();
        fromAbove = false;
      }
    } else if (Math.abs(off) <= tolerance) {
      above = below = 0;
      if (on(i)) stretch += step;
    }
  }
  close();
  return fallen > 0 && fallen >= cameDownPart * (fallen + risen);
}

/** Shorter stays at a level tell nothing of where they were come from, s. */
const leastStretchS = 1200;

/** Whether the current falls by a part of itself while the voltage stands at the level for so long: something regulates there. */
function regulates({ time, volts, amps, longest }: Scene, level: number, tolerance: number, leastS: number, part: number): boolean {
  let from = -1;
  let seconds = 0;
  let high = 0;
  for (let i = 0; i <= time.length; i++) {
    const here = i < time.length && Math.abs((volts[i] ?? NaN) - level) <= tolerance && (i === 0 || (time[i] ?? 0) - (time[i - 1] ?? 0) <= longest);
    if (here) {
      if (from < 0) {
        from = i;
        // What it gave just before it arrived counts too.
        high = Math.max(amps[i] ?? 0, amps[i - 1] ?? 0, amps[i - 2] ?? 0);
        seconds = 0;
      }
      high = Math.max(high, amps[i] ?? 0);
      seconds += claimedSeconds(time, i, longest);
      if (seconds >= leastS && (amps[i] ?? 0) < (1 - part) * high) return true;
    } else from = -1;
  }
  return false;
}
