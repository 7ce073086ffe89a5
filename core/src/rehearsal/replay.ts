import { stages, type Stage } from '../charger';
import { bad, good, type Result } from '../quantity';

/** As much of a log as a replay needs: the columns of a standard log. */
export interface ReplayLog {
  readonly time: Float64Array;
  readonly offsetMinutes: number | null;
  readonly bankVolts: Float32Array;
  readonly bankAmps?: Float32Array;
  readonly batteryC?: Float32Array;
  readonly chargers: Readonly<Record<string, { readonly amps?: Float32Array; readonly stage?: Uint8Array }>>;
}

/** A recorded day as inputs: power each source had, loads, battery temperature. */
export interface Replay {
  readonly time: Float64Array;
  /** Seconds since 1970 of the first sample, on the log's own clock. */
  readonly startS: number;
  readonly watts: Readonly<Record<string, Float64Array>>;
  readonly loadA: Float64Array;
  readonly batteryC: Float64Array | null;
  readonly notes: readonly string[];
}

/** Stages in which a charger's current shows what its source had. */
const showsAll: ReadonlySet<Stage | undefined> = new Set<Stage | undefined>(['bulk', 'off', undefined]);

/**
 * Turns a log into inputs. A charger in bulk shows what its source had; while it held back (by the stage it reported) the power between the
 * last and the next bulk sample is joined by a straight line, and never less than what it gave.
 */
export function replayOf(log: ReplayLog): Result<Replay> {
  const n = log.time.length;
  if (n < 2) return bad('replay-empty', 'This log has no samples to play back. Choose another log, or bring it in again.', 'replay');
  const offset = (log.offsetMinutes ?? 0) * 60;
  const start = log.time[0] ?? 0;
  const time = Float64Array.from(log.time, (t) => t - start);
  const notes: string[] = [];
  const watts: Record<string, Float64Array> = {};
  for (const [id, { amps, stage }] of Object.entries(log.chargers)) {
    if (!amps) continue;
    const given = Float64Array.from(amps, (a, i) => Math.max(0, (Number.isFinite(a) ? a : 0) * (log.bankVolts[i] ?? 0)));
    const seen: number[] = [];
    for (let i = 0; i < n; i++) if (!stage || showsAll.has(stages[stage[i] ?? 255])) seen.push(i);
    if (!stage) notes.push(`${id}: the log reports no stage, so what it gave is taken for all it had.`);
    const out = new Float64Array(n);
    let k = 0;
    for (let i = 0; i < n; i++) {
      while (k < seen.length - 1 && (seen[k + 1] ?? n) <= i) k++;
      const a = seen[k] ?? i;
      const b = seen[k + 1] ?? a;
      const ga = given[a] ?? 0;
      const gb = given[b] ?? ga;
      const line = a >= i || a === b ? ga : ga + ((gb - ga) * (i - a)) / (b - a);
      out[i] = Math.max(given[i] ?? 0, line);
    }
    watts[id] = out;
  }
  if (Object.keys(watts).length === 0)
    return bad(
      'replay-no-current',
      'This log has no charger’s current, so nobody knows what the sources had. Choose a log with a column such as “aft_A”.',
      'replay',
    );
  const loadA = new Float64Array(n);
  if (log.bankAmps) {
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (const c of Object.values(log.chargers)) sum += Number.isFinite(c.amps?.[i]) ? (c.amps?.[i] ?? 0) : 0;
      const net = log.bankAmps[i] ?? NaN;
      loadA[i] = Number.isFinite(net) ? Math.max(0, sum - net) : (loadA[i - 1] ?? 0);
    }
  } else notes.push('The log has no bank current, so the loads are taken as none.');
  let batteryC: Float64Array | null = null;
  const warm = log.batteryC;
  if (warm?.some(Number.isFinite)) {
    let last = warm.find(Number.isFinite) ?? 20;
    batteryC = Float64Array.from(warm, (c) => (last = Number.isFinite(c) ? c : last));
  } else notes.push('The log has no battery temperature, so the day’s own is used.');
  return good({ time, startS: start + offset, watts, loadA, batteryC, notes });
}
