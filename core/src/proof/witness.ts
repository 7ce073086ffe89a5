import { mean } from 'simple-statistics';
import { family } from '../card';
import { stageCode } from '../charger';
import { formatNumber, formatQuantity } from '../quantity';
import { zeroAmps } from '../requirements';
import { chargersWithCards, type Plan } from '../settings';
import { claimedSeconds, longestStep, type Log, type LogReport } from './log';
import {
  chargerAmps,
  drivenPart,
  drivenVolts,
  leastLight,
  levelTolerance,
  otherAmps,
  referredVolts,
  signalOf,
  type ChargerLevels,
  type Signal,
} from './inference';
import { median, mostly, riseOver } from './statistics';

/**
 * What a log shows besides the thing itself, so that it would have looked different had the thing been wrong. Without one nothing is proved:
 * a quiet day contains no failure either.
 */

/** What the witnesses look at. */
interface Scenery {
  readonly plan: Plan;
  readonly log: Log;
  readonly report: LogReport;
  readonly levels: ReadonlyMap<string, ChargerLevels>;
}

/** What is asked of a stretch of a log. */
interface Asked {
  readonly charger: string;
  /** First and last sample looked at. */
  readonly from: number;
  readonly to: number;
  /** The level, V at the reference temperature, and how it moves with battery temperature where not as programmed, V/°C. */
  readonly levelV: number;
  readonly slope?: number;
  /** The bank’s current instead of the charger’s own, where it is asked whether the bank was filled and not by whom. */
  readonly net?: Float32Array;
  /** Beside others nothing counts but an array that is held back: a fall of its own may be the other’s doing. */
  readonly alone?: boolean;
}

/** The witnesses of one log. What several judges ask is worked out once. */
export interface Witnesses {
  /** Regulation in words, or null where nothing shows it. */
  readonly regulation: (asked: Asked) => string | null;
  /** Where a charger could have given current. */
  readonly readiness: (charger: string) => Readiness;
}

/** The witnesses of a log. */
export function witnessesOf(e: Scenery): Witnesses {
  const signal = signalOf(e.log.bankVolts);
  const regulated = new Map<string, string | null>();
  const atWork = once((charger: string) => chargerAtWork(e, signal, charger));
  return {
    regulation: (asked) => {
      const { charger, from, to, levelV, slope, net, alone } = asked;
      const key = [charger, from, to, levelV, slope, net !== undefined, alone].join(' ');
      let found = regulated.get(key);
      if (found === undefined) regulated.set(key, (found = regulation(e, signal, asked, atWork(charger))));
      return found;
    },
    readiness: once((charger: string) => readiness(e, charger)),
  };
}

/** Work that is done once for each key. */
function once<K, V>(work: (key: K) => V): (key: K) => V {
  const done = new Map<K, { readonly value: V }>();
  return (key) => {
    let found = done.get(key);
    if (!found) done.set(key, (found = { value: work(key) }));
    return found.value;
  };
}

/** The least time at a level in one piece that can show regulation, s. */
const leastStretchS = 300;
/** The same beside other sources, where a moment is easily somebody else's work, s. */
const leastSharedS = 600;
/** And in so many samples: of a few, any may be the other's moment. */
const leastSharedSamples = 12;
/** The current must move by this part of itself, and stand no higher while the voltage does. */
const leastPart = 0.15;
/** What one of several sources must come down to before its own fall counts as its own doing. */
const fallenTo = 0.6;
/** An array this far above the voltage at which it works is held back by its charger. */
const throttledFrom = 1.06;
/** What gives nearly the most it ever gave may be held back by its own limit of current, and not by its voltage. */
const belowItsMost = 0.97;

interface Stretch {
  readonly volts: number[];
  readonly amps: number[];
  readonly others: number[];
  readonly array: number[];
  seconds: number;
  samples: number;
  /** Of those kept, how many have another source giving current. */
  beside: number;
}

/** A charger over the whole log: the most it gave, A, and the array volts at which it works when nothing holds it back; null where the log does not tell. */
interface AtWork {
  readonly mostA: number;
  readonly arrayV: number | null;
}

/**
 * The array volts are the median while it gives at least half of its most, below absorb. At its most its own limit may hold it back already.
 */
function chargerAtWork({ log, levels: all }: Scenery, signal: Signal, charger: string): AtWork {
  const array = log.chargers[charger]?.arrayVolts;
  const amps = chargerAmps(log, charger);
  const levels = all.get(charger);
  const mostA = amps?.reduce((most, a) => (a > most ? a : most), 0) ?? 0;
  if (!array || !amps || !levels) return { mostA, arrayV: null };
  const below = levels.absorbV - 2 * levelTolerance(signal, levels.toleranceV);
  const values: number[] = [];
  const every = Math.max(1, Math.floor(amps.length / 20_000));
  for (let i = 0; i < amps.length; i += every)
    if ((amps[i] ?? 0) >= mostA / 2 && (amps[i] ?? 0) < belowItsMost * mostA && referredVolts(log, levels, i) < below && Number.isFinite(array[i]))
      values.push(array[i] ?? 0);
  return { mostA, arrayV: values.length < 5 ? null : median(values) };
}

/**
 * Regulation: the voltage stands while the charger's own current moves, or its array stands above the volts at which it works. A hump in which volts
 * and amps rise and fall together is the sun's, and one bus voltage is not the work of every charger that happens to be on: beside others a charger's
 * current has to come down by itself.
 */
