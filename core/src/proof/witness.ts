import { formatNumber, formatQuantity } from '../quantity';
import { cardOf, type Plan } from '../settings';
import type { CardKind } from '../card';
import { stageCode } from '../charger';
import { claimedSeconds, longestStep, type Log, type LogReport } from './log';
import { chargerAmps, referredVolts, signalOf, type ChargerLevels } from './inference';

/**
 * What a log shows besides the thing itself, so that it would have looked different had the thing been wrong. Without one nothing is proved:
 * a quiet day contains no failure either.
 */

/** What the witnesses look at. */
export interface Scenery {
  readonly plan: Plan;
  readonly log: Log;
  readonly report: LogReport;
}

/** The least time at a level in one piece that can show regulation, s. */
const leastStretchS = 300;
/** The same beside other sources, where a moment is easily somebody else's work, s. */
const leastSharedS = 600;
/** The current must move by this part of itself, and stand no higher while the voltage does. */
const leastPart = 0.15;
/** What one of several sources must come down to before its own fall counts as its own doing. */
const fallenTo = 0.6;
/** An array this far above the voltage at which it works is held back by its charger. */
const throttledFrom = 1.06;

interface Stretch {
  readonly volts: number[];
  readonly amps: number[];
  readonly others: number[];
  readonly array: number[];
  seconds: number;
}

const quantile = (values: readonly number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * part))] ?? NaN;
const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/** How much the voltage moves when the current goes from the bottom to the top of its range, V, by least squares: positive where both rise together. */
function riseWithCurrent(volts: readonly number[], amps: readonly number[], rangeA: number): number {
  const [mv, ma] = [mean(volts), mean(amps)];
  let sxy = 0;
  let sxx = 0;
  for (let i = 0; i < amps.length; i++) {
    sxy += ((amps[i] ?? 0) - ma) * ((volts[i] ?? 0) - mv);
    sxx += ((amps[i] ?? 0) - ma) ** 2;
  }
  return sxx === 0 ? 0 : (sxy / sxx) * rangeA;
}

/** The array volts at which a charger works when nothing holds it back: the median while it gives at least half of its most, below absorb. */
function workingArrayVolts({ log }: Scenery, charger: string, levels: ChargerLevels, below: number): number | null {
  const array = log.chargers[charger]?.arrayVolts;
  const amps = chargerAmps(log, charger);
  if (!array || !amps) return null;
  let most = 0;
  for (const a of amps) if (a > most) most = a;
  const values: number[] = [];
  const every = Math.max(1, Math.floor(amps.length / 20_000));
  for (let i = 0; i < amps.length; i += every)
    if ((amps[i] ?? 0) >= most / 2 && referredVolts(log, levels, i) < below && Number.isFinite(array[i])) values.push(array[i] ?? 0);
  return values.length < 5 ? null : quantile(values, 0.5);
}

/**
 * Regulation: the voltage stands while the charger's own current moves, or its array stands above the volts at which it works. A hump in which volts
 * and amps rise and fall together is the sun's, and one bus voltage is not the work of every charger that happens to be on: beside others a charger's
 * current has to come down by itself.
 *
 * @param from first sample looked at
 * @param to last sample looked at
 * @param levelV the level, V at the reference temperature
 * @param options `slope`: how the level moves with battery temperature, V/°C; `net`: the bank’s current instead of the charger’s own, where it is asked
 *   whether the bank was filled and not by whom
 * @returns in words, or null where nothing shows it
 */
export function regulation(
  e: Scenery,
  charger: string,
  levels: ChargerLevels,
  from: number,
  to: number,
  levelV: number,
  { slope = levels.slope, net }: { readonly slope?: number; readonly net?: Float32Array | undefined } = {},
): string | null {
  const { log } = e;
  const amps = chargerAmps(log, charger);
  if (!amps) return null;
  const referred = { ...levels, slope };
  const { stepV, noiseV } = signalOf(log.bankVolts);
  const tolerance = Math.max(levels.toleranceV, 1.05 * stepV + 2 * Math.min(noiseV, levels.toleranceV / 2));
  const longest = longestStep(e.report);
  const array = log.chargers[charger]?.arrayVolts;
  const others = net ? [] : Object.entries(log.chargers).flatMap(([id, c]) => (id !== charger && c.amps ? [c.amps] : []));
  const stretches: Stretch[] = [];
  let stretch: Stretch | null = null;
  let away = 0;
  for (let i = from; i <= to; i++) {
    const step = claimedSeconds(log.time, i, longest);
    const v = referredVolts(log, referred, i);
    const at = (amps[i] ?? 0) > levels.zeroA && Math.abs(v - levelV) <= tolerance && (net === undefined || Number.isFinite(net[i]));
    if (!at) {
      away += step;
      if (away > Math.max(60, 2 * e.report.intervalSeconds) || step === 0) stretch = null;
      continue;
    }
    away = 0;
    if (!stretch) {
      stretch = { volts: [], amps: [], others: [], array: [], seconds: 0 };
      stretches.push(stretch);
    }
    stretch.volts.push(v);
    stretch.amps.push((net ?? amps)[i] ?? 0);
    stretch.others.push(others.reduce((sum, o) => sum + Math.max(0, o[i] ?? 0), 0));
    if (array && Number.isFinite(array[i])) stretch.array.push(array[i] ?? 0);
    stretch.seconds += step;
  }
  const works = workingArrayVolts(e, charger, levels, levels.absorbV - 2 * tolerance);
  for (const s of stretches.sort((a, b) => b.seconds - a.seconds)) {
    if (s.seconds < leastStretchS || s.volts.length < 4) continue;
    const [low, high] = [quantile(s.amps, 0.1), quantile(s.amps, 0.9)];
    const moved = high - low;
    const stands = riseWithCurrent(s.volts, s.amps, moved) <= Math.max(0.25 * levels.toleranceV, (3 * noiseV) / Math.sqrt(s.volts.length));
    const throttled = works !== null && s.array.length > 3 ? quantile(s.array, 0.5) : NaN;
    if (!net && works !== null && throttled >= throttledFrom * works && stands)
      return `Its array stood at ${formatNumber(throttled, 0)} V, above the ${formatNumber(works, 0)} V at which it works: the charger held it back.`;
    if (!stands || moved < Math.max(leastPart * high, 2 * levels.zeroA)) continue;
    const third = Math.floor(s.amps.length / 3);
    const [begun, middle] = [mean(s.amps.slice(0, Math.max(1, third))), mean(s.amps.slice(third, Math.max(third + 1, 2 * third)))];
    // Coarse steps hide a hump: then the current must not rise on the way.
    if (stepV > 0.25 * levels.toleranceV && middle > 1.03 * begun) continue;
    if (quantile(s.others, 0.5) > levels.zeroA && (s.seconds < leastSharedS || !fellByItself(s))) continue;
    return `The voltage stood while ${net ? 'the bank’s' : 'its'} current moved between ${formatQuantity(low, 'A', 1)} and ${formatQuantity(high, 'A', 1)}.`;
  }
  return null;
}

