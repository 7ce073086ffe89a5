import { bankColumns, type ChargerColumns, type Log } from '../log';

/** Columns that grow while a file is read. A sample that nobody wrote is NaN; a stage nobody told is 255. */
export class Columns {
  time = new Float64Array(4096);
  rows = 0;
  readonly data: Float32Array[];

  constructor(count: number) {
    this.data = Array.from({ length: count }, () => new Float32Array(4096));
  }

  /** Makes room for one more row and returns its place. */
  next(seconds: number): number {
    const at = this.rows++;
    if (at >= this.time.length) {
      const size = this.time.length * 2;
      const longer = new Float64Array(size);
      longer.set(this.time);
      this.time = longer;
      for (let i = 0; i < this.data.length; i++) {
        const wider = new Float32Array(size);
        wider.set(this.data[i] ?? []);
        this.data[i] = wider;
      }
    }
    this.time[at] = seconds;
    return at;
  }
}

/** What is being put together of a log. */
export interface LogParts extends Partial<Record<'bankVolts' | (typeof bankColumns)[number], Float32Array>> {
  batterySensor?: string;
  chargers: Record<string, { -readonly [K in keyof ChargerColumns]: ChargerColumns[K] }>;
}

/** Bank voltage where a log has only the chargers' own: the median of those that were told, sample by sample. */
function voltsOfChargers(chargers: LogParts['chargers'], rows: number): Float32Array | null {
  const all = Object.values(chargers).flatMap((c) => (c.volts ? [c.volts] : []));
  if (all.length === 0) return null;
  if (all.length === 1) return all[0] ?? null;
  const out = new Float32Array(rows);
  for (let i = 0; i < rows; i++) {
    const here = all.map((v) => v[i] ?? NaN).filter(Number.isFinite);
    here.sort((a, b) => a - b);
    const middle = here.length >> 1;
    out[i] = here.length === 0 ? NaN : here.length % 2 === 1 ? (here[middle] ?? NaN) : ((here[middle] ?? NaN) + (here[middle - 1] ?? NaN)) / 2;
  }
  return out;
}

/** A log of its parts; null without any voltage. */
export function logOf(time: Float64Array, offsetMinutes: number | null, parts: LogParts): Log | null {
  const bankVolts = parts.bankVolts ?? voltsOfChargers(parts.chargers, time.length);
  if (!bankVolts) return null;
  return {
    time,
    offsetMinutes,
    bankVolts,
    ...(parts.bankVolts ? {} : { bankVoltsBy: 'chargers' }),
    chargers: parts.chargers,
    ...columnsThere(parts),
  };
}

/** The bank's columns that are there, and what wrote its temperature. */
export const columnsThere = (of: LogParts | Log): Partial<Pick<Log, (typeof bankColumns)[number] | 'batterySensor'>> =>
  Object.fromEntries(([...bankColumns, 'batterySensor'] as const).flatMap((key) => (of[key] === undefined ? [] : [[key, of[key]]])));
