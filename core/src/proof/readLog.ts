import { bad, good, type Problem, type Result } from '../quantity';
import { stages } from '../charger';
import type { ChargerColumns, Log, LogReport, SkippedLine } from './log';

/** More rows than this are refused: one sample a second for 34 days. */
export const mostRows = 3_000_000;

const example = 'time,bank_V,bank_A,battery_degC,fore_A';

/**
 * Looks at the beginning of a file before it is read as a log.
 *
 * @param head the first 64 kB or so, as text
 * @param whole whether that is the whole file
 * @returns what is wrong with it, or null
 */
export function sniffLog(head: string, whole: boolean): Problem | null {
  if (head.trim() === '') return { code: 'log-empty', text: 'The file is empty. Export the log again, and look at its size before you bring it in.' };

  const strange = head.match(/[\u0000-\u0008\u000e-\u001f\ufffd]/g)?.length ?? 0;
  if (strange > head.length / 1000 + 2)
    return {
      code: 'log-binary',
      text: 'This is not a text file. A log is a table of comma-separated values; a spreadsheet or a picture has to be exported as CSV first.',
    };
  if (!whole && !/[\r\n]/.test(head))
    return { code: 'log-no-lines', text: 'The first 64 kB hold no line break, so this is not a table. Export the log as CSV, one sample a line.' };
  if (/^\s*[{[]/.test(head)) return { code: 'log-json', text: 'This looks like a JSON file. A job file is brought in on the Jobs page; a log has to be CSV.' };
  return null;
}

type Column = { kind: 'time' } | { kind: 'bankVolts' | 'bankAmps' | 'batteryC'; scale: number } | { kind: 'amps' | 'arrayVolts' | 'stage'; charger: string };

function columnOf(name: string, chargers: readonly string[]): Column | null {
  const plain = name.trim().replace(/^\ufeff/, '');
  if (plain === 'time') return { kind: 'time' };
  if (plain === 'bank_V') return { kind: 'bankVolts', scale: 1 };
  if (plain === 'bank_mV') return { kind: 'bankVolts', scale: 0.001 };
  if (plain === 'bank_A') return { kind: 'bankAmps', scale: 1 };
  if (plain === 'battery_degC') return { kind: 'batteryC', scale: 1 };
  const match = /^(.+?)_(A|array_V|stage)$/.exec(plain);
  const charger = match?.[1];
  if (!match || charger === undefined || !chargers.includes(charger)) return null;
  return { kind: match[2] === 'A' ? 'amps' : match[2] === 'array_V' ? 'arrayVolts' : 'stage', charger };
}

/** A growing typed column. */
class Grow {
  data = new Float32Array(4096);
  push(index: number, value: number): void {
    if (index >= this.data.length) {
      const larger = new Float32Array(this.data.length * 2);
      larger.set(this.data);
      this.data = larger;
    }
    this.data[index] = value;
  }
}

/** Takes the rows of a CSV in file order and makes a log of them. */
export interface LogReader {
  /** The next rows; the very first is the header. A problem means that reading has to stop. */
  take(rows: readonly (readonly string[])[]): Problem | null;
  /** Rows taken so far, the header not counted. */
  readonly count: number;
  finish(): Result<{ log: Log; report: LogReport }>;
}

const shown = 50;
const stageCodes = new Map<string, number>(stages.map((s, i) => [s, i]));

/**
 * Makes a reader for standard comma-separated logs. What cannot be read is listed by line and never silently dropped.
 *
 * @param chargers ids of the job's chargers; columns of other chargers are named in the notes
 */
export function createLogReader(chargers: readonly string[]): LogReader {
  let columns: (Column | null)[] = [];
  let time = new Float64Array(4096);
  const values: Grow[] = [];
  let timeAt = 0;
  let rows = 0;
  let skipped = 0;
  let offsetMinutes: number | null | undefined;
  const firstSkipped: SkippedLine[] = [];
  const notes: string[] = [];
  let duplicates = 0;

  const skip = (line: number, why: string): null => {
    skipped++;
    if (firstSkipped.length < shown) firstSkipped.push({ line, why });
    return null;
  };

  const readers = {
    header(fields: readonly string[]): Problem | null {
      const only = fields.length === 1 ? (fields[0] ?? '') : '';
      for (const [separator, name] of [
        [';', 'semicolons'],
        ['\t', 'tabs'],
        ['|', 'bars'],
      ] as const)
        if (only.split(separator).length > 2)
          return {
            code: 'log-separator',
            text: `This file separates its columns with ${name}. A standard log uses commas: export it again with commas, and a point in the numbers.`,
            place: 'line 1',
          };
      if (fields.length > 0 && fields.every((f) => f.trim() === '' || Number.isFinite(Number(f)) || !Number.isNaN(parseTime(f)?.seconds ?? NaN)))
        return { code: 'log-no-header', text: `The first line holds values, not column names. Put a line such as “${example}” above it.`, place: 'line 1' };
      columns = fields.map((f) => columnOf(f, chargers));
      timeAt = columns.findIndex((c) => c?.kind === 'time');
      const has = (kind: Column['kind']): boolean => columns.some((c) => c?.kind === kind);
      const lacking = [...(has('time') ? [] : ['time']), ...(has('bankVolts') ? [] : ['bank_V'])];
      if (lacking.length > 0)
        return {
          code: 'log-columns',
          text: `The log has no column ${lacking.map((n) => `“${n}”`).join(' and ')}. Its columns are ${fields
            .slice(0, 12)
            .map((f) => `“${f.trim().slice(0, 30)}”`)
            .join(', ')}. Rename them as in “${example}”.`,
          place: 'line 1',
        };
      const unknown = fields.filter((_, i) => columns[i] === null).map((f) => f.trim());
      if (unknown.length > 0)
        notes.push(
          `Not read: ${unknown
            .slice(0, 12)
            .map((f) => `“${f.slice(0, 40)}”`)
            .join(', ')}. Charger columns are read when they begin with a charger’s short name: ${chargers.join(', ') || 'this job has no chargers'}.`,
        );
      columns.forEach(() => values.push(new Grow()));
      return null;
    },

    row(fields: readonly string[], line: number): Problem | null {
      if (fields.length === 1 && fields[0]?.trim() === '') return null;
      if (fields.length !== columns.length) return skip(line, `has ${fields.length} fields instead of ${columns.length}`);
      if (rows >= mostRows)
        return {
          code: 'log-too-long',
          text: `The log has more than ${mostRows.toLocaleString('en')} rows. Cut it into parts, or export it with a longer interval.`,
          place: `line ${line}`,
        };
      const clock = fields[timeAt] ?? '';
      const stamp = parseTime(clock);
      if (!stamp) return skip(line, clock.trim() ? `time “${clock.trim().slice(0, 30)}” cannot be read` : 'has no time');
      const before = rows > 0 ? (time[rows - 1] ?? -Infinity) : -Infinity;
      if (stamp.seconds === before) {
        duplicates++;
        return skip(line, 'repeats the time of the line before');
      }
      if (stamp.seconds < before) return skip(line, 'goes back in time: the clock was set, or the lines are out of order');
      for (let i = 0; i < columns.length; i++) {
        const column = columns[i];
        if (!column || column.kind === 'time') continue;
        const text = fields[i] ?? '';
        if (column.kind === 'stage') {
          values[i]?.push(rows, stageCodes.get(text.trim()) ?? 255);
          continue;
        }
        const value = text === '' || text.trim() === '' ? NaN : Number(text);
        if (!Number.isFinite(value)) {
          const empty = text.trim() === '';
          if (column.kind === 'bankVolts') return skip(line, empty ? 'has no bank voltage' : `bank voltage “${text.slice(0, 20)}” is not a number`);
          if (!empty) return skip(line, `“${text.slice(0, 20)}” is not a number`);
        }
        // Adding 0 turns a “-0.0” of the file into a plain 0.
        values[i]?.push(rows, ('scale' in column ? value * column.scale : value) + 0);
      }
      if (rows >= time.length) {
        const larger = new Float64Array(time.length * 2);
        larger.set(time);
        time = larger;
      }
      time[rows] = stamp.seconds;
      if (offsetMinutes === undefined) offsetMinutes = stamp.offsetMinutes;
      rows++;
      return null;
    },
  };
  let line = 0;

  return {
    take(taken) {
      for (const fields of taken) {
        line++;
        const problem = line === 1 ? readers.header(fields) : readers.row(fields, line);
        if (problem) return problem;
      }
      return null;
    },

    get count() {
      return Math.max(0, line - 1);
    },

    finish() {
      if (rows < 2) {
        const first = firstSkipped[0];
        return bad(
          'log-no-rows',
          `${rows === 0 ? 'No sample' : 'Only one sample'} could be read.${first ? ` Line ${first.line} ${first.why}.` : ''} Check that times look like 2026-06-14T05:00:00Z and numbers use a point.`,
        );
      }
      const times = time.slice(0, rows);
      const floats: { -readonly [K in 'bankVolts' | 'bankAmps' | 'batteryC']?: Float32Array } = {};
      const parts: Record<string, { -readonly [K in keyof ChargerColumns]: ChargerColumns[K] }> = {};
      columns.forEach((column, i) => {
        const data = values[i]?.data.slice(0, rows);
        if (!column || !data || column.kind === 'time') return;
        if (column.kind === 'stage') (parts[column.charger] ??= {}).stage = Uint8Array.from(data);
        else if ('charger' in column) (parts[column.charger] ??= {})[column.kind] = data;
        else floats[column.kind] = data;
      });
      const interval = medianStep(times);
      const gaps: { from: number; to: number }[] = [];
      for (let i = 1; i < rows; i++) {
        const from = times[i - 1] ?? 0;
        const to = times[i] ?? 0;
        if (to - from > 5 * interval && gaps.length < 200) gaps.push({ from, to });
      }
      if (duplicates > 0) notes.push(`${duplicates} lines repeat a time; the first of each was kept.`);
      if (gaps.length > 0)
        notes.push(`${gaps.length} ${gaps.length === 1 ? 'gap' : 'gaps'} of more than ${Math.round(5 * interval)} s: nothing is claimed over them.`);
      if (offsetMinutes === null) notes.push('The times carry no zone. They are shown as written.');
      if (!floats.batteryC) notes.push('No column “battery_degC”: nothing about temperature can be told from this log.');
      const log: Log = {
        time: times,
        offsetMinutes: offsetMinutes ?? null,
        bankVolts: floats.bankVolts ?? new Float32Array(rows),
        chargers: parts,
        ...(floats.bankAmps ? { bankAmps: floats.bankAmps } : {}),
        ...(floats.batteryC ? { batteryC: floats.batteryC } : {}),
      };
      return good({ log, report: { rows, skipped, firstSkipped, intervalSeconds: interval, gaps, notes } });
    },
  };
}

/** Median spacing of the first 10,000 samples, s. */
function medianStep(time: Float64Array): number {
  const steps: number[] = [];
  for (let i = 1; i < Math.min(time.length, 10_000); i++) steps.push((time[i] ?? 0) - (time[i - 1] ?? 0));
  steps.sort((a, b) => a - b);
  return steps[Math.floor(steps.length / 2)] ?? 1;
}

const isoTime = /^(\d{4})-(\d{2})-(\d{2})[T ](\d{2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?\s*(Z|[+-]\d{2}:?\d{2})?$/;

/** An ISO time with or without zone, or seconds (or milliseconds) since 1970. Times without zone are read as if UTC. */
function parseTime(text: string): { seconds: number; offsetMinutes: number | null } | null {
  const plain = text.trim();
  // Digits alone are seconds or milliseconds; anything else has to look like a date.
  const match = plain.includes('-') ? isoTime.exec(plain) : null;
  if (match) {
    const [, y, mo, d, h, mi, s, zone] = match;
    const month = Number(mo);
    const day = Number(d);
    if (month < 1 || month > 12 || day < 1 || day > 31 || Number(h) > 24 || Number(mi) > 59) return null;
    const offset = !zone ? null : zone === 'Z' ? 0 : (zone.startsWith('-') ? -1 : 1) * (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(-2)));
    const utc = Date.UTC(Number(y), month - 1, day, Number(h), Number(mi)) / 1000 + Number(s ?? 0);
    return { seconds: utc - (offset ?? 0) * 60, offsetMinutes: offset };
  }
  if (!/^\d{9,13}(\.\d+)?$/.test(plain)) return null;
  const number = Number(plain);
  return { seconds: number > 1e11 ? number / 1000 : number, offsetMinutes: 0 };
}
