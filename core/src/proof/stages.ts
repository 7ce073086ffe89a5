import type { Plan } from '../settings';
import { cardOf } from '../settings';
import { stages, type Stage } from '../charger';
import { claimedSeconds, longestStep, type Log, type LogReport } from './log';

/** A stretch of time a charger spent in one stage. */
export interface StageSpan {
  readonly charger: string;
  readonly stage: Stage;
  /** Seconds since 1970. */
  readonly from: number;
  readonly to: number;
  /** First and last sample. */
  readonly first: number;
  readonly last: number;
  /** 0 to 1: how well the samples fit the stage. */
  readonly confidence: number;
  /** Seconds at absorb voltage while charging: what an at-voltage timer counts. */
  readonly atVoltageSeconds: number;
}

/** What stage inference knows of one charger. */
export interface ChargerLevels {
  readonly absorbV: number;
  readonly floatV: number | null;
  readonly rechargeV: number | null;
  readonly cutoffC: number | null;
  readonly taperA: number | null;
  readonly absorbSeconds: number | null;
  readonly zeroA: number;
  /** How far from a level a sample may lie and still count as at it, V. */
  readonly toleranceV: number;
  /** V/°C for the bank; 0 without compensation. */
  readonly slope: number;
  readonly referenceC: number;
}

/** The levels of a charger by its settings; null when there is no absorb level to look for. */
export function levelsOf(plan: Plan, charger: string): ChargerLevels | null {
  const value = (role: Parameters<Plan['setting']>[1]): number | null => plan.setting(charger, role)?.trueValue ?? null;
  const absorbV = value('absorbVoltage');
  const inPlace = plan.input.system.chargers.find((c) => c.id === charger);
  const card = inPlace && cardOf(plan.input, inPlace);
  if (absorbV === null || !card) return null;
  return {
    absorbV,
    floatV: value('floatVoltage'),
    rechargeV: value('rechargeVoltage'),
    cutoffC: value('lowTempCutoff'),
    taperA: value('taperCurrent'),
    absorbSeconds: value('absorbTime'),
    zeroA: Math.max(0.3, card.ratings.outputA * 0.01),
    toleranceV: Math.max(0.06, absorbV * 0.0025),
    slope: (value('compensationSlope') ?? 0) * plan.facts.cells,
    referenceC: plan.input.sheet.figures.compensationReference?.target ?? 25,
  };
}

/** Bank voltage with the compensation taken off: what it would be at the reference temperature. */
export function referredVolts(log: Log, levels: ChargerLevels, i: number): number {
  const volts = log.bankVolts[i] ?? NaN;
  const celsius = log.batteryC?.[i];
  return levels.slope === 0 || celsius === undefined || Number.isNaN(celsius) ? volts : volts - levels.slope * (celsius - levels.referenceC);
}

/** The charger's own current, or the bank's when the log has only that. */
export const chargerAmps = (log: Log, charger: string): Float32Array | undefined => log.chargers[charger]?.amps ?? log.bankAmps;

/**
 * The level the charger really regulates at: the densest 0.1 V of referred voltage near the setting with little time above it, in which it charged
 * for ten minutes or more; the setting itself when there is none.
 */
export function regulatedLevel(log: Log, report: LogReport, charger: string, levels: ChargerLevels): number {
  const amps = chargerAmps(log, charger);
  if (!amps) return levels.absorbV;
  const width = 0.02;
  const low = levels.absorbV * 0.988;
  const bins = new Float64Array(Math.ceil((levels.absorbV * 0.045) / width));
  const longest = longestStep(report);
  for (let i = 1; i < log.time.length; i++) {
    if (!((amps[i] ?? 0) > levels.zeroA)) continue;
    const bin = Math.floor((referredVolts(log, levels, i) - low) / width);
    if (bin >= 0 && bin < bins.length) bins[bin] = (bins[bin] ?? 0) + claimedSeconds(log.time, i, longest);
  }
  const half = 2;
  const guard = Math.ceil(levels.toleranceV / width);
  const above = new Float64Array(bins.length + 1);
  for (let b = bins.length - 1; b >= 0; b--) above[b] = (above[b + 1] ?? 0) + (bins[b] ?? 0);
  let best = -1;
  let most = 0;
  for (let b = half; b < bins.length - half; b++) {
    let sum = 0;
    for (let k = b - half; k <= b + half; k++) sum += bins[k] ?? 0;
    // A regulated level is a ceiling: little time is spent above it. A slow rise in bulk is not.
    const past = above[Math.min(bins.length, b + half + guard)] ?? 0;
    if (sum > most + 1e-9 && past <= 0.25 * sum) {
      most = sum;
      best = b;
    }
  }
  return best >= 0 && most >= 600 ? low + (best + 0.5) * width : levels.absorbV;
}

