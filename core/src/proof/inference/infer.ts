import { stages, type Stage } from '../../charger';
import { claimedSeconds, longestStep, type Log, type LogReport } from '../log';
import { allReferred, canCharge, chargerAmps, referredVolts, type ChargerLevels, type StageSpan } from './levels';
import { findPlateau } from './plateau';
import { signalOf, smoothed } from './signal';

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

/** A source without current for so long is off, or held, s. */
const quietS = 300;
/** Least time at a level to believe it, s. */
const leastPlateauS = 480;
/** A voltage below recharge for so long begins a new charge, s. */
const rechargeS = 45;
/** A float voltage must stand for so long where nothing else says that absorb ended, s. */
const settledS = 900;

const code = Object.fromEntries(stages.map((s, i) => [s, i])) as Record<Stage, number>;

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
  return {
    time: pick(log.time, (size) => new Float64Array(size)),
    offsetMinutes: log.offsetMinutes,
    bankVolts: pick(log.bankVolts, (size) => new Float32Array(size)),
    ...(bankAmps ? { bankAmps } : {}),
    ...(batteryC ? { batteryC } : {}),
    chargers: { [charger]: { ...(amps ? { amps } : {}), ...(arrayVolts ? { arrayVolts } : {}) } },
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
  const volts = allReferred(log, levels);
  const none: Inferred = {
    spans: [],
    absorbV: levels.absorbV,
    absorbSeen: false,
    floatV: levels.floatV,
    floatSeen: false,
    toleranceV: levels.toleranceV,
    slope: levels.slope,
  };
  const amps = chargerAmps(log, charger);
  const n = log.time.length;
  if (!amps || n < 2) return none;
  const { time } = log;
  const { zeroA } = levels;
  const arrayV = log.chargers[charger]?.arrayVolts;
  const longest = longestStep(report);
  const signal = signalOf(log.bankVolts);
  const noise = Math.min(signal.noiseV, levels.toleranceV / 2);
  // Without a temperature the compensation cannot be taken off: the levels drift with the day, and lie as much as twenty degrees away.
  const blind = levels.slope !== 0 && !log.batteryC;
  const adrift = blind ? Math.abs(levels.slope) * 20 : 0;
  const tolerance = Math.max(levels.toleranceV, 1.05 * signal.stepV + 2 * noise) + (blind ? Math.abs(levels.slope) * 3 : 0);
  const calm = smoothed(time, volts, Math.min(60, 2 * report.intervalSeconds), longest);
  const on = (i: number): boolean => (amps[i] ?? 0) > zeroA;

  // The level held in absorb.
  const wide = levels.absorbV * 0.033;
  const top = findPlateau(
    { time, volts, counts: on, longest },
    levels.absorbV - wide - adrift / 2,
    levels.absorbV + wide + adrift,
    levels.absorbV,
    tolerance,
    0.1,
    signal.stepV,
  );
  const nearSetting = top !== null && Math.abs(top.volts - levels.absorbV) <= 1.5 * tolerance;
  const isFloat = top !== null && levels.floatV !== null && Math.abs(top.volts - levels.floatV) < 0.6 * Math.abs(top.volts - levels.absorbV);
  const absorbSeen =
    top !== null &&
    !isFloat &&
    top.seconds >= leastPlateauS &&
    (nearSetting
      ? top.sharpness > 2 || regulates(log, amps, volts, top.volts, tolerance, longest, 300, 0.15)
      : top.sharpness > 1 && regulates(log, amps, volts, top.volts, Math.max(levels.toleranceV, 0.8 * signal.stepV), longest, 600, 0.25));
  const stops = absorbSeen ? null : stoppedAt(time, calm, amps, zeroA, levels, tolerance, wide + adrift);
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
  // Reached finely, kept coarsely: a slow rise is bulk until it arrives.
  const fine = Math.min(tolerance * 0.8, Math.max(0.4 * levels.toleranceV, 0.6 * signal.stepV, 1.2 * noise));
  const reached = (i: number): boolean => on(i) && ((calm[i] ?? NaN) >= absorbV - fine || (volts[i] ?? NaN) >= absorbV - fine / 2);
  const at = (i: number): boolean => (volts[i] ?? NaN) >= absorbV - tolerance;

  // The level held in float: looked for below absorb, after it.
  let floatV = levels.floatV;
  let floatSeen = false;
  if (levels.floatV !== null && absorbV - levels.floatV > 2 * tolerance) {
    const after = new Uint8Array(n);
    // Forwards: absorb was there on this day. Backwards: it does not come again, so that a cloud in absorb is not taken for float.
    for (const way of [1, -1]) {
      let since = way === 1 ? 0 : 1;
      let quiet = 0;
      for (let i = way === 1 ? 0 : n - 1; i >= 0 && i < n; i += way) {
        if (on(i)) {
          quiet = 0;
          if (at(i)) since = way === 1 ? 1 : 0;
        } else {
          quiet += claimedSeconds(time, i, longest);
          if (quiet > 7200) since = way === 1 ? 0 : 1;
        }
        after[i] = way === 1 ? since : (after[i] ?? 0) & since;
      }
    }
    const span = levels.floatV * 0.03;
    const held = findPlateau(
      { time, volts, counts: (i) => after[i] === 1 && on(i) && (volts[i] ?? NaN) < absorbV - 1.5 * tolerance, longest },
      levels.floatV - span,
      Math.min(levels.floatV + span, absorbV - 1.5 * tolerance),
      levels.floatV,
      tolerance,
      0.6,
      signal.stepV,
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
  } else if (adrift > 0 && absorbSeen && levels.floatV !== null) floatV = levels.floatV + absorbV - levels.absorbV;
  const drift =
    floatSeen && levels.floatV !== null && floatV !== null ? Math.min(0, floatV - levels.floatV) : adrift > 0 && absorbSeen ? absorbV - levels.absorbV : 0;
  const rechargeV = levels.rechargeV === null ? null : levels.rechargeV + drift;

  // Looked up from behind: the next sample at the level, the next that is below recharge for long, the next with current.
  const nextAt = new Int32Array(n + 1).fill(n);
  const nextLow = new Int32Array(n + 1).fill(n);
  const nextOn = new Int32Array(n + 1).fill(n);
  let lowFor = 0;
  let mostA = 0;
  for (let i = n - 1; i >= 0; i--) {
    const step = claimedSeconds(time, i + 1 < n ? i + 1 : i, longest);
    nextAt[i] = reached(i) ? i : (nextAt[i + 1] ?? n);
    nextOn[i] = on(i) ? i : (nextOn[i + 1] ?? n);
    const low = rechargeV !== null && (calm[i] ?? NaN) < rechargeV;
    lowFor = low ? lowFor + step : 0;
    nextLow[i] = low && (lowFor >= rechargeS || report.intervalSeconds > rechargeS) ? i : (nextLow[i + 1] ?? n);
    mostA = Math.max(mostA, amps[i] ?? 0);
  }
  const strong = Math.max(3 * zeroA, 0.06 * mostA);
  const sunAt = (i: number): boolean | null => (arrayV === undefined ? null : canCharge(arrayV[i], log.bankVolts[i] ?? 0));
  const floats = levels.floatV !== null && floatV !== null && absorbV - floatV > 1.5 * tolerance;
  const floor = (floatV ?? absorbV) - tolerance;

  /** How a stretch without current, from `a` up to where it flows again, is to be told. */
  function silence(a: number, before: Stage, done: boolean): { until: number; parts: readonly { from: number; stage: Stage }[]; stopped?: boolean } {
    const b = nextOn[a] ?? n;
    const seconds = (time[Math.min(b, n - 1)] ?? 0) - (time[Math.max(0, a - 1)] ?? 0);
    const was = before === 'absorb' || before === 'float' || before === 'rest';
    // A source at its full height a moment ago, and nothing now, while the voltage stands: it was told to stop.
    const abrupt = (amps?.[a - 1] ?? 0) > strong || (amps?.[a - 2] ?? 0) > 1.5 * strong;
    if (seconds <= Math.max(quietS, 2.5 * report.intervalSeconds) && b < n && (before !== 'absorb' || !abrupt))
      return { until: b, parts: [{ from: a, stage: before }] };
    let below = a;
    while (below < b && (calm[below] ?? NaN) >= floor) below++;
    const resumes = below >= b && b < n && (calm[b] ?? 0) < absorbV - tolerance;
    const chill = levels.cutoffC !== null && (log.batteryC?.[a] ?? 99) <= levels.cutoffC + 1;
    const stands = (time[Math.min(below, n - 1)] ?? 0) - (time[a] ?? 0) > 1800;
    const stopped =
      before === 'bulk' &&
      abrupt &&
      (resumes || stands) &&
      !chill &&
      Math.max(volts[a - 1] ?? 0, volts[a] ?? 0) > floor + 3 * tolerance &&
      (!resumes || (amps?.[b] ?? 0) < strong * 2);
    const told = stopped || (floats && was && (before === 'float' || done || resumes || (abrupt && below > a + 1)));
    // With the source there, a float would come back where the voltage falls below it: where nothing comes back it rests.
    const rests =
      was && below < b && sunAt(below) === true && (time[Math.min(b, n - 1)] ?? 0) - (time[below] ?? 0) > 1200 && sunAt(Math.floor((below + b) / 2)) === true;
    const parts: { from: number; stage: Stage }[] = [];
    const put = (from: number, stage: Stage): void => {
      if (parts.at(-1)?.stage !== stage) parts.push({ from, stage });
    };
    // A source that is gone within ten minutes was going: dusk, an engine that runs down.
    let gone = a;
    while (gone < b && sunAt(gone) === true) gone++;
    if (before !== 'off' && before !== 'cold' && sunAt(a) === true && gone < b && (time[gone] ?? 0) - (time[a] ?? 0) < 600)
      return { until: b, parts: [{ from: a, stage: 'off' }] };
    // A night in between makes a new day of what comes after it.
    let sameDay = true;
    for (let k = a; k < b; k++) {
      const sun = sunAt(k);
      if (sun === false) sameDay = false;
      const v = calm[k] ?? NaN;
      const celsius = log.batteryC?.[k];
      const chilled = levels.cutoffC !== null && celsius !== undefined && celsius <= levels.cutoffC + (before === 'off' || before === 'cold' ? 3 : 1);
      if (sun === true && chilled && !(was && sameDay)) put(k, 'cold');
      else if (!sameDay) put(k, 'off');
      // Another charger holds the voltage: one that stopped at once was done, one that was pushed out slowly still waits.
      else if (sun !== false && before === 'absorb' && !done && v >= absorbV - tolerance) put(k, abrupt && floats ? 'float' : 'absorb');
      else if (sun === true && (was || stopped) && (before !== 'absorb' || done || told || v < absorbV - tolerance))
        put(k, !rests && floats && v >= floor && parts.at(-1)?.stage !== 'rest' ? 'float' : 'rest');
      else if (sun === null && told && k < below) put(k, 'float');
      else put(k, 'off');
    }
    return { until: b, parts, stopped };
  }

  /** Of a stretch below the level: how long float stood, and how long strong current flowed well above float, which no float does, s. */
  function below(from: number, to: number): { stands: number; against: number } {
    if (floatV === null) return { stands: 0, against: 0 };
    let stand = 0;
    let best = 0;
    let against = 0;
    let lowV = 0;
    let highV = 0;
    for (let k = from; k < to; k++) {
      const v = calm[k] ?? NaN;
      const step = claimedSeconds(time, k, longest);
      if (v > floatV + 1.6 * tolerance && (amps?.[k] ?? 0) > strong) against += step;
      if (!(Math.abs(v - floatV) <= tolerance)) {
        stand = 0;
        continue;
      }
      if (stand === 0) lowV = highV = v;
      lowV = Math.min(lowV, v);
      highV = Math.max(highV, v);
      stand = highV - lowV > tolerance + signal.stepV ? 0 : stand + step;
      best = Math.max(best, stand);
    }
    return { stands: best, against };
  }

  const found = new Uint8Array(n);
  let stage = 'off' as Stage;
  let atVoltage = 0;
  let absorbFrom = 0;
  let done = false;
  let taperFor = 0;
  /** Under a cloud in absorb: decided until this sample. */
  let heldUntil = -1;
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
      const { until, parts, stopped } = silence(i, stage, done);
      // What ends in full current at a standing voltage was absorb, whatever its level.
      if (stopped) for (let k = i - 1; k >= 0 && found[k] === code.bulk && (calm[k] ?? 0) >= (calm[i - 1] ?? 0) - tolerance; k--) found[k] = code.absorb;
      parts.forEach((p, k) => found.fill(code[p.stage], p.from, parts[k + 1]?.from ?? until));
      const last = parts.at(-1)?.stage ?? 'off';
      if (last === 'off' || last === 'cold') begin(last, now);
      else {
        if (last === 'float' || last === 'rest') done = true;
        stage = last;
      }
      i = until - 1;
      continue;
    }
    const v = calm[i] ?? NaN;
    if (stage === 'off' || stage === 'cold') {
      begin(reached(i) ? 'absorb' : 'bulk', now);
      // A log that begins in the middle: float where the voltage stands there, with no more current than that takes, and never goes up to absorb.
      if ((stage as Stage) === 'bulk' && i < 3 && floats) {
        const end = Math.min(nextAt[i] ?? n, endOfDay(i));
        const { stands, against } = below(i, end);
        if ((nextAt[i] ?? n) >= end && stands >= settledS && against < 60) {
          stage = 'float';
          done = true;
        }
      }
    } else if (stage === 'rest') {
      if (rechargeV !== null && v < rechargeV + tolerance) begin('bulk', now);
      else if (reached(i)) begin('absorb', now);
      else stage = (amps[i] ?? 0) > strong ? 'bulk' : 'float';
    } else if (stage === 'bulk') {
      if (reached(i)) begin('absorb', now);
    } else if (stage === 'absorb') {
      if (at(i)) {
        atVoltage += step;
        const small = levels.taperA !== null && levels.taperA > 0 && (amps[i] ?? 0) <= Math.max(levels.taperA * 1.1, zeroA * 1.5);
        taperFor = small ? taperFor + Math.max(step, 1) : 0;
        done ||= (levels.absorbSeconds !== null && atVoltage >= levels.absorbSeconds * 0.93) || taperFor >= Math.min(20, report.intervalSeconds);
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
      if ((nextLow[i] ?? n) === i) begin('bulk', now);
      else if (reached(i)) {
        begin('absorb', now);
        // The rise from float to absorb was bulk.
        for (let k = i - 1; k >= 0 && found[k] === code.float && (calm[k] ?? 0) > (floatV ?? 0) + tolerance && on(k); k--) found[k] = code.bulk;
      }
    }
    found[i] = code[stage];
  }

  /** Where the source is gone for good: the next stretch of ten minutes without current and below float. */
  function endOfDay(i: number): number {
    let k = i;
    while (k < n) {
      while (k < n && on(k)) k++;
      const b = nextOn[k] ?? n;
      if (k >= n) return n;
      const dead = sunAt(k) === false || (calm[k] ?? 0) < floor || (calm[Math.min(b, n - 1)] ?? 0) < floor;
      if (dead && (time[Math.min(b, n - 1)] ?? 0) - (time[k] ?? 0) >= 600) return k;
      k = b;
    }
    return n;
  }
  markEqualise(found, calm, time, levels, tolerance, longest, on);
  return {
    spans: spansOf(log, longest, charger, found, amps, volts, levels, absorbV, floatV, tolerance),
    absorbV,
    absorbSeen,
    floatV,
    floatSeen,
    toleranceV: tolerance,
    slope: levels.slope,
  };
}

