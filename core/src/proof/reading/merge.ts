import { bad, good, type Result } from '../../quantity';
import { bankColumns, chargerColumns, medianStep, type Log, type LogReport } from '../log';
import { columnsThere, logOf, type LogParts } from './columns';
import { reportOf } from './report';

/** Columns of one source on its own clock. */
export interface Part {
  readonly time: Float64Array;
  readonly parts: LogParts;
}

interface Column {
  readonly time: Float64Array;
  readonly data: Float32Array | Uint8Array;
  readonly longest: number;
}

/** Every column of a part by a name of its own. */
function columnsOf({ time, parts }: Part): Map<string, Column> {
  const longest = 1.5 * medianStep(time);
  const named = new Map<string, Column>();
  for (const key of ['bankVolts', ...bankColumns] as const) {
    const data = parts[key];
    if (data) named.set(key, { time, data, longest });
  }
  for (const [id, c] of Object.entries(parts.chargers))
    for (const key of [...chargerColumns, 'stage'] as const) {
      const data = c[key];
      if (data) named.set(`${key} ${id}`, { time, data, longest });
    }
  return named;
}

/** The column on another clock: each moment takes the newest sample that is not older than one and a half of its own intervals. */
function resampled({ time, data, longest }: Column, on: Float64Array): Float32Array | Uint8Array {
  if (time === on) return data;
  const none = data instanceof Uint8Array ? 255 : NaN;
  const out = data instanceof Uint8Array ? new Uint8Array(on.length) : new Float32Array(on.length);
  let k = -1;
  for (let i = 0; i < on.length; i++) {
    const now = on[i] ?? 0;
    while (k + 1 < time.length && (time[k + 1] ?? 0) <= now) k++;
    out[i] = k >= 0 && now - (time[k] ?? 0) <= longest ? (data[k] ?? none) : none;
  }
  return out;
}

/** Parts with the same columns, one after the other in time. Where two overlap, the earlier one counts. */
function chained(parts: readonly Part[]): Part {
  const sorted = [...parts].sort((a, b) => (a.time[0] ?? 0) - (b.time[0] ?? 0));
  const [first] = sorted;
  if (!first || sorted.length === 1) return first ?? { time: new Float64Array(), parts: { chargers: {} } };
  let last = -Infinity;
  const kept = sorted.map((part) => {
    const from = part.time.findIndex((t) => t > last);
    if (from >= 0) last = part.time.at(-1) ?? last;
    return { part, from: from < 0 ? part.time.length : from };
  });
  const rows = kept.reduce((sum, { part, from }) => sum + part.time.length - from, 0);
  const time = new Float64Array(rows);
  let at = 0;
  for (const { part, from } of kept) {
    time.set(part.time.subarray(from), at);
    at += part.time.length - from;
  }
  const joined: LogParts = { chargers: {} };
  for (const [name, column] of columnsOf(first)) {
    const out = column.data instanceof Uint8Array ? new Uint8Array(rows).fill(255) : new Float32Array(rows).fill(NaN);
    at = 0;
    for (const { part, from } of kept) {
      const data = columnsOf(part).get(name)?.data.subarray(from);
      if (data) out.set(data, at);
      at += part.time.length - from;
    }
    put(joined, name, out);
  }
  return { time, parts: joined };
}

function put(parts: LogParts, name: string, data: Float32Array | Uint8Array): void {
  const [key = '', id] = name.split(' ');
  if (id === undefined) Object.assign(parts, { [key]: data });
  else Object.assign((parts.chargers[id] ??= {}), { [key]: data });
}

/**
 * Puts sources together: those with the same columns one after the other, those with others side by side on the clock of the one that has a bank voltage
 * (else of the one with the most samples). A column that two sources have is taken from that one.
 */
export function mergeParts(parts: readonly Part[]): Part {
  const groups = new Map<string, Part[]>();
  for (const part of parts) {
    const key = [...columnsOf(part).keys()].sort().join('|');
    groups.set(key, [...(groups.get(key) ?? []), part]);
  }
  const sources = [...groups.values()].map(chained);
  const rank = (p: Part): number => (p.parts.bankVolts ? 1e12 : 0) + p.time.length;
  const [base, ...others] = sources.sort((a, b) => rank(b) - rank(a));
  if (!base) return { time: new Float64Array(), parts: { chargers: {} } };
  const joined: LogParts = { chargers: {} };
  // One temperature of two sensors is nobody's.
  const sensors = new Set(parts.flatMap(({ parts: p }) => (p.batteryC ? [p.batterySensor] : [])));
  const [sensor] = sensors;
  if (sensors.size === 1 && sensor !== undefined) joined.batterySensor = sensor;
  for (const source of [base, ...others])
    for (const [name, column] of columnsOf(source)) {
      const [key = '', id] = name.split(' ');
      const there = id === undefined ? key in joined : key in (joined.chargers[id] ?? {});
      if (!there) put(joined, name, resampled(column, base.time));
    }
  return { time: base.time, parts: joined };
}

/** Several files as one log: days one after the other, a monitor and a charger side by side. */
export function mergeLogs(all: readonly { readonly log: Log; readonly report: LogReport }[]): Result<{ log: Log; report: LogReport }> {
  const [first] = all;
  if (!first) return bad('log-none', 'There is no log to put together.');
  if (all.length === 1) return good(first);
  const zones = new Set(all.map((l) => (l.log.offsetMinutes === null ? 'none' : 'some')));
  const merged = mergeParts(all.map(({ log }) => ({ time: log.time, parts: { chargers: log.chargers, bankVolts: log.bankVolts, ...columnsThere(log) } })));
  const log = logOf(merged.time, first.log.offsetMinutes, merged.parts);
  if (!log) return bad('log-no-rows', 'None of the files has a voltage.');
  const notes = [
    `Put together from ${all.length} files.`,
    ...(zones.size > 1 ? ['Some of the files tell the zone of their times and some do not: check that they lie where they should.'] : []),
    ...all.flatMap(({ report }) => report.notes.filter((n) => !/ gaps? of more than |carry no zone/.test(n))),
  ];
  const skipped = all.reduce((sum, { report }) => sum + report.skipped, 0);
  return good({
    log,
    report: reportOf(log, { skipped, firstSkipped: all.flatMap(({ report }) => report.firstSkipped).slice(0, 50), notes: [...new Set(notes)] }),
  });
}
