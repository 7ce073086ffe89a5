/** What a log holds of one charger. Missing samples are NaN; a missing column is undefined. */
export interface ChargerColumns {
  readonly amps?: Float32Array;
  /** Voltage as the charger itself measures it. */
  readonly volts?: Float32Array;
  /** Voltage at the charger's array input. */
  readonly arrayVolts?: Float32Array;
  /** Power taken from its source, W. */
  readonly inputWatts?: Float32Array;
  /** Temperature of the machine it regulates, °C: an alternator’s. */
  readonly machineC?: Float32Array;
  /** Index into `stages` (of the charger folder) as the charger reported it, 255 where unknown. */
  readonly stage?: Uint8Array;
}

/** Columns of numbers that belong to one charger. */
export const chargerColumns = ['amps', 'volts', 'arrayVolts', 'inputWatts', 'machineC'] as const satisfies readonly (keyof ChargerColumns)[];

/** Columns of numbers that belong to the bank and to what surrounds it, beside the voltage. */
export const bankColumns = ['bankAmps', 'batteryC', 'stateOfCharge', 'loadAmps', 'irradiance', 'engine'] as const satisfies readonly (keyof Log)[];

/** A log in columns: compact, and passed between threads without copying names around. */
export interface Log {
  /** Seconds since 1970, UTC, strictly rising. */
  readonly time: Float64Array;
  /** Minutes east of UTC of the clock the log was written by; null when its times carry no zone. */
  readonly offsetMinutes: number | null;
  readonly bankVolts: Float32Array;
  /** Nobody measured the bank’s volts apart: they are what the chargers wrote of themselves. */
  readonly bankVoltsBy?: 'chargers';
  /** Net current into the bank, A. */
  readonly bankAmps?: Float32Array;
  readonly batteryC?: Float32Array;
  /** What wrote `batteryC`: `ownProbe`, or the charger whose sensor it is. Missing while nobody has said: it may sit in a case. */
  readonly batterySensor?: string;
  /** Current that the loads take, A. */
  readonly loadAmps?: Float32Array;
  /** Light on the array, W/m². */
  readonly irradiance?: Float32Array;
  /** Whether an engine turns: its speed, or 1 and 0. */
  readonly engine?: Float32Array;
  /** As a monitor counts it, %. */
  readonly stateOfCharge?: Float32Array;
  readonly chargers: Readonly<Record<string, ChargerColumns>>;
}

/** A line that could not be read, and why. */
export interface SkippedLine {
  readonly line: number;
  readonly why: string;
}

/** What reading a log found besides the samples. */
export interface LogReport {
  readonly rows: number;
  readonly skipped: number;
  /** The first of them; the count above is the whole. */
  readonly firstSkipped: readonly SkippedLine[];
  /** Median spacing, s. */
  readonly intervalSeconds: number;
  /** Places where more than five intervals are missing. */
  readonly gaps: readonly { readonly from: number; readonly to: number }[];
  readonly notes: readonly string[];
}

/** Longest time one sample may stand for, s: five usual intervals. Nothing may be claimed over a gap. */
export const longestStep = (report: Pick<LogReport, 'intervalSeconds'>): number => 5 * report.intervalSeconds;

/**
 * The time sample `i` stands for, s: since the sample before it, or 0 for the first one and over a gap, where nothing may be claimed.
 *
 * @param longest the longest believable step, from longestStep
 */
export function claimedSeconds(time: Float64Array, i: number, longest: number): number {
  const step = i === 0 ? 0 : (time[i] ?? 0) - (time[i - 1] ?? 0);
  return step > longest ? 0 : step;
}

/** Median spacing of the first 10,000 samples, s. */
export function medianStep(time: Float64Array): number {
  const steps: number[] = [];
  for (let i = 1; i < Math.min(time.length, 10_000); i++) steps.push((time[i] ?? 0) - (time[i - 1] ?? 0));
  steps.sort((a, b) => a - b);
  return steps[Math.floor(steps.length / 2)] ?? 1;
}

/** Places where more than five intervals are missing, the first 200. */
export function gapsOf(time: Float64Array, intervalSeconds: number): LogReport['gaps'] {
  const gaps: { from: number; to: number }[] = [];
  const most = 5 * intervalSeconds;
  for (let i = 1; i < time.length; i++) {
    const from = time[i - 1] ?? 0;
    const to = time[i] ?? 0;
    if (to - from > most && gaps.length < 200) gaps.push({ from, to });
  }
  return gaps;
}
