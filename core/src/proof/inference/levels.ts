import { cardOf, referenceC, type Plan } from '../../settings';
import { zeroAmps } from '../../requirements';
import type { Stage } from '../../charger';
import type { Log } from '../log';

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
  readonly equaliseV: number | null;
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
  const equalises = plan.setting(charger, 'equaliseEnabled');
  return {
    absorbV,
    floatV: value('floatVoltage'),
    rechargeV: value('rechargeVoltage'),
    cutoffC: value('lowTempCutoff'),
    taperA: value('taperCurrent'),
    absorbSeconds: value('absorbTime'),
    equaliseV: equalises?.off === true ? null : value('equaliseVoltage'),
    zeroA: zeroAmps(card),
    toleranceV: Math.max(0.06, absorbV * 0.0025),
    slope: (value('compensationSlope') ?? 0) * plan.facts.cells,
    referenceC: referenceC(plan),
  };
}

/** Bank voltage with the compensation taken off: what it would be at the reference temperature. */
export function referredVolts(log: Log, levels: Pick<ChargerLevels, 'slope' | 'referenceC'>, i: number): number {
  const volts = log.bankVolts[i] ?? NaN;
  const celsius = log.batteryC?.[i];
  return levels.slope === 0 || celsius === undefined || Number.isNaN(celsius) ? volts : volts - levels.slope * (celsius - levels.referenceC);
}

/** The same for a whole log at once. */
export function allReferred({ bankVolts, batteryC }: Log, { slope, referenceC: reference }: Pick<ChargerLevels, 'slope' | 'referenceC'>): Float32Array {
  if (slope === 0 || !batteryC) return bankVolts;
  const out = new Float32Array(bankVolts.length);
  for (let i = 0; i < out.length; i++) {
    const celsius = batteryC[i] ?? NaN;
    out[i] = (bankVolts[i] ?? NaN) - (celsius === celsius ? slope * (celsius - reference) : 0);
  }
  return out;
}

/** The charger's own current, or the bank's when the log has only that. */
export const chargerAmps = (log: Log, charger: string): Float32Array | undefined => log.chargers[charger]?.amps ?? log.bankAmps;

/** The currents of all other chargers that the log has. */
export const otherAmps = (log: Log, charger: string): readonly Float32Array[] =>
  Object.entries(log.chargers).flatMap(([id, c]) => (id !== charger && c.amps ? [c.amps] : []));

/** Whether the source stands far enough above the bank to push current into it, V. */
export const canCharge = (arrayVolts: number | undefined, bankVolts: number): boolean => (arrayVolts ?? 0) > bankVolts + 5;
