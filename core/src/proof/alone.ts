import { mean } from 'simple-statistics';
import { levelTolerance, signalOf } from './inference/signal';
import { dayOf } from './judges/days';
import { claimedSeconds, longestStep, type Log, type LogReport } from './log';
import { signLooksReversed } from './reading';
import { median, riseOver } from './statistics';

/** A number of a log and the moment it was seen, s since 1970. */
export interface Seen {
  readonly value: number;
  readonly at: number;
}

/** What a log shows without anybody’s sheet or settings. Nothing of it is a verdict. Volts, A, °C, Ah, %. */
export type LogFact =
  | { readonly code: 'highestVolts' | 'lowestVolts'; readonly seen: Seen }
  | {
      /** A level at which the volts stayed: the highest of each day, or of what lies below that the one with the most time. */
      readonly code: 'stayedHigh' | 'stayedBelow';
      /** Least and most of the days, V: compensation moves a level from day to day. */
      readonly lowV: number;
      readonly highV: number;
      readonly withinV: number;
      readonly seconds: number;
      readonly days: number;
      /** The longest of those stretches, with the current at both ends, A, where the log has one. */
      readonly from: number;
      readonly to: number;
      readonly amps?: { readonly first: number; readonly last: number; readonly of: 'chargers' | 'bank' };
    }
  | { readonly code: 'mostAmps'; readonly charger: string; readonly seen: Seen }
  | { readonly code: 'chargedCold' | 'chargedHot'; readonly seen: Seen; readonly sensorKnown: boolean }
  | { readonly code: 'noCharge'; readonly coldest: Seen; readonly warmest: Seen; readonly sensorKnown: boolean }
  | { readonly code: 'counted'; readonly inAh: number; readonly outAh: number; readonly reversed: boolean; readonly unknownSeconds: number }
  | { readonly code: 'charge'; readonly least: Seen; readonly most: Seen };

/** Less time than this at a level is none, s. */
const leastSeconds = 300;
/** Volts are looked at in pieces of at most so long, s: within one a compensated level hardly moves, and a battery that fills does. */
const pieceSeconds = 1800;
/** A dip of a load or a cloud ends no piece that is shorter than this, s. */
const dipSeconds = 120;
/** Over a piece the volts rise or fall by less than this part of the tolerance. */
const flatPart = 0.25;
/** Current below so much of the most is none, and never more than half an amp is asked. */
const zeroPart = 0.02;
const zeroMost = 0.5;

/** The extremes of a column where a condition holds; null where it never does. */
function extremes(time: Float64Array, values: Float32Array, where: (i: number) => boolean): { readonly least: Seen; readonly most: Seen } | null {
  let least = -1;
  let most = -1;
  for (let i = 0; i < time.length; i++) {
    const v = values[i] ?? NaN;
    if (!Number.isFinite(v) || !where(i)) continue;
    if (least < 0 || v < (values[least] ?? NaN)) least = i;
    if (most < 0 || v > (values[most] ?? NaN)) most = i;
  }
  const moment = (i: number): Seen => ({ value: values[i] ?? NaN, at: time[i] ?? NaN });
  return least < 0 ? null : { least: moment(least), most: moment(most) };
}

/** The current that charges. */
interface Charge {
  readonly amps: Float32Array;
  readonly of: 'chargers' | 'bank';
}

/** The current of all chargers together, else what flows into the bank; null where the log has neither. */
function chargeOf(log: Log): Charge | null {
  const columns = Object.values(log.chargers).flatMap((c) => (c.amps ? [c.amps] : []));
  if (columns.length === 0) return log.bankAmps ? { amps: log.bankAmps, of: 'bank' } : null;
  // One that is silent leaves the sum unknown.
  const amps = Float32Array.from(log.time, (_, i) => columns.reduce((sum, c) => sum + (c[i] ?? NaN), 0));
  return { amps, of: 'chargers' };
}

/** What counts as no current, A, by the most there was. */
function zeroOf(amps: Float32Array): number {
  let most = 0;
  for (const a of amps) if (a > most) most = a;
  return Math.min(zeroMost, zeroPart * most);
}

/** A stretch in which the volts stayed where they were while something charged. */
interface Stay {
  readonly first: number;
  readonly last: number;
  readonly volts: number;
  readonly seconds: number;
}