function regulation(e: Scenery, signal: Signal, { charger, from, to, levelV, slope, net, alone }: Asked, { mostA, arrayV: works }: AtWork): string | null {
  const { log } = e;
  const levels = e.levels.get(charger);
  const amps = chargerAmps(log, charger);
  if (!levels || !amps) return null;
  const referred = { ...levels, slope: slope ?? levels.slope };
  const { stepV, noiseV } = signal;
  const tolerance = levelTolerance(signal, levels.toleranceV);
  const longest = longestStep(e.report);
  const array = log.chargers[charger]?.arrayVolts;
  const others = net ? [] : otherAmps(log, charger);
  // A hundred thousand samples of one stretch tell no more than a tenth of them.
  const every = Math.max(1, Math.floor((to - from + 1) / 20_000));
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
      stretch = { volts: [], amps: [], others: [], array: [], seconds: 0, samples: 0, beside: 0 };
      stretches.push(stretch);
    }
    stretch.seconds += step;
    if (stretch.samples++ % every !== 0) continue;
    stretch.volts.push(v);
    stretch.amps.push((net ?? amps)[i] ?? 0);
    let theirs = 0;
    for (const o of others) theirs += Math.max(0, o[i] ?? 0);
    stretch.others.push(theirs);
    if (theirs > levels.zeroA) stretch.beside++;
    if (array && Number.isFinite(array[i]) && (amps[i] ?? 0) < belowItsMost * mostA) stretch.array.push(array[i] ?? 0);
  }
  for (const s of stretches.sort((a, b) => b.seconds - a.seconds)) {
    if (s.seconds < leastStretchS || s.volts.length < 4) continue;
    const [low, high] = mostly(s.amps);
    const moved = high - low;
    const stands = moved === 0 || riseOver(s.amps, s.volts, moved) <= Math.max(0.25 * levels.toleranceV, (3 * noiseV) / Math.sqrt(s.samples));
    const throttled = works !== null && s.array.length > 3 ? median(s.array) : NaN;
    if (!net && works !== null && throttled >= throttledFrom * works && stands)
      return `Its array was at ${formatNumber(throttled, 0)} V, above the ${formatNumber(works, 0)} V at which it works: the charger held it back.`;
    if (!stands || moved < Math.max(leastPart * high, 2 * levels.zeroA)) continue;
    const third = Math.floor(s.amps.length / 3);
    const [begun, middle] = [mean(s.amps.slice(0, Math.max(1, third))), mean(s.amps.slice(third, Math.max(third + 1, 2 * third)))];
    // Coarse steps hide a hump: then the current must not rise on the way.
    if (stepV > 0.25 * levels.toleranceV && middle > 1.03 * begun) continue;
    if (2 * s.beside > s.volts.length && (alone || s.seconds < leastSharedS || s.volts.length < leastSharedSamples || !fellByItself(s))) continue;
    return `The voltage stayed level while ${net ? 'the bank’s' : 'its'} current moved between ${formatQuantity(low, 'A', 1)} and ${formatQuantity(high, 'A', 1)}.`;
  }
  return null;
}

/** A stretch is looked at in so many parts. */
const partsOfStretch = 5;

/** Whether a current came down to a part of what it was, and over no part of the way the others took its place: what they take up is a fading light. */
function fellByItself({ amps, others }: Stretch): boolean {
  const size = amps.length / partsOfStretch;
  const means = (of: readonly number[]): readonly number[] =>
    Array.from({ length: partsOfStretch }, (_, k) => mean(of.slice(Math.floor(k * size), Math.max(Math.floor(k * size) + 1, Math.floor((k + 1) * size)))));
  const [own, theirs] = [means(amps), means(others)];
  const [first, last] = [own[0] ?? 0, own.at(-1) ?? 0];
  if (last > fallenTo * first) return false;
  return own.every((a, i) => own.slice(i + 1).every((b, k) => a - b < leastPart * first || (theirs[i + 1 + k] ?? 0) - (theirs[i] ?? 0) <= 0.5 * (a - b)));
}

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
function readiness({ plan, log, report }: Scenery, charger: string): Readiness {
  const n = log.time.length;
  const could = new Uint8Array(n);
  const by = new Set<string>();
  const sources = chargersWithCards(plan.input);
  const card = sources.find((s) => s.charger.id === charger)?.card;
  if (!card) return { could, by };
  const kin = family(card.kind);
  const clearlyA = 3 * zeroAmps(card);
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
  if (kin === 'solar' && irradiance) mark('the light on the array was measured', (i) => (irradiance[i] ?? 0) >= leastLight);
  if (kin === 'driven' && engine) mark('the engine was turning', (i) => (engine[i] ?? 0) > 0);
  for (const other of sources) {
    const sister = other.charger.id === charger ? undefined : chargers[other.charger.id]?.amps;
    if (sister && kin !== null && family(other.card.kind) === kin) mark(`${other.charger.name} gave current`, (i) => (sister[i] ?? 0) > clearlyA);
  }
  const input = kin === 'driven' ? drivenVolts(log, charger, clearlyA) : null;
  const inputV = chargers[charger]?.arrayVolts;
  if (input !== null && inputV) mark(`its input was at the ${formatNumber(input, 1)} V at which it works`, (i) => (inputV[i] ?? NaN) >= input * drivenPart);
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
        since = (amps[i] ?? 0) > clearlyA ? 0 : step > longest ? Infinity : since + step;
        if (since <= likeLightS) near[i] = 1;
      }
    }
    mark('it gave current itself within a quarter of an hour', (i) => near[i] === 1);
  }
  return { could, by };
}

const inEnglish = new Intl.ListFormat('en-GB');

/** What shows that a charger had its source, in a sentence. */
export function readyWords({ by }: Readiness): string {
  return `Its source was there: ${inEnglish.format(by)}.`;
}
