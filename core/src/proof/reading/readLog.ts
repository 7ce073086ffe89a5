import { strFromU8 } from 'fflate';
import { stages } from '../../charger';
import { bad, formatDuration, good, isoWithOffset, type Problem, type Result } from '../../quantity';
import { bankColumns, chargerColumns, medianStep, type Log, type LogReport, type SkippedLine } from '../log';
import { Columns, logOf, type LogParts } from './columns';
import { columnUnits, mappingProblems, quantityOf, type Mapping, type MappedColumn } from './mapping';
import { mergeParts, type Part } from './merge';
import { looked, markOf, plainNumber, readNumber } from './number';
import { reportOf } from './report';
import { makeClock, type Stamp } from './time';

/** More rows than this are refused: one sample a second for 34 days. */
const mostRowsOfALog = 3_000_000;

/** Takes the rows of a file in file order and makes a log of them. */
export interface LogReader {
  /** The next rows, header and what stands above it included. A problem means that reading has to stop. */
  take(rows: readonly (readonly string[])[]): Problem | null;
  /**
   * The next lines as they stand in a file, UTF-8, each ended by a line feed, none with a quoted field. The same as `take` of their fields, which are not
   * made where a line is plain.
   */
  takeLines(bytes: Uint8Array): Problem | null;
  /** Rows taken so far. */
  readonly count: number;
  finish(): Result<{ log: Log; report: LogReport }>;
}

/** Larger numbers than this are none that a battery has. */
const believable = 1e7;
/** Unreadable lines that are told one by one; the rest are counted. */
const shown = 50;

/** What a mapped column is to the row loop: where its text stands and where its number goes. */
interface Target {
  readonly at: number;
  /** Place in Columns.data. */
  readonly slot: number;
  readonly column: MappedColumn;
  readonly factor: number;
  readonly offset: number;
}

/** Longer pieces are left to the decoder. */
const short = 40;

/** The text between two places of a file. */
function textOf(bytes: Uint8Array, from: number, to: number): string {
  let text = '';
  for (let i = from; i < to; i++) {
    const c = bytes[i] ?? 0;
    if (c > 127 || i - from > short) return strFromU8(bytes.subarray(from, to));
    text += String.fromCharCode(c);
  }
  return text;
}

/** Rows of one source, and the time of its last one. */
interface Source {
  readonly columns: Columns;
  readonly targets: readonly Target[];
  before: number;
}

const targetsFor = (mapping: Mapping): readonly Target[] => {
  let slot = 0;
  return mapping.columns.flatMap((column, at) => {
    if (quantityOf(column.meaning) === null && column.meaning !== 'stage') return [];
    const unit = column.unit === undefined ? { factor: 1, offset: 0 } : columnUnits[column.unit];
    const sign = column.negated ? -1 : 1;
    return [{ at, slot: slot++, column, factor: unit.factor * sign, offset: unit.offset * sign }];
  });
};

/** Makes a log of the columns of one source. */
function partsOf(columns: Columns, targets: readonly Target[], newestFirst: boolean): Part | null {
  const { rows } = columns;
  if (rows === 0) return null;
  const parts: LogParts = { chargers: {} };
  const time = columns.time.slice(0, rows);
  if (newestFirst) time.reverse();
  for (const { slot, column } of targets) {
    const data = columns.data[slot]?.slice(0, rows);
    if (!data) continue;
    if (newestFirst) data.reverse();
    const { meaning } = column;
    const bank = (['bankVolts', ...bankColumns] as const).find((key) => key === meaning);
    if (bank) parts[bank] = data;
    else if (column.charger !== undefined) {
      const own = (parts.chargers[column.charger] ??= {});
      const key = chargerColumns.find((k) => k === meaning);
      if (meaning === 'stage') own.stage = Uint8Array.from(data);
      else if (key) own[key] = data;
    }
    if (meaning === 'batteryC' && column.sensor !== undefined) parts.batterySensor = column.sensor;
  }
  return { time, parts };
}

/**
 * Makes a reader of logs for a mapping. What cannot be read is listed by line and never silently dropped.
 *
 * @param mapping what each column means; one that names no time or no voltage is a problem of the first `take`
 */
