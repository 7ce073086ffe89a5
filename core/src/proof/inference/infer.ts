import { claimedSeconds, longestStep, type Log, type LogReport } from '../log';
import { aheadOf } from './ahead';
import { heldLevels } from './held';
import { chargerAmps, referredVolts, type ChargerLevels, type StageSpan } from './levels';
import { sceneOf } from './scene';
import { markEqualise, spansOf } from './spans';
import { walk } from './walk';

/** What a charger was seen to hold, and what its stages were. */
export interface Inferred {
  readonly spans: readonly StageSpan[];
  /** Level it really regulates at in absorb, V at the reference temperature; the setting where none was seen. */
  readonly absorbV: number;
  readonly absorbSeen: boolean;
  /** The same in float; null where it has none. */
  readonly floatV: number | null;
  readonly floatSeen: boolean;
  /** How far from a level a sample may lie and still count as at it, V. */
  readonly toleranceV: number;
  /** The slope its stages were read with, V/°C for the bank. */
  readonly slope: number;
}

/**
 * Infers a charger's stages from voltage, current and temperature, with its settings as the guide and what it really holds as the measure.
 * Absorb begins at the first touch of the level and goes on while clouds hold the voltage below it. Where the voltage leaves the level for good, the
 * rest is float if absorb was done, if the voltage settles at float, or if the current stopped in full light; otherwise it is still absorb.
 */
export function inferStages(log: Log, report: LogReport, charger: string, levels: ChargerLevels): Inferred {
  const every = log.time.length > manySamples ? Math.floor(denseS / report.intervalSeconds) : 1;
  if (every < 2) return inferEvery(log, report, charger, levels);
  // Stages last minutes: of a long log with a sample a second every fifth tells them; time at voltage is counted on all of them.
  const seen = inferEvery(thinned(log, charger, every), { ...report, intervalSeconds: report.intervalSeconds * every }, charger, levels);
  return { ...seen, spans: widened(seen, log, report, charger, levels, every) };
}

/** More samples than this are thinned for the inference, to so many seconds. */
const manySamples = 150_000;
const denseS = 5;

/** Every so many samples of what the inference looks at. */
function thinned(log: Log, charger: string, every: number): Log {
  const n = Math.floor((log.time.length - 1) / every) + 1;
  const pick = <T extends Float32Array | Float64Array>(of: T, make: (size: number) => T): T => {
    const out = make(n);
    for (let i = 0; i < n; i++) out[i] = of[i * every] ?? NaN;
    return out;
  };
  const floats = (of: Float32Array | undefined): Float32Array | undefined => of && pick(of, (size) => new Float32Array(size));
  const own = log.chargers[charger];
  const amps = floats(own?.amps);
  const arrayVolts = floats(own?.arrayVolts);
  const bankAmps = amps ? undefined : floats(log.bankAmps);
  const batteryC = floats(log.batteryC);
  const irradiance = floats(log.irradiance);
  const engine = floats(log.engine);
  const said = own?.stage;
  const stage = said && Uint8Array.from({ length: n }, (_, i) => said[i * every] ?? 255);
  const sisters = Object.fromEntries(
    Object.entries(log.chargers).flatMap(([id, c]) => {
      const theirs = id === charger ? undefined : floats(c.amps);
      return theirs ? [[id, { amps: theirs }]] : [];
    }),
  );
  return {
    time: pick(log.time, (size) => new Float64Array(size)),
    offsetMinutes: log.offsetMinutes,
    bankVolts: pick(log.bankVolts, (size) => new Float32Array(size)),
    ...(bankAmps ? { bankAmps } : {}),
    ...(batteryC ? { batteryC } : {}),
    ...(irradiance ? { irradiance } : {}),
    ...(engine ? { engine } : {}),
    chargers: { ...sisters, [charger]: { ...(amps ? { amps } : {}), ...(arrayVolts ? { arrayVolts } : {}), ...(stage ? { stage } : {}) } },
  };
}

/** Spans of a thinned log on the whole one, with time at voltage counted anew. */
function widened(seen: Inferred, log: Log, report: LogReport, charger: string, levels: ChargerLevels, every: number): readonly StageSpan[] {
  const amps = chargerAmps(log, charger);
  const longest = longestStep(report);
  const floor = seen.absorbV - seen.toleranceV;
  return seen.spans.map((span, k) => {
    const first = span.first * every;
    const last = k === seen.spans.length - 1 ? log.time.length - 1 : (span.last + 1) * every - 1;
    let atVoltageSeconds = 0;
    if (span.stage === 'absorb')
      for (let i = first; i <= last; i++)
        if ((amps?.[i] ?? 0) > levels.zeroA && referredVolts(log, levels, i) >= floor) atVoltageSeconds += claimedSeconds(log.time, i, longest);
    return { ...span, first, last, atVoltageSeconds, to: log.time[Math.min(last + 1, log.time.length - 1)] ?? span.to };
  });
}

function inferEvery(log: Log, report: LogReport, charger: string, levels: ChargerLevels): Inferred {
  const scene = sceneOf(log, report, charger, levels);
  const { absorbV, floatV, toleranceV, slope } = levels;
  if (!scene) return { spans: [], absorbV, absorbSeen: false, floatV, floatSeen: false, toleranceV, slope };
  const held = heldLevels(scene);
  const found = walk(scene, held, aheadOf(scene, held));
  markEqualise(scene, held, found);
  return {
    spans: spansOf(scene, held, charger, found),
    absorbV: held.absorbV,
    absorbSeen: held.absorbSeen,
    floatV: held.floatV,
    floatSeen: held.floatSeen,
    toleranceV: scene.toleranceV,
    slope,
  };
}