/** A voltage that moves less than this stands still, V: display step of 0.1 V included. */
const stillV = 0.12;
/** How long a float voltage must stand still to count: after a completed absorb, and without one, s. */
const settledAfterAbsorb = 240;
const settledAlone = 1200;

/**
 * Infers a charger's stages from voltage, current and temperature, with its settings as the guide.
 * Absorb begins at the first touch of the level and goes on while clouds hold the voltage below it; it ends in float once the voltage
 * has settled there, and a source without current for five minutes is off, or held by the cold.
 */
export function inferStages(
  log: Log,
  report: LogReport,
  charger: string,
  levels: ChargerLevels,
  level = regulatedLevel(log, report, charger, levels),
): readonly StageSpan[] {
  const amps = chargerAmps(log, charger);
  if (!amps || log.time.length < 2) return [];
  const arrayV = log.chargers[charger]?.arrayVolts;
  const tolerance = levels.toleranceV;
  const quiet = 300;
  const longest = longestStep(report);
  const count = log.time.length;
  const found = new Uint8Array(count);
  const code = (stage: Stage): number => stages.indexOf(stage);

  let stage = 'off' as Stage;
  let quietSince = log.time[0] ?? 0;
  let floatSince: number | null = null;
  let floatLow = 0;
  let floatHigh = 0;
  let atVoltage = 0;
  let completed = false;
  let lowSince: number | null = null;
  for (let i = 0; i < count; i++) {
    const now = log.time[i] ?? 0;
    const step = claimedSeconds(log.time, i, longest);
    const volts = referredVolts(log, levels, i);
    const current = amps[i] ?? NaN;
    const on = current > levels.zeroA;
    const at = volts >= level - tolerance;
    const nearFloat = levels.floatV !== null && Math.abs(volts - levels.floatV) <= tolerance;
    if (on) quietSince = now;
    const idle = !on && now - quietSince >= quiet;
    if (on && at && stage === 'absorb') atVoltage += step;
    // Float is regulated: the voltage stands still. Under a cloud it may pass through the same volts, but it drifts.
    floatLow = Math.min(floatLow, volts);
    floatHigh = Math.max(floatHigh, volts);
    if (!nearFloat) floatSince = null;
    else if (floatSince === null || floatHigh - floatLow > stillV) {
      floatSince = now;
      floatLow = volts;
      floatHigh = volts;
    }

    const sun = arrayV === undefined ? null : canCharge(arrayV[i], volts);
    const holding = (stage === 'absorb' && completed) || stage === 'float' || stage === 'rest';
    if (!on && holding && sun !== false && (levels.rechargeV === null || volts > levels.rechargeV)) {
      stage = levels.floatV === null ? 'rest' : 'float';
    } else if (idle) {
      const celsius = log.batteryC?.[i];
      const cold = levels.cutoffC !== null && celsius !== undefined && celsius <= levels.cutoffC + 3 && volts < level - tolerance;
      stage = cold && sun === true ? 'cold' : 'off';
      atVoltage = 0;
      completed = false;
    } else if (on) {
      const again = levels.rechargeV !== null && volts < levels.rechargeV;
      if (stage === 'off' || stage === 'cold') {
        stage = at ? 'absorb' : 'bulk';
        atVoltage = 0;
      } else if (stage === 'rest') stage = again ? 'bulk' : at ? 'absorb' : 'float';
      else if (stage === 'bulk' && at) {
        stage = 'absorb';
        atVoltage = 0;
      } else if (stage === 'float' && at && levels.floatV !== null && level - levels.floatV > 2 * tolerance) {
        stage = 'absorb';
        atVoltage = 0;
      } else if (stage === 'float' && again) stage = 'bulk';
      else if (stage === 'absorb') {
        lowSince = at && levels.taperA !== null && levels.taperA > 0 && current <= levels.taperA * 1.1 ? (lowSince ?? now) : null;
        const done = (levels.absorbSeconds !== null && atVoltage >= levels.absorbSeconds * 0.9) || (lowSince !== null && now - lowSince >= 20);
        const left = levels.floatV !== null && volts < level - 2 * tolerance;
        completed ||= done;
        if (left && completed && volts > (levels.floatV ?? 0) - tolerance && current <= Math.max(levels.taperA ?? 0, levels.zeroA) * 3) stage = 'float';
        else if (floatSince !== null && now - floatSince >= (completed ? settledAfterAbsorb : settledAlone)) {
          stage = 'float';
          for (let k = i; k >= 0 && (log.time[k] ?? 0) >= floatSince && found[k] === code('absorb'); k--) found[k] = code('float');
        }
      }
    }
    found[i] = code(stage);
  }
  return spansOf(log, report, charger, found, amps, levels, level);
}

