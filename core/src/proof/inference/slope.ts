import { claimedSeconds, longestStep, type Log, type LogReport } from '../log';
import { chargerAmps, type ChargerLevels } from './levels';

/** Least spread of battery temperature at which a slope can be told, °C. */
export const leastSpanC = 5;

/** How a charger's held voltage moves with battery temperature, as a log shows it. */
export interface SlopeFound {
  /** V/°C for the bank. */
  readonly slope: number;
  /** Standard error of it, V/°C. */
  readonly standardError: number;
  /** Spread of temperature over the samples that show it, °C. */
  readonly spanC: number;
  /** Level at the reference temperature, V. */
  readonly level: number;
  /** Blocks of half an hour that the line rests on. */
  readonly blocks: number;
  readonly from: number;
  readonly to: number;
}

/** Samples looked at, spread over the log. */
const most = 16_000;
/** Slopes tried, mV/°C per cell, to each side of zero. */
const widest = 32;
/** Another slope than the programmed one gathers so many times the charging time on its line. */
const sharper = 2;
/** A slope beyond this, mV/°C per cell, is nobody's usual figure: it takes half as much again. */
const usualMost = 12;
/** A block of samples that counts once, s. */
const blockS = 1800;

/**
 * The slope at which most of the charging time lies on one level with little above it (a Hough transform of the voltage-temperature plane), then a
 * least-squares line through the medians of half-hour blocks on that level.
 *
 * @returns null where the log has no temperature, no current, or the held voltage spans less than `leastSpanC`
 */
export function findSlope(log: Log, report: LogReport, charger: string, levels: ChargerLevels, cells: number): SlopeFound | null {
  const amps = chargerAmps(log, charger);
  const { batteryC, bankVolts, time } = log;
  if (!amps || !batteryC) return null;
  const longest = longestStep(report);
  const every = Math.max(1, Math.floor(time.length / most));
  const volts: number[] = [];
  const warm: number[] = [];
  const weight: number[] = [];
  const place: number[] = [];
  let low = Infinity;
  let high = -Infinity;
  for (let i = every; i < time.length; i += every) {
    const v = bankVolts[i] ?? NaN;
    const c = batteryC[i] ?? NaN;
    if (!((amps[i] ?? 0) > levels.zeroA) || !(Math.abs(v - levels.absorbV) < levels.absorbV * 0.3) || c !== c) continue;
    volts.push(v);
    warm.push(c - levels.referenceC);
    weight.push(claimedSeconds(time, i, longest) * every);
    place.push(i);
    low = Math.min(low, c);
    high = Math.max(high, c);
  }
  if (high - low < leastSpanC) return null;
  const tolerance = levels.toleranceV;
  const width = tolerance / 2;
  const floor = levels.absorbV * 0.94;
  const size = Math.ceil((levels.absorbV * 0.12) / width);
  const bins = new Float64Array(size + 1);
  const told = (levels.slope / cells) * 1000;
  let best = { score: 0, slope: levels.slope, level: levels.absorbV };
  let asTold = 0;
  for (let step = -widest * 2; step <= widest * 2; step++) {
    const perCell = step / 2;
    const slope = (perCell * cells) / 1000;
    bins.fill(0);
    for (let k = 0; k < volts.length; k++) {
      const bin = Math.floor(((volts[k] ?? 0) - slope * (warm[k] ?? 0) - floor) / width);
      if (bin >= 0) bins[Math.min(size, bin)] = (bins[Math.min(size, bin)] ?? 0) + (weight[k] ?? 0);
    }
    let above = 0;
    for (let b = size; b >= 1; b--) {
      const here = (bins[b] ?? 0) + (bins[b - 1] ?? 0);
      // What was programmed, and no compensation, are believed before anything else.
      const favour = Math.abs(perCell - told) <= 0.5 ? 1.25 : 1;
      const score = b < size && above <= 0.1 * here ? here * favour : 0;
      if (favour > 1) asTold = Math.max(asTold, score / favour);
      if (score > best.score) best = { score, slope, level: floor + b * width };
      above += b + 1 <= size ? (bins[b + 1] ?? 0) : 0;
    }
  }
  if (best.score < 1200) return null;
  // Through the medians of blocks on the level; twice, so that the line finds its own samples.
  let { slope, level } = best;
  let found: SlopeFound | null = null;
  let days = 0;
  for (let round = 0; round < 3; round++) {
    const blocks = new Map<number, { v: number[]; c: number[] }>();
    let from = Infinity;
    let to = -Infinity;
    for (let k = 0; k < volts.length; k++) {
      if (Math.abs((volts[k] ?? 0) - slope * (warm[k] ?? 0) - level) > tolerance) continue;
      const at = time[place[k] ?? 0] ?? 0;
      const key = Math.floor(at / blockS);
      const block = blocks.get(key) ?? { v: [], c: [] };
      blocks.set(key, block);
      block.v.push(volts[k] ?? 0);
      block.c.push(warm[k] ?? 0);
      from = Math.min(from, at);
      to = Math.max(to, at);
    }
    const middle = (xs: number[]): number => xs.sort((a, b) => a - b)[Math.floor(xs.length / 2)] ?? 0;
    const points = [...blocks.values()].map((b) => ({ x: middle(b.c), y: middle(b.v) }));
    const n = points.length;
    days = new Set([...blocks.keys()].map((key) => Math.floor((key * blockS) / 86_400))).size;
    const mx = points.reduce((s, p) => s + p.x, 0) / n;
    const my = points.reduce((s, p) => s + p.y, 0) / n;
    const sxx = points.reduce((s, p) => s + (p.x - mx) ** 2, 0);
    const span = Math.max(...points.map((p) => p.x)) - Math.min(...points.map((p) => p.x));
    if (n < 4 || span < leastSpanC) break;
    slope = points.reduce((s, p) => s + (p.x - mx) * (p.y - my), 0) / sxx;
    level = my - slope * mx;
    const rest = points.reduce((s, p) => s + (p.y - level - slope * p.x) ** 2, 0) / Math.max(1, n - 2);
    found = { slope, standardError: Math.sqrt(rest / sxx), spanC: span, level, blocks: n, from, to };
  }
  if (!found) return null;
  // Warmth and charge rise together on any one day. Another slope than the programmed one takes several days, a sharp line, twice the time on
  // it, and a level that can be absorb.
  const perCell = (v: number): number => Math.abs((v / cells) * 1000);
  // The line has to be absorb’s: nearer to it than to float where the samples lie, or at the reference temperature, which a wrong slope does not touch.
  const mean =
    warm.reduce((sum, c, k) => sum + c * (weight[k] ?? 0), 0) /
    Math.max(
      1,
      weight.reduce((a, b) => a + b, 0),
    );
  const line = found.level + found.slope * mean;
  const away = (level: number): number => Math.abs(line - level - levels.slope * mean);
  const { level: atReference } = found;
  const nearAbsorb = (off: (level: number) => number, part: number): boolean =>
    off(levels.absorbV) < part * levels.absorbV && (levels.floatV === null || off(levels.absorbV) < 0.6 * off(levels.floatV));
  const isAbsorb = nearAbsorb(away, 0.033) || nearAbsorb((level) => Math.abs(atReference - level), 0.012);
  const other = perCell(found.slope - levels.slope) > Math.max(1.2, 0.15 * Math.abs(told));
  if (
    other &&
    (days < 3 ||
      found.blocks < 8 ||
      perCell(found.standardError) > 0.25 ||
      best.score < (perCell(found.slope) > usualMost ? 1.5 : 1) * sharper * asTold ||
      !isAbsorb)
  )
    return null;
  return found;
}