/** Whether a current came down to a part of what it was without the others taking its place. */
function fellByItself({ amps, others }: Stretch): boolean {
  const part = Math.max(1, Math.floor(amps.length / 5));
  const [first, last] = [mean(amps.slice(0, part)), mean(amps.slice(-part))];
  const [before, after] = [mean(others.slice(0, part)), mean(others.slice(-part))];
  return last <= fallenTo * first && after - before <= 0.5 * (first - last);
}

const solar: readonly CardKind[] = ['solarMppt', 'solarPwm'];
const driven: readonly CardKind[] = ['alternator', 'dcdc'];

/** Light that moves any charger, W/m². */
const leastLight = 100;
/** Before and after a charger gives current it could have given some, s. */
const likeLightS = 900;

/** Where a source could have given current, sample by sample, and what shows it. */
export interface Readiness {
  readonly could: Uint8Array;
  readonly by: ReadonlySet<string>;
}

/**
 * Whether a charger could have given current although it gave none: light was measured, an engine turned, a sister on the same sky or engine gave
 * current, the charger itself gave some minutes before or after, or it reports that it holds back for the temperature. Open-circuit array volts
 * show nothing: they stand as high under snow and behind a dead isolator.
 */
export function readiness({ plan, log, report }: Scenery, charger: string, zeroA: number): Readiness {
  const n = log.time.length;
  const could = new Uint8Array(n);
  const by = new Set<string>();
  const kindOf = (id: string): CardKind | undefined => {
    const device = plan.input.system.chargers.find((c) => c.id === id);
    return device && cardOf(plan.input, device)?.kind;
  };
  const kind = kindOf(charger);
  const mark = (words: string, at: (i: number) => boolean): void => {
    let any = false;
    for (let i = 0; i < n; i++)
      if (at(i)) {
        could[i] = 1;
        any = true;
      }
    if (any) by.add(words);
  };
  const { irradiance, engine, chargers } = log;
  if (kind && solar.includes(kind) && irradiance) mark('the light on the array was measured', (i) => (irradiance[i] ?? 0) >= leastLight);
  if (kind && driven.includes(kind) && engine) mark('the engine was turning', (i) => (engine[i] ?? 0) > 0);
  const family = kind && [solar, driven].find((f) => f.includes(kind));
  if (family)
    for (const { id, name } of plan.input.system.chargers) {
      const sister = id === charger ? undefined : chargers[id]?.amps;
      const theirs = kindOf(id);
      if (sister && theirs && family.includes(theirs)) mark(`${name} gave current`, (i) => (sister[i] ?? 0) > 3 * zeroA);
    }
  const stage = chargers[charger]?.stage;
  if (stage) mark('the charger itself reported that it held back for the temperature', (i) => stage[i] === stageCode.cold || stage[i] === stageCode.hot);
  const amps = chargerAmps(log, charger);
  if (amps) {
    const near = new Uint8Array(n);
    const longest = longestStep(report);
    for (const way of [1, -1]) {
      let since = Infinity;
      for (let i = way === 1 ? 0 : n - 1; i >= 0 && i < n; i += way) {
        const before = i - way;
        const step = before < 0 || before >= n ? 0 : Math.abs((log.time[i] ?? 0) - (log.time[before] ?? 0));
        since = (amps[i] ?? 0) > 3 * zeroA ? 0 : step > longest ? Infinity : since + step;
        if (since <= likeLightS) near[i] = 1;
      }
    }
    mark('it gave current itself within a quarter of an hour', (i) => near[i] === 1);
  }
  return { could, by };
}

/** What shows that a charger had its source, in a sentence. */
export function readyWords({ by }: Readiness): string {
  const words = [...by];
  const text = words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}` : (words[0] ?? '');
  return `Its source was there: ${text}.`;
}