function spansOf(log: Log, report: LogReport, charger: string, found: Uint8Array, amps: Float32Array, levels: ChargerLevels, level: number): StageSpan[] {
  const spans: StageSpan[] = [];
  const longest = longestStep(report);
  let first = 0;
  for (let i = 1; i <= found.length; i++) {
    if (i < found.length && found[i] === found[first]) continue;
    const stage = stages[found[first] ?? 0] ?? 'off';
    let fits = 0;
    let atVoltageSeconds = 0;
    for (let k = first; k < i; k++) {
      const volts = referredVolts(log, levels, k);
      const on = (amps[k] ?? 0) > levels.zeroA;
      const at = volts >= level - levels.toleranceV;
      if (on && at) atVoltageSeconds += claimedSeconds(log.time, k, longest);
      fits +=
        stage === 'absorb'
          ? on && at
            ? 1
            : 0.4
          : stage === 'float'
            ? levels.floatV !== null && Math.abs(volts - levels.floatV) <= levels.toleranceV
              ? 1
              : on
                ? 0.4
                : 0.7
            : stage === 'bulk'
              ? on && !at
                ? 1
                : 0.3
              : on
                ? 0.3
                : 0.95;
    }
    spans.push({
      charger,
      stage,
      from: log.time[first] ?? 0,
      to: log.time[Math.min(i, found.length - 1)] ?? 0,
      first,
      last: i - 1,
      confidence: fits / (i - first),
      atVoltageSeconds: stage === 'absorb' ? atVoltageSeconds : 0,
    });
    first = i;
  }
  return spans;
}

/** Whether the source stands far enough above the bank to push current into it, V. */
export const canCharge = (arrayVolts: number | undefined, bankVolts: number): boolean => (arrayVolts ?? 0) > bankVolts + 5;

/** Share of the samples with a reported stage on which inference and report differ, 0 to 1; null without a report. */
export function disagreement(log: Log, charger: string, spans: readonly StageSpan[]): number | null {
  const reported = log.chargers[charger]?.stage;
  if (!reported) return null;
  let known = 0;
  let differ = 0;
  for (const span of spans)
    for (let i = span.first; i <= span.last; i++) {
      const said = stages[reported[i] ?? 255];
      if (said === undefined) continue;
      known++;
      const idle = (s: Stage): boolean => s === 'off' || s === 'rest';
      if (said !== span.stage && !(idle(said) && idle(span.stage))) differ++;
    }
  return known === 0 ? null : differ / known;
}