/** Pieces in which the volts stayed within the tolerance and neither rose nor fell. */
function flatPieces({ time, bankVolts: volts }: Log, counts: (i: number) => boolean, longest: number, withinV: number, stepV: number): readonly Stay[] {
  const pieces: Stay[] = [];
  let at: number[] = [];
  let low = Infinity;
  let high = -Infinity;
  const close = (): void => {
    const [first, last] = [at[0], at.at(-1)];
    if (first !== undefined && last !== undefined) {
      const seconds = (time[last] ?? 0) - (time[first] ?? 0);
      if (seconds >= leastSeconds && at.length > 2) {
        const held = at.map((i) => volts[i] ?? NaN);
        const rise = riseOver(
          at.map((i) => time[i] ?? NaN),
          held,
          seconds,
        );
        if (Math.abs(rise) <= flatPart * withinV + 0.3 * stepV) pieces.push({ first, last, volts: mean(held), seconds });
      }
    }
    at = [];
    low = Infinity;
    high = -Infinity;
  };
  for (let i = 0; i < time.length; i++) {
    const v = volts[i] ?? NaN;
    const last = at.at(-1);
    if (last !== undefined) {
      const since = (time[i] ?? 0) - (time[last] ?? 0);
      if (claimedSeconds(time, i, longest) === 0 || since > dipSeconds + longest) close();
      else if ((time[i] ?? 0) - (time[at[0] ?? 0] ?? 0) > pieceSeconds) close();
    }
    if (Number.isNaN(v) || !counts(i)) continue;
    const fits = Math.max(high, v) - Math.min(low, v) <= 2 * withinV;
    if (!fits && last !== undefined) {
      if ((time[i] ?? 0) - (time[last] ?? 0) < dipSeconds) continue;
      // It was no dip: what came after the piece is looked at anew.
      close();
      i = last;
      continue;
    }
    at.push(i);
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  close();
  return pieces;
}

/** Pieces that follow one another at the same level, as one. */
function stays(log: Log, pieces: readonly Stay[], withinV: number): readonly Stay[] {
  const merged: Stay[] = [];
  for (const piece of pieces) {
    const before = merged.at(-1);
    const near = before && Math.abs(before.volts - piece.volts) <= withinV && (log.time[piece.first] ?? 0) - (log.time[before.last] ?? 0) <= 4 * leastSeconds;
    if (!before || !near) merged.push(piece);
    else {
      const seconds = before.seconds + piece.seconds;
      merged[merged.length - 1] = {
        first: before.first,
        last: piece.last,
        seconds,
        volts: (before.volts * before.seconds + piece.volts * piece.seconds) / seconds,
      };
    }
  }
  return merged;
}

/** The median of a column between two samples, both counted. */
const middleOf = (values: Float32Array, first: number, last: number): number => median([...values.subarray(first, last + 1)].filter(Number.isFinite));

/** Stays of several days as one fact. */
function asFact(log: Log, code: 'stayedHigh' | 'stayedBelow', list: readonly Stay[], withinV: number, charge: Charge | null): readonly LogFact[] {
  const [first] = list;
  if (!first) return [];
  const longest = list.reduce((best, stay) => (stay.seconds > best.seconds ? stay : best), first);
  const volts = list.map((stay) => stay.volts);
  return [
    {
      code,
      lowV: Math.min(...volts),
      highV: Math.max(...volts),
      withinV,
      seconds: list.reduce((sum, stay) => sum + stay.seconds, 0),
      days: new Set(list.map((stay) => dayOf(log, log.time[stay.first] ?? 0))).size,
      from: log.time[longest.first] ?? NaN,
      to: log.time[longest.last] ?? NaN,
      ...(charge
        ? {
            amps: {
              first: middleOf(charge.amps, longest.first, longest.first + 4),
              last: middleOf(charge.amps, longest.last - 4, longest.last),
              of: charge.of,
            },
          }
        : {}),
    },
  ];
}

/** The levels at which the volts stayed while something charged: the highest of each day, and below that the one with the most time. */
function levels(log: Log, report: LogReport, charge: Charge | null, highest: number): readonly LogFact[] {
  const zero = charge ? zeroOf(charge.amps) : 0;
  // In float next to nothing flows into a full bank: there it is enough that nothing flows out.
  const least = charge?.of === 'bank' ? -zero : zero;
  const signal = signalOf(log.bankVolts);
  const withinV = levelTolerance(signal, Math.max(0.06, highest * 0.0025));
  const counts = (i: number): boolean => charge === null || (charge.amps[i] ?? NaN) >= least;
  const found = stays(log, flatPieces(log, counts, longestStep(report), withinV, signal.stepV), withinV);
  const byDay = new Map<number, Stay[]>();
  for (const stay of found) {
    const day = dayOf(log, log.time[stay.first] ?? 0);
    byDay.set(day, [...(byDay.get(day) ?? []), stay]);
  }
  const high: Stay[] = [];
  const below: Stay[] = [];
  for (const ofDay of byDay.values()) {
    const top = Math.max(...ofDay.map((stay) => stay.volts));
    high.push(...ofDay.filter((stay) => stay.volts >= top - 2 * withinV));
    const lower = ofDay.filter((stay) => stay.volts < top - 2 * withinV).sort((a, b) => b.seconds - a.seconds)[0];
    if (lower) below.push(...ofDay.filter((stay) => Math.abs(stay.volts - lower.volts) <= withinV));
  }
  return [...asFact(log, 'stayedHigh', high, withinV, charge), ...asFact(log, 'stayedBelow', below, withinV, charge)];
}

/** How warm the battery was while it was charged; where nothing was, or no current is known, how warm it was at all. */
function warmths(log: Log, charge: Charge | null, reversed: boolean): readonly LogFact[] {
  const { time, batteryC } = log;
  if (!batteryC) return [];
  const sensorKnown = log.batterySensor !== undefined;
  const into = log.bankAmps && !reversed ? log.bankAmps : charge?.amps;
  const zero = into ? zeroOf(into) : 0;
  const charging = into ? extremes(time, batteryC, (i) => (into[i] ?? NaN) > zero) : null;
  if (charging)
    return [
      { code: 'chargedCold', seen: charging.least, sensorKnown },
      { code: 'chargedHot', seen: charging.most, sensorKnown },
    ];
  const all = extremes(time, batteryC, () => true);
  return all ? [{ code: 'noCharge', coldest: all.least, warmest: all.most, sensorKnown }] : [];
}

/** Charge into the bank and out of it, Ah, by its own current; over gaps nothing is counted. */
function counted(log: Log, report: LogReport, reversed: boolean): readonly LogFact[] {
  const { time, bankAmps } = log;
  if (!bankAmps) return [];
  const longest = longestStep(report);
  const sum = { in: 0, out: 0, unknown: 0 };
  for (let i = 1; i < time.length; i++) {
    const whole = (time[i] ?? 0) - (time[i - 1] ?? 0);
    const step = claimedSeconds(time, i, longest);
    const amps = bankAmps[i] ?? NaN;
    if (step === 0 || Number.isNaN(amps)) sum.unknown += whole;
    else if (amps > 0) sum.in += (amps * step) / 3600;
    else sum.out -= (amps * step) / 3600;
  }
  return [{ code: 'counted', inAh: sum.in, outAh: sum.out, reversed, unknownSeconds: sum.unknown }];
}

/**
 * What a log shows by itself, before anybody has said of which battery it is: numbers and when they were seen, and no verdict.
 *
 * @example shownAlone(log, report)[0] // { code: 'highestVolts', seen: { value: 28.42, at: 1782036120 } }
 */
export function shownAlone(log: Log, report: LogReport): readonly LogFact[] {
  const { time, bankVolts, stateOfCharge } = log;
  const current = chargeOf(log);
  const reversed = signLooksReversed(log);
  const volts = extremes(time, bankVolts, () => true);
  const charge = stateOfCharge && extremes(time, stateOfCharge, () => true);
  return [
    ...(volts
      ? [
          { code: 'highestVolts' as const, seen: volts.most },
          ...levels(log, report, current, volts.most.value),
          { code: 'lowestVolts' as const, seen: volts.least },
        ]
      : []),
    ...Object.entries(log.chargers).flatMap(([charger, { amps }]): LogFact[] => {
      const seen = amps && extremes(time, amps, () => true);
      return seen ? [{ code: 'mostAmps', charger, seen: seen.most }] : [];
    }),
    ...warmths(log, current, reversed),
    ...counted(log, report, reversed),
    ...(charge ? [{ code: 'charge' as const, ...charge }] : []),
  ];
}
