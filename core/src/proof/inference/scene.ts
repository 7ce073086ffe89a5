import type { Log, LogReport } from '../log';
import { longestStep } from '../log';
import { allReferred, canCharge, chargerAmps, type ChargerLevels } from './levels';
import { levelTolerance, signalOf, smoothed } from './signal';

/** One charger in a log, as the inference looks at it. */
export interface Scene {
  readonly log: Log;
  readonly time: Float64Array;
  /** How many samples. */
  readonly n: number;
  /** Bank volts with the compensation taken off, and the same smoothed. */
  readonly volts: Float32Array;
  readonly calm: Float32Array;
  readonly amps: Float32Array;
  readonly levels: ChargerLevels;
  /** Longest believable step, and the usual one, s. */
  readonly longest: number;
  readonly intervalS: number;
  readonly stepV: number;
  readonly noiseV: number;
  /** How far from a level a sample may lie and still count as at it, V. */
  readonly toleranceV: number;
  /** How far all levels may lie off because the log has no temperature to take compensation off by, V. */
  readonly adriftV: number;
  on(i: number): boolean;
  /** Whether its source is there; null where the log does not tell. */
  sunAt(i: number): boolean | null;
}

/** Makes a scene; null where the log has nothing of the charger. */
export function sceneOf(log: Log, report: LogReport, charger: string, levels: ChargerLevels): Scene | null {
  const amps = chargerAmps(log, charger);
  const n = log.time.length;
  if (!amps || n < 2) return null;
  const { zeroA } = levels;
  const arrayV = log.chargers[charger]?.arrayVolts;
  const longest = longestStep(report);
  const volts = allReferred(log, levels);
  const signal = signalOf(log.bankVolts);
  const noiseV = Math.min(signal.noiseV, levels.toleranceV / 2);
  // Without a temperature the compensation cannot be taken off: the levels drift with the day, and lie as much as twenty degrees away.
  const blind = levels.slope !== 0 && !log.batteryC;
  return {
    log,
    time: log.time,
    n,
    volts,
    calm: smoothed(log.time, volts, Math.min(60, 2 * report.intervalSeconds), longest),
    amps,
    levels,
    longest,
    intervalS: report.intervalSeconds,
    stepV: signal.stepV,
    noiseV,
    toleranceV: levelTolerance(signal, levels.toleranceV) + (blind ? Math.abs(levels.slope) * 3 : 0),
    adriftV: blind ? Math.abs(levels.slope) * 20 : 0,
    on: (i) => (amps[i] ?? 0) > zeroA,
    sunAt: (i) => (arrayV === undefined ? null : canCharge(arrayV[i], log.bankVolts[i] ?? 0)),
  };
}
