import type { Stage } from '../../charger';
import type { Ahead } from './ahead';
import type { HeldLevels } from './held';
import type { Scene } from './scene';

/** A source without current for so long is off, or held, s. */
const quietS = 300;

/** How a stretch without current is told. */
export interface Silence {
  /** Where current flows again. */
  readonly until: number;
  readonly parts: readonly { readonly from: number; readonly stage: Stage }[];
  /** What came before ended in full current at a standing voltage: it was absorb. */
  readonly stopped?: boolean;
}

/** How a stretch without current, from `a` up to where it flows again, is to be told. */
export function silence(scene: Scene, { absorbV }: HeldLevels, ahead: Ahead, a: number, before: Stage, done: boolean): Silence {
  const { log, time, n, volts, calm, floatCalm, amps, levels, intervalS, toleranceV: tolerance, sunAt, saidAt, sisterStops } = scene;
  const { nextOn, strongA, floats, floorV } = ahead;
  const b = nextOn[a] ?? n;
  const seconds = (time[Math.min(b, n - 1)] ?? 0) - (time[Math.max(0, a - 1)] ?? 0);
  const was = before === 'absorb' || before === 'float' || before === 'rest';
  // A source at its full height a moment ago, and nothing now, while the voltage stands: it was told to stop.
  const abrupt = (amps[a - 1] ?? 0) > strongA || (amps[a - 2] ?? 0) > 1.5 * strongA;
  if (seconds <= Math.max(quietS, 2.5 * intervalS) && b < n && (before !== 'absorb' || !abrupt)) return { until: b, parts: [{ from: a, stage: before }] };
  let below = a;
  while (below < b && (floatCalm[below] ?? NaN) >= floorV) below++;
  const resumes = below >= b && b < n && (calm[b] ?? 0) < absorbV - tolerance;
  const chill = levels.cutoffC !== null && (log.batteryC?.[a] ?? 99) <= levels.cutoffC + 1;
  const stands = (time[Math.min(below, n - 1)] ?? 0) - (time[a] ?? 0) > 1800;
  const stopped =
    before === 'bulk' &&
    abrupt &&
    (resumes || stands) &&
    !chill &&
    Math.max(volts[a - 1] ?? 0, volts[a] ?? 0) > floorV + 3 * tolerance &&
    (!resumes || (amps[b] ?? 0) < strongA * 2);
  // Pushed out by a sister that held the voltage, and let go when that one was told to.
  let left = a;
  while (before === 'absorb' && left < b && (calm[left] ?? NaN) >= absorbV - tolerance) left++;
  const letGo = before === 'absorb' && left < b && left > a && stoppedBefore(time, left, a, sisterStops);
  const told = stopped || letGo || (floats && was && (before === 'float' || done || resumes || (abrupt && below > a + 1)));
  // With the source there, a float would come back where the voltage falls well below it: where nothing comes back it rests. A sister may hold the bank
  // a little lower.
  const deepV = floorV - 2 * tolerance;
  let deep = below;
  while (deep < b && (floatCalm[deep] ?? NaN) >= deepV) deep++;
  const rests =
    was && deep < b && sunAt(deep) === true && (time[Math.min(b, n - 1)] ?? 0) - (time[deep] ?? 0) > 1200 && sunAt(Math.floor((deep + b) / 2)) === true;
  const parts: { from: number; stage: Stage }[] = [];
  const put = (from: number, stage: Stage): void => {
    if (parts.at(-1)?.stage !== stage) parts.push({ from, stage });
  };
  // A source that is gone within ten minutes was going: dusk, an engine that runs down.
  let gone = a;
  while (gone < b && sunAt(gone) === true) gone++;
  if (before !== 'off' && before !== 'cold' && sunAt(a) === true && gone < b && sunAt(gone) === false && (time[gone] ?? 0) - (time[a] ?? 0) < 600)
    return { until: b, parts: [{ from: a, stage: 'off' }] };
  // A night in between makes a new day of what comes after it.
  let sameDay = true;
  let offFrom = -1;
  const lit = litUntil(scene, a, b, floorV);
  const waits = waiting(scene, a, b);
  for (let k = a; k < b; k++) {
    const sun = sunAt(k) ?? (k < lit ? true : null);
    if (sun === false) sameDay = false;
    const v = calm[k] ?? NaN;
    if (parts.at(-1)?.stage !== 'off') offFrom = k;
    else if ((time[k] ?? 0) - (time[offFrom] ?? 0) > nightS) sameDay = false;
    // Where nothing measured tells, what it reports itself does.
    const said = sun === null ? saidAt(k) : null;
    if (said !== null && said !== 'bulk' && said !== 'equalise') {
      if (said === 'off' || said === 'cold') sameDay = false;
      put(k, said);
      continue;
    }
    const celsius = log.batteryC?.[k];
    const chilled = levels.cutoffC !== null && celsius !== undefined && celsius <= levels.cutoffC + (before === 'off' || before === 'cold' ? 3 : 1);
    if (sun === true && chilled && !(was && sameDay)) put(k, 'cold');
    else if (!sameDay) put(k, 'off');
    // Another charger holds the voltage: one that stopped at once was done, one that was pushed out slowly still waits.
    else if (sun !== false && before === 'absorb' && !done && v >= absorbV - tolerance) put(k, abrupt && floats ? 'float' : 'absorb');
    else if (sun === true && (was || stopped) && (before !== 'absorb' || done || told || v < absorbV - tolerance))
      put(k, !rests && floats && (floatCalm[k] ?? NaN) >= deepV && parts.at(-1)?.stage !== 'rest' ? 'float' : 'rest');
    else if (sun === true && floats && waits[k - a] === 1 && (floatCalm[k] ?? NaN) >= deepV) put(k, 'float');
    else if (sun === null && told && k < below) put(k, 'float');
    else put(k, 'off');
  }
  return { until: b, parts, stopped };
}

/** A source that comes back within so long, the bank still at float or above, was not gone in between: that is no night, s. */
const noNightS = 9 * 3600;

/** Hours without anything are a night, s. */
const nightS = 3 * 3600;
/** A voltage leaves its level within so long of the stop that let it go, s. */
const leavesWithinS = 900;

/** Whether a sister stopped at once shortly before a sample. */
function stoppedBefore(time: Float64Array, at: number, from: number, stops: (i: number) => boolean): boolean {
  for (let i = at; i >= from && (time[at] ?? 0) - (time[i] ?? 0) <= leavesWithinS; i--) if (stops(i)) return true;
  return false;
}

/** So long without current in the light, s, is no dawn. */
const waitsS = 2400;

/** Where its source was there for long without any current, by what else tells of it. */
function waiting({ time, sunAt }: Scene, a: number, b: number): Uint8Array {
  const marks = new Uint8Array(b - a);
  for (let k = a; k < b;) {
    let end = k;
    while (end < b && sunAt(end) === true) end++;
    if (end > k && (time[end - 1] ?? 0) - (time[k] ?? 0) >= waitsS) marks.fill(1, k - a, end - a);
    k = Math.max(end, k + 1);
  }
  return marks;
}

/** Up to where the source of a silent charger was there all the time, by what else tells of it. */
function litUntil({ time, floatCalm, sunAt }: Scene, a: number, b: number, floorV: number): number {
  let lit = a;
  for (let k = a; k < b && (floatCalm[k] ?? NaN) >= floorV && (time[k] ?? 0) - (time[lit] ?? 0) <= noNightS; k++) {
    const sun = sunAt(k);
    if (sun === false) break;
    if (sun === true) lit = k;
  }
  return lit;
}