export function createLogReader(mapping: Mapping, mostRows = mostRowsOfALog): LogReader {
  const wrong = mappingProblems(mapping)[0];
  const comma = mapping.decimal === ',';
  const mark = markOf(comma);
  const separator = mapping.separator.charCodeAt(0);
  const width = mapping.columns.length;
  const whole = targetsFor(mapping);
  const place = (meaning: MappedColumn['meaning']): number => mapping.columns.findIndex((c) => c.meaning === meaning);
  const timeAt = place('time');
  const dateAt = place('date');
  const clockAt = place('clock');
  const nameAt = place('chargerName');
  const voltsAt = whole.find((t) => t.column.meaning === 'bankVolts' || t.column.meaning === 'volts');
  const stageCodes = new Map<string, number>(stages.map((s, i) => [s, i]));
  for (const [word, stage] of Object.entries(mapping.stages)) stageCodes.set(word.trim().toLowerCase(), stages.indexOf(stage));

  /** Rows of one source: the file itself, or one charger where chargers take turns. */
  const sources = new Map<string, Source>();
  const clock = makeClock(mapping);
  const firstSkipped: SkippedLine[] = [];
  let line = 0;
  let rows = 0;
  let skipped = 0;
  let duplicates = 0;
  let offsetMinutes: number | null | undefined;
  let back: { from: number; to: number; line: number } | null = null;
  let unknownNames = new Set<string>();
  let last: Source | null = null;
  let lastName = '';
  const numbers = new Float64Array(whole.length);
  /** Time and offset of the row in hand. */
  let at = NaN;
  let offset: number | null = null;
  /** Where each field of the line in hand ends; behind them, where the line begins. */
  const ends = new Int32Array(width + 1);
  /** The target of each column that holds a number. */
  const numberAt = mapping.columns.map((_, place) => whole.find((t) => t.at === place && t.column.meaning !== 'stage') ?? null);
  const bankAt = place('bankVolts');
  const staged = whole.filter((t) => t.column.meaning === 'stage');
  const startOf = (place: number): number => (place === 0 ? (ends[width] ?? 0) : (ends[place - 1] ?? 0) + 1);
  const fieldAt = (bytes: Uint8Array, place: number): string => (place < 0 ? '' : textOf(bytes, startOf(place), ends[place] ?? 0));

  const skip = (why: string): null => {
    skipped++;
    if (firstSkipped.length < shown) firstSkipped.push({ line, why });
    return null;
  };

  function sourceOf(name: string): Source | null {
    if (last && name === lastName) return last;
    const charger = nameAt < 0 ? undefined : mapping.chargers[name];
    if (nameAt >= 0 && charger === undefined) return null;
    let source = sources.get(charger ?? '');
    if (!source) {
      const targets = charger === undefined ? whole : whole.map((t) => ({ ...t, column: { ...t.column, charger } }));
      source = { columns: new Columns(whole.length), targets, before: NaN };
      sources.set(charger ?? '', source);
    }
    last = source;
    lastName = name;
    return source;
  }

  function header(fields: readonly string[]): Problem | null {
    const named = mapping.columns.map((c) => c.header.trim());
    const found = fields.map((f) => f.trim().replace(/^\ufeff/, ''));
    if (named.length === found.length && named.every((n, i) => n === found[i])) return null;
    return {
      code: 'log-other-columns',
      text: `Line ${line} does not hold the columns this mapping is for. It has ${found
        .slice(0, 12)
        .map((f) => `“${f.slice(0, 30)}”`)
        .join(', ')}. Map the file anew.`,
      place: `line ${line}`,
    };
  }

  /** The time of the line in hand: its moment, or what is written there where that is none. */
  function stampAt(bytes: Uint8Array): Stamp | string {
    if (timeAt < 0) return stampOf(`${fieldAt(bytes, dateAt).trim()} ${fieldAt(bytes, clockAt).trim()}`);
    const from = startOf(timeAt);
    const digits = (ends[timeAt] ?? 0) - from;
    // Nine to thirteen digits are a moment already.
    if (digits <= 13) {
      const number = plainNumber(bytes, from, from + digits, 0, 0);
      if (number >= 1e8 && number !== Infinity) return clock.epoch(number);
    }
    return stampOf(fieldAt(bytes, timeAt));
  }
  const stampOf = (written: string): Stamp | string => clock.read(written) ?? written.trim();

  /** Where a row of this time and name belongs; null where the line is left out, which is counted. */
  function begun(stamp: Stamp | string, name: string): Source | null {
    if (typeof stamp === 'string') return skip(stamp ? `time “${stamp.slice(0, 30)}” cannot be read` : 'has no time');
    const { seconds } = stamp;
    const source = sourceOf(name);
    if (!source) {
      unknownNames = unknownNames.add(name.slice(0, 40));
      return skip(`is about “${name.slice(0, 40)}”, which belongs to no charger of this job`);
    }
    const step = mapping.newestFirst ? source.before - seconds : seconds - source.before;
    if (step === 0) {
      duplicates++;
      return skip('repeats the time of the line before');
    }
    if (step < 0) {
      back ??= { from: source.before, to: seconds, line };
      return skip('goes back in time: the clock was set, or the lines are out of order');
    }
    at = seconds;
    offset = stamp.offset;
    return source;
  }

  /** Puts the numbers where they belong. */
  function store(source: Source): null {
    source.before = at;
    offsetMinutes ??= offset;
    const place = source.columns.next(at);
    for (let slot = 0; slot < numbers.length; slot++) source.columns.data[slot]![place] = numbers[slot] ?? NaN;
    rows++;
    return null;
  }

  const stageOf = (text: string): number => stageCodes.get(text) ?? stageCodes.get(text.trim().toLowerCase()) ?? 255;
  /** In the core’s unit; a “−0.0” of the file is a plain 0. */
  const inUnit = (t: Target, value: number): number => value * t.factor + t.offset + 0;

  function row(fields: readonly string[]): Problem | null {
    if (fields.length === 1 && (fields[0] ?? '').trim() === '') return null;
    if (fields.length !== width) {
      // A separator at the end of the line is an empty field more.
      if (fields.length !== width + 1 || fields[width] !== '') return skip(`has ${fields.length} fields instead of ${width}`);
    }
    if (rows >= mostRows)
      return {
        code: 'log-too-long',
        text: `The log has more than ${mostRows.toLocaleString('en')} rows. Cut it into parts, or export it with a longer interval.`,
        place: `line ${line}`,
      };
    const field = (place: number): string => fields[place] ?? '';
    const time = timeAt >= 0 ? field(timeAt) : `${field(dateAt).trim()} ${field(clockAt).trim()}`;
    const source = begun(stampOf(time), nameAt < 0 ? '' : field(nameAt).trim());
    if (!source) return null;
    for (const t of source.targets) {
      const text = field(t.at);
      if (t.column.meaning === 'stage') {
        numbers[t.slot] = stageOf(text);
        continue;
      }
      const value = readNumber(text, comma);
      if (value === null)
        return skip(t.slot === voltsAt?.slot ? `bank voltage “${text.slice(0, 20)}” is not a number` : `“${text.slice(0, 20)}” is not a number`);
      if (value > believable || value < -believable) return skip(`“${text.slice(0, 20)}” is no believable number`);
      if (value !== value && t.column.meaning === 'bankVolts') return skip('has no bank voltage');
      numbers[t.slot] = inUnit(t, value);
    }
    return store(source);
  }

  /** Takes a line as it stands in its file, where nothing in it is out of the usual; false where its fields have to be looked at one by one. */
  function plainRow(bytes: Uint8Array, from: number, to: number): boolean {
    if (rows >= mostRows) return false;
    ends[width] = from;
    let i = from;
    for (let place = 0; place < width; place++) {
      if (i > to) return false;
      const t = numberAt[place];
      if (t) {
        const value = plainNumber(bytes, i, to, mark, separator);
        if (value > believable || value < -believable || (value !== value && place === bankAt)) return false;
        numbers[t.slot] = inUnit(t, value);
        i = looked.end;
      } else while (i < to && bytes[i] !== separator) i++;
      ends[place] = i++;
    }
    // Behind the last field ends the line.
    if (i <= to) return false;
    for (const t of staged) numbers[t.slot] = stageOf(fieldAt(bytes, t.at));
    const source = begun(stampAt(bytes), nameAt < 0 ? '' : fieldAt(bytes, nameAt).trim());
    if (source) store(source);
    return true;
  }

  return {
    take(taken) {
      if (wrong) return { code: 'log-mapping', text: wrong };
      for (const fields of taken) {
        line++;
        const problem = line < mapping.headerLine ? null : line === mapping.headerLine ? header(fields) : row(fields);
        if (problem) return problem;
      }
      return null;
    },
    takeLines(bytes) {
      if (wrong) return { code: 'log-mapping', text: wrong };
      for (let from = 0; from < bytes.length;) {
        const feed = bytes.indexOf(10, from);
        const end = feed < 0 ? bytes.length : feed;
        const to = end > from && bytes[end - 1] === 13 ? end - 1 : end;
        line++;
        if (line <= mapping.headerLine || !plainRow(bytes, from, to)) {
          const fields = textOf(bytes, from, to).split(mapping.separator);
          const problem = line < mapping.headerLine ? null : line === mapping.headerLine ? header(fields) : row(fields);
          if (problem) return problem;
        }
        from = end + 1;
      }
      return null;
    },
    get count() {
      return Math.max(0, line - mapping.headerLine);
    },
    finish() {
      const first = firstSkipped[0];
      const few = (text: string) =>
        bad(
          'log-no-rows',
          `${text}${first ? ` Line ${first.line} ${first.why}.` : ''} Check which column is the time, how its dates are written, and the decimal mark.`,
        );
      if (rows < 2) return few(rows === 0 ? 'No sample could be read.' : 'Only one sample could be read.');
      const parts = [...sources.values()].flatMap((s) => partsOf(s.columns, s.targets, mapping.newestFirst) ?? []);
      const merged = parts.length === 1 ? parts[0] : mergeParts(parts);
      const log = merged && logOf(merged.time, offsetMinutes ?? null, merged.parts);
      if (!log || log.time.length < 2) return few('No sample with a voltage could be read.');
      const notes: string[] = [];
      const ignored = mapping.columns.filter((c) => c.meaning === 'ignore' && c.header !== '').map((c) => c.header);
      if (ignored.length > 0)
        notes.push(
          `Not read: ${ignored
            .slice(0, 12)
            .map((f) => `“${f.slice(0, 40)}”`)
            .join(', ')}${ignored.length > 12 ? ` and ${ignored.length - 12} more` : ''}. Change the mapping if one of them matters.`,
        );
      if (unknownNames.size > 0)
        notes.push(
          `Rows about ${[...unknownNames]
            .slice(0, 6)
            .map((n) => `“${n}”`)
            .join(', ')} were left out: no charger of this job is named so. Say in the mapping which charger each is.`,
        );
      if (duplicates > 0) notes.push(`${duplicates} lines repeat a time; the first of each was used.`);
      const jump = back;
      if (jump) {
        const by = Math.abs(jump.from - jump.to) + medianStep(log.time);
        notes.push(
          `The clock went back by ${formatDuration(by)} at line ${jump.line} (${isoWithOffset(jump.from, offsetMinutes ?? null)}). What repeats was left out, and nothing is claimed over it.${Math.abs(by - 3600) < 120 && offsetMinutes === null ? ' It looks like the end of daylight saving: choose the zone in the mapping, and the hour is not lost.' : ''}`,
        );
      }
      if (clock.changes > 0) notes.push(`Daylight saving changes ${clock.changes === 1 ? 'once' : `${clock.changes} times`} within the log; times are in UTC.`);
      if (!merged?.parts.bankVolts) notes.push('The file has no bank voltage: the chargers’ own is used for it. The drop in their cables is in it.');
      return good({ log, report: reportOf(log, { skipped, firstSkipped, notes }) });
    },
  };
}
