import { formatQuantity } from '../../quantity';
import { claimedSeconds, longestStep } from '../log';
import { nameOf, type Evidence } from '../judges/context';
import { chargerAmps, referredVolts, type ChargerLevels, type StageSpan } from '../inference';

/** Volts to 0.01, as an explanation tells them: to the digit that a log is good for. */
export const volts = (v: number): string => formatQuantity(v, 'V', 2);
/** Amps to 0.1. */
export const amps = (a: number): string => formatQuantity(a, 'A', 1);

/** What is looked at again and again of one charger. */
export interface Look {
  readonly id: string;
  readonly name: string;
  readonly levels: ChargerLevels;
  readonly spans: readonly StageSpan[];
  readonly amps: Float32Array;
  readonly absorbV: number;
  readonly longest: number;
  at(i: number): boolean;
  volts(i: number): number;
}

/** The chargers of a log, ready to be looked at. */
export function looks(e: Evidence): readonly Look[] {
  return [...e.inferred].flatMap(([id, seen]) => {
    const levels = e.levels.get(id);
    const own = chargerAmps(e.log, id);
    if (!levels || !own) return [];
    const really = { ...levels, slope: seen.slope };
    const at = (i: number): boolean => referredVolts(e.log, really, i) >= seen.absorbV - seen.toleranceV && (own[i] ?? 0) > levels.zeroA;
    return [
      {
        id,
        name: nameOf(e, id),
        levels,
        spans: seen.spans,
        amps: own,
        absorbV: seen.absorbV,
        longest: longestStep(e.report),
        at,
        volts: (i) => e.log.bankVolts[i] ?? NaN,
      },
    ];
  });
}

/** Stretches of a span in which the condition held. */
export function stretches(
  e: Evidence,
  span: StageSpan,
  longest: number,
  holds: (i: number) => boolean,
): readonly { from: number; to: number; first: number; last: number }[] {
  const list: { from: number; to: number; first: number; last: number }[] = [];
  let first = -1;
  for (let i = span.first; i <= span.last + 1; i++) {
    const here = i <= span.last && holds(i) && (first < 0 || claimedSeconds(e.log.time, i, longest) > 0);
    if (here && first < 0) first = i;
    else if (!here && first >= 0) {
      list.push({ from: e.log.time[first] ?? 0, to: e.log.time[i - 1] ?? 0, first, last: i - 1 });
      first = i <= span.last && holds(i) ? i : -1;
    }
  }
  return list;
}

/** Mean of a column around a moment. */
export function mean(column: Float32Array | undefined, first: number, last: number): number {
  let sum = 0;
  let n = 0;
  for (let i = Math.max(0, first); i <= last; i++) {
    const v = column?.[i] ?? NaN;
    if (v === v) {
      sum += v;
      n++;
    }
  }
  return n === 0 ? NaN : sum / n;
}