/** Where strong current stopped at once while the voltage stood, and then sank without current: where absorb ended. The median of such; null without one. */
function stoppedAt(
  time: Float64Array,
  calm: Float32Array,
  amps: Float32Array,
  zeroA: number,
  levels: ChargerLevels,
  tolerance: number,
  wide: number,
): number | null {
  if (levels.floatV === null) return null;
  let most = 0;
  for (const a of amps) if (a > most) most = a;
  const stays = (from: number, level: number): boolean => {
    let k = from;
    for (; k < time.length && (time[k] ?? 0) - (time[from] ?? 0) < 900; k++) if (k > from && Math.abs((calm[k] ?? NaN) - level) > tolerance) return false;
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
    if ((calm[k] ?? 0) < levels.floatV - 2 * tolerance || (amps[k] ?? 0) > 0.3 * most || (calm[k] ?? 0) > v - tolerance) continue;
    found.push(v);
  }
  found.sort((a, b) => a - b);
  return found[Math.floor(found.length / 2)] ?? null;
}

/** Whether the current falls by a part of itself while the voltage stands at the level for so long: something regulates there. */
function regulates(
  log: Log,
  amps: Float32Array,
  volts: Float32Array,
  level: number,
  tolerance: number,
  longest: number,
  leastS: number,
  part: number,
): boolean {
  const { time } = log;
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

/** Ten minutes well above absorb, near the equalise level, are equalise. */
function markEqualise(
  found: Uint8Array,
  calm: Float32Array,
  time: Float64Array,
  levels: ChargerLevels,
  tolerance: number,
  longest: number,
  on: (i: number) => boolean,
): void {
  const { equaliseV, absorbV } = levels;
  if (equaliseV === null || equaliseV - absorbV < 3 * tolerance) return;
  let from = -1;
  let seconds = 0;
  for (let i = 0; i <= found.length; i++) {
    if (i < found.length && on(i) && (calm[i] ?? 0) >= equaliseV - tolerance) {
      if (from < 0) {
        from = i;
        seconds = 0;
      }
      seconds += claimedSeconds(time, i, longest);
    } else if (from >= 0) {
      if (seconds >= 600) found.fill(code.equalise, from, i);
      from = -1;
    }
  }
}

function spansOf(
  log: Log,
  longest: number,
  charger: string,
  found: Uint8Array,
  amps: Float32Array,
  volts: Float32Array,
  levels: ChargerLevels,
  absorbV: number,
  floatV: number | null,
  tolerance: number,
): StageSpan[] {
  const spans: StageSpan[] = [];
  const { time } = log;
  const { zeroA } = levels;
  let first = 0;
  for (let i = 1; i <= found.length; i++) {
    if (i < found.length && found[i] === found[first]) continue;
    const stage = stages[found[first] ?? 0] ?? 'off';
    let fits = 0;
    let atVoltageSeconds = 0;
    for (let k = first; k < i; k++) {
      const v = volts[k] ?? NaN;
      const on = (amps[k] ?? 0) > zeroA;
      const at = v >= absorbV - tolerance;
      if (on && at) atVoltageSeconds += claimedSeconds(time, k, longest);
      if (stage === 'absorb') fits += on && at ? 1 : 0.4;
      else if (stage === 'float') fits += floatV !== null && Math.abs(v - floatV) <= tolerance ? 1 : on ? 0.4 : 0.7;
      else if (stage === 'bulk') fits += on && !at ? 1 : 0.3;
      else if (stage === 'equalise') fits += on ? 1 : 0.3;
      else fits += on ? 0.3 : 0.95;
    }
    spans.push({
      charger,
      stage,
      from: time[first] ?? 0,
      to: time[Math.min(i, found.length - 1)] ?? 0,
      first,
      last: i - 1,
      confidence: fits / (i - first),
      atVoltageSeconds: stage === 'absorb' ? atVoltageSeconds : 0,
    });
    first = i;
  }
  return spans;
}

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
