import { stageCode, stages, type Stage } from '../../charger';
import { claimedSeconds, type Log } from '../log';
import type { HeldLevels } from './held';
import type { StageSpan } from './levels';
import type { Scene } from './scene';

/** From equalise the voltage sinks past absorb within so long, s. */
const downS = 900;

/** Ten minutes well above absorb, near the equalise level, are equalise. */
export function markEqualise(
  { equaliseCalm: calm, time, levels, toleranceV: tolerance, adriftV, longest, on }: Scene,
  held: HeldLevels,
  found: Uint8Array,
): void {
  const { absorbV } = levels;
  if (levels.equaliseV === null || levels.equaliseV - absorbV < 3 * tolerance || (adriftV > 0 && !held.absorbSeen)) return;
  // Without a temperature all levels lie off by as much as absorb was seen to.
  const equaliseV = levels.equaliseV + (adriftV > 0 && !levels.fixed.has('equaliseV') ? held.absorbV - absorbV : 0);
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
      if (seconds >= 600) {
        found.fill(stageCode.equalise, from, i);
        // On its way down from there it passes absorb; it does not hold it.
        let k = i;
        while (k < found.length && found[k] === stageCode.absorb && (time[k] ?? 0) - (time[i] ?? 0) <= downS) k++;
        if (k < found.length && found[k] === stageCode.float) found.fill(stageCode.float, i, k);
      }
      from = -1;
    }
  }
}

/** The stretches of found stages, with how well their samples fit. */
export function spansOf(
  { time, volts, floatVolts, amps, levels, longest, toleranceV: tolerance }: Scene,
  { absorbV, floatV }: HeldLevels,
  charger: string,
  found: Uint8Array,
): StageSpan[] {
  const spans: StageSpan[] = [];
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
      else if (stage === 'float') fits += floatV !== null && Math.abs((floatVolts[k] ?? NaN) - floatV) <= tolerance ? 1 : on ? 0.4 : 0.7;
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
