import type { Log, LogReport } from '../log';
import { longestStep } from '../log';
import { stages, type Stage } from '../../charger';
import { allReferred, canCharge, chargerAmps, drivenPart, drivenVolts, leastLight, type ChargerLevels, type LowerLevel } from './levels';
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
  /** The same as float, recharge and equalise look at it: as it is, where those stay while absorb moves. */
  readonly floatVolts: Float32Array;
  readonly floatCalm: Float32Array;
  readonly rechargeCalm: Float32Array;
  readonly equaliseCalm: Float32Array;
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
  /** Whether a sister stopped at once from clear current here: it was told to, for its source was there. */
  sisterStops(i: number): boolean;
  /** The stage it reports; null where it reports none. */
  saidAt(i: number): Stage | null;
}

/** Light in which no charger gives any current, W/m². */
const darkW = 5;

/** Makes a scene; null where the log has nothing of the charger. */
export function sceneOf(log: Log, report: LogReport, charger: string, levels: ChargerLevels): Scene | null {
  const amps = chargerAmps(log, charger);
  const n = log.time.length;
  if (!amps || n < 2) return null;
  const { zeroA } = levels;
  const arrayV = log.chargers[charger]?.arrayVolts;
  const said = log.chargers[charger]?.stage;
  const sisters = levels.sisters.flatMap((id) => log.chargers[id]?.amps ?? []);
  const light = levels.source === 'light' ? log.irradiance : undefined;
  const engine = levels.source === 'engine' ? log.engine : undefined;
  const longest = longestStep(report);
  const volts = allReferred(log, levels);
  const signal = signalOf(log.bankVolts);
  const noiseV = Math.min(signal.noiseV, levels.toleranceV / 2);
  // Without a temperature the compensation cannot be taken off: the levels drift with the day, and lie as much as twenty degrees away.
  const blind = levels.slope !== 0 && !log.batteryC;
  const calmed = (of: Float32Array): Float32Array => smoothed(log.time, of, Math.min(60, 2 * report.intervalSeconds), longest);
  const calm = calmed(volts);
  const still = volts === log.bankVolts || levels.fixed.size === 0 ? calm : calmed(log.bankVolts);
  const calmOf = (level: LowerLevel): Float32Array => (levels.fixed.has(level) ? still : calm);
  // The volts of a battery that feeds a charger stand as high as they do whatever the bank's are.
  const works = levels.source === 'engine' ? drivenVolts(log, charger, 3 * zeroA) : null;
  const inputTells = levels.source !== 'engine' || works !== null;
  const inputThere = (inputV: number, bankV: number): boolean => (works === null ? canCharge(inputV, bankV) : inputV >= drivenPart * works);
  /** What else tells of its source: measured light, an engine, a sister that gives current. */
  const otherwise = (i: number): boolean | null => {
    const w = light?.[i] ?? NaN;
    if (w >= leastLight) return true;
    if (w < darkW) return false;
    const turns = engine?.[i] ?? NaN;
    if (turns === turns) return turns > 0;
    return sisters.some((amps) => (amps[i] ?? 0) > 3 * zeroA) ? true : null;
  };
  return {
    log,
    time: log.time,
    n,
    volts,
    calm,
    floatVolts: levels.fixed.has('floatV') ? log.bankVolts : volts,
    floatCalm: calmOf('floatV'),
    rechargeCalm: calmOf('rechargeV'),
    equaliseCalm: calmOf('equaliseV'),
    amps,
    levels,
    longest,
    intervalS: report.intervalSeconds,
    stepV: signal.stepV,
    noiseV,
    toleranceV: levelTolerance(signal, levels.toleranceV) + (blind ? Math.abs(levels.slope) * 3 : 0),
    adriftV: blind ? Math.abs(levels.slope) * 20 : 0,
    on: (i) => (amps[i] ?? 0) > zeroA,
    sunAt: (i) => (Number.isFinite(arrayV?.[i]) && inputTells ? inputThere(arrayV?.[i] ?? NaN, log.bankVolts[i] ?? 0) : otherwise(i)),
    sisterStops: (i) => sisters.some((amps) => (amps[i - 1] ?? 0) > 3 * zeroA && (amps[i] ?? NaN) <= zeroA),
    saidAt: (i) => stages[said?.[i] ?? 255] ?? null,
  };
}
