import { stageCode, type Stage } from '../../charger';
import { claimedSeconds } from '../log';
import type { Ahead } from './ahead';
import type { HeldLevels } from './held';
import type { Scene } from './scene';
import { silence } from './silence';

/** A charger that was in float so long ago, and comes back without a word of a night or of absorb, is in float still, s. */
const sameDayS = 5 * 3600;
/** Less than this part of the most a charger gave in a log is little. */
const littlePart = 0.35;
/** A float voltage must stand for so long where nothing else says that absorb ended, s. */
const settledS = 900;

/** Walks the samples and gives each a stage. */
export function walk(scene: Scene, held: HeldLevels, ahead: Ahead): Uint8Array {
  const { time, n, calm, floatCalm, rechargeCalm, amps, levels, longest, intervalS, toleranceV: tolerance, on } = scene;
  const { floatV, rechargeV } = held;
  const { nextAt, nextLow, mostA, strongA, floats, reached, at, endOfDay, below, standsAt } = ahead;
  const { zeroA } = levels;
  const found = new Uint8Array(n);
  let stage = 'off' as Stage;
  let atVoltage = 0;
  let absorbFrom = 0;
  let done = false;
  let taperFor = 0;
  /** Under a cloud in absorb: decided until this sample. */
  let heldUntil = -1;
  /** When it was last in float. */
  let floatAt = -Infinity;
  /** Whether little current flows over a stretch: a full bank’s float, and no bulk that comes by. */
  const calmHere = (from: number, to: number): boolean => {
    let [sum, seconds] = [0, 0];
    for (let k = from + 1; k < to; k++) {
      const step = claimedSeconds(time, k, longest);
      sum += step * (amps[k] ?? 0);
      seconds += step;
    }
    return sum <= littlePart * mostA * seconds;
  };
  const begin = (to: Stage, now: number): void => {
    stage = to;
    absorbFrom = now;
    atVoltage = 0;
    taperFor = 0;
    done = false;
    heldUntil = -1;
  };
  for (let i = 0; i < n; i++) {
    const now = time[i] ?? 0;
    const step = claimedSeconds(time, i, longest);
    // After hours that nobody wrote down nothing of before counts.
    if (i > 0 && now - (time[i - 1] ?? 0) > Math.max(longest, 3 * 3600)) begin('off', now);
    if (!on(i)) {
      const { until, parts, stopped } = silence(scene, held, ahead, i, stage, done);
      // What ends in full current at a standing voltage was absorb, whatever its level.
      if (stopped)
        for (let k = i - 1; k >= 0 && found[k] === stageCode.bulk && (calm[k] ?? 0) >= (calm[i - 1] ?? 0) - tolerance; k--) found[k] = stageCode.absorb;
      parts.forEach((p, k) => found.fill(stageCode[p.stage], p.from, parts[k + 1]?.from ?? until));
      const last = parts.at(-1)?.stage ?? 'off';
      if (last === 'off' && (scene.sunAt(i) === false || scene.sunAt(until - 1) === false)) floatAt = -Infinity;
      if (last === 'off' || last === 'cold') begin(last, now);
      else {
        if (last === 'float' || last === 'rest') done = true;
        stage = last;
      }
      i = until - 1;
      continue;
    }
    const still =
      stage === 'off' &&
      now - floatAt < sameDayS &&
      (floatCalm[i] ?? NaN) <= (floatV ?? 0) + 1.5 * tolerance &&
      floats &&
      (nextAt[i] ?? n) >= endOfDay(i) &&
      (nextLow[i] ?? n) >= endOfDay(i);
    if (still) {
      stage = 'float';
      done = true;
    } else if (stage === 'off' || stage === 'cold') {
      begin(reached(i) ? 'absorb' : 'bulk', now);
      // A log that begins in the middle: float where the voltage stands there, with no more current than that takes, and never goes up to absorb.
      if ((stage as Stage) === 'bulk' && i < 3 && floats) {
        const end = Math.min(nextAt[i] ?? n, endOfDay(i));
        const { stands, against } = below(i, end);
        if ((nextAt[i] ?? n) >= end && stands >= settledS && against < 60 && (standsAt(i) || calmHere(i, end))) {
          stage = 'float';
          done = true;
        }
      }
    } else if (stage === 'rest') {
      if (rechargeV !== null && (rechargeCalm[i] ?? NaN) < rechargeV + tolerance) begin('bulk', now);
      else if (reached(i)) begin('absorb', now);
      else if ((amps[i] ?? 0) > strongA && !floats) stage = 'bulk';
      else stage = 'float';
    } else if (stage === 'bulk') {
      if (reached(i)) begin('absorb', now);
      else if (standsAt(i)) {
        stage = 'float';
        done = true;
      }
    } else if (stage === 'absorb') {
      const ranOut = levels.wallClock && levels.absorbSeconds !== null && now - absorbFrom >= levels.absorbSeconds;
      done ||= ranOut;
      // A timer that runs by the clock ends absorb under a cloud too.
      if (ranOut && !at(i) && floats && (nextAt[i] ?? n) >= endOfDay(i)) stage = 'float';
      else if (at(i)) {
        atVoltage += step;
        const small = levels.taperA !== null && levels.taperA > 0 && (amps[i] ?? 0) <= Math.max(levels.taperA * 1.1, zeroA * 1.5);
        taperFor = small ? taperFor + Math.max(step, 1) : 0;
        done ||= (levels.absorbSeconds !== null && atVoltage >= levels.absorbSeconds * 0.93) || taperFor >= Math.min(20, intervalS);
      } else if (i > heldUntil) {
        const back = nextAt[i] ?? n;
        const low = nextLow[i] ?? n;
        const off = endOfDay(i);
        const end = Math.min(back, low, off);
        const { stands, against } = below(i, end);
        const whole = levels.absorbSeconds !== null && now - absorbFrom >= levels.absorbSeconds * 0.95;
        const returns = back < off && back < low;
        const settled = stands >= (done ? 120 : whole ? 300 : settledS);
        const length = (time[Math.min(end, n - 1)] ?? now) - now;
        const float = floats && against < Math.max(120, 0.1 * length) && (returns ? stands > 2400 : done || settled);
        if (float) {
          stage = 'float';
          done = true;
        } else heldUntil = (end === low && !done ? Math.min(back, off) : end) - 1;
      }
    } else if (stage === 'float') {
      if ((nextLow[i] ?? n) === i && i > heldUntil) {
        // A new charge goes by absorb: what stands at float again without it was a load that came and went.
        const off = endOfDay(i);
        const { stands, against } = below(i, off);
        if (floats && (nextAt[i] ?? n) >= off && stands >= settledS && against < 60) heldUntil = off - 1;
        else begin('bulk', now);
      } else if (reached(i)) {
        begin('absorb', now);
        // The rise from float to absorb was bulk.
        for (let k = i - 1; k >= 0 && found[k] === stageCode.float && (floatCalm[k] ?? 0) > (floatV ?? 0) + tolerance && on(k); k--) found[k] = stageCode.bulk;
      }
    }
    if (stage === 'float') floatAt = now;
    found[i] = stageCode[stage];
  }
  return found;
}
