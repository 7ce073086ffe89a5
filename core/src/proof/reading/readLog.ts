import { stages } from '../../charger';
import { bad, formatDuration, good, isoWithOffset, type Problem, type Result } from '../../quantity';
import { bankColumns, chargerColumns, medianStep, type Log, type LogReport, type SkippedLine } from '../log';
import { Columns, logOf, type LogParts } from './columns';
import { columnUnits, mappingProblems, quantityOf, type Mapping, type MappedColumn } from './mapping';
import { mergeParts, type Part } from './merge';
import { readNumber } from './number';
import { reportOf } from './report';
import { makeClock } from './time';

/** More rows than this are refused: one sample a second for 34 days. */
const mostRowsOfALog = 3_000_000;

/** Takes the rows of a file in file order and makes a log of them. */
export interface LogReader {
  /** The next rows, header and what stands above it included. A problem means that reading has to stop. */
  take(rows: readonly (readonly string[])[]): Problem | null;
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
  const sources = new Map<string, { columns: Columns; targets: readonly Target[]; before: number }>();
  const clock = makeClock(mapping);
  const firstSkipped: SkippedLine[] = [];
  let line = 0;
  let rows = 0;
  let skipped = 0;
  let duplicates = 0;
  let offsetMinutes: number | null | undefined;
  let back: { from: number; to: number; line: number } | null = null;
  let unknownNames = new Set<string>();
  let last: { columns: Columns; targets: readonly Target[]; before: number } | null = null;
  let lastName = '';
  const numbers = new Float64Array(whole.length);

  const skip = (why: string): null => {
    skipped++;
    if (firstSkipped.length < shown) firstSkipped.push({ line, why });
    return null;
  };

  function sourceOf(name: string) {
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

  function row(fields: readonly string[]): Problem | null {
    if (fields.length === 1 && (fields[0] ?? '').trim() === '') return null;
    const wanted = mapping.columns.length;
    if (fields.length !== wanted) {
      // A separator at the end of the line is an empty field more.
      if (fields.length !== wanted + 1 || fields[wanted] !== '') return skip(`has ${fields.length} fields instead of ${wanted}`);
    }
    if (rows >= mostRows)
      return {
        code: 'log-too-long',
        text: `The log has more than ${mostRows.toLocaleString('en')} rows. Cut it into parts, or export it with a longer interval.`,
        place: `line ${line}`,
      };
    const written = timeAt >= 0 ? (fields[timeAt] ?? '') : `${(fields[dateAt] ?? '').trim()} ${(fields[clockAt] ?? '').trim()}`;
    const stamp = clock.read(written);
    if (!stamp) return skip(written.trim() ? `time “${written.trim().slice(0, 30)}” cannot be read` : 'has no time');
    const seconds = stamp.seconds;
    const name = nameAt < 0 ? '' : (fields[nameAt] ?? '').trim();
    const source = sourceOf(name);
    if (!source) {
      unknownNames = unknownNames.add(name.slice(0, 40));
      return skip(`is about “${name.slice(0, 40)}”, which stands for no charger of this job`);
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
    const { targets } = source;
    for (const t of targets) {
      const text = fields[t.at] ?? '';
      if (t.column.meaning === 'stage') {
        numbers[t.slot] = stageCodes.get(text) ?? stageCodes.get(text.trim().toLowerCase()) ?? 255;
        continue;
      }
      const value = readNumber(text, comma);
      if (value === null) return skip(t === voltsAt ? `bank voltage “${text.slice(0, 20)}” is not a number` : `“${text.slice(0, 20)}” is not a number`);
      if (value > believable || value < -believable) return skip(`“${text.slice(0, 20)}” is no believable number`);
      if (value !== value && t.column.meaning === 'bankVolts') return skip('has no bank voltage');
      numbers[t.slot] = t.factor === 1 && t.offset === 0 ? value : value * t.factor + t.offset + 0;
    }
    source.before = seconds;
    offsetMinutes ??= stamp.offset;
    const at = source.columns.next(seconds);
    for (let slot = 0; slot < numbers.length; slot++) source.columns.data[slot]![at] = numbers[slot] ?? NaN;
    rows++;
    return null;
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
      if (duplicates > 0) notes.push(`${duplicates} lines repeat a time; the first of each was kept.`);
      const jump = back;
      if (jump) {
        const by = Math.abs(jump.from - jump.to) + medianStep(log.time);
        notes.push(
          `The clock went back by ${formatDuration(by)} at line ${jump.line} (${isoWithOffset(jump.from, offsetMinutes ?? null)}). What repeats was left out, and nothing is claimed over it.${Math.abs(by - 3600) < 120 && offsetMinutes === null ? ' It looks like the end of daylight saving: choose the zone in the mapping, and the hour is kept.' : ''}`,
        );
      }
      if (clock.changes > 0)
        notes.push(`Daylight saving changes ${clock.changes === 1 ? 'once' : `${clock.changes} times`} within the log; times are kept in UTC.`);
      if (!merged?.parts.bankVolts) notes.push('The file has no bank voltage: the chargers’ own stands for it. The drop in their cables is in it.');
      return good({ log, report: reportOf(log, { skipped, firstSkipped, notes }) });
    },
  };
}
