import { bad, good, readWritten, type Result } from '../quantity';
import type { SplitRows } from '../proof';

/** One day of a history that a charger wrote by itself. */
export interface HistoryRow {
  /** ISO, as on the charger's own calendar. */
  readonly date: string;
  /** Highest voltage of the day, V. */
  readonly highest: number;
  /** Minutes in absorb. */
  readonly absorb?: number;
  /** Battery temperature of the day, °C. */
  readonly celsius?: number;
}

/** A charger's daily history as a file has it. */
export interface HistoryFile {
  /** By date, each day once. */
  readonly days: readonly HistoryRow[];
  /** Lines that could not be read, and why. */
  readonly leftOut: readonly string[];
}

const heads = {
  date: /^(date|day|datum|tag|fecha|jour)\b/i,
  highest:
    /\b(max|maximum|highest|high|peak)\b.*\b(m?v|volt|voltage|volts|spannung)\b|\b(m?v|volt|voltage|volts|spannung|u)\b.*\b(max|maximum|highest|high|peak)\b/i,
  absorb: /\babsorb|\babsorption/i,
  celsius: /\b(temp|temperature)\b/i,
} as const;
/** A head without its signs: “max_battery_V” is “max battery V”. */
const plain = (head: string): string => head.replace(/[_\-.()[\]/]+/g, ' ').trim();

/** Whether a row names a day and a highest voltage, each in a field of its own. */
const isHead = (row: readonly string[]): boolean => {
  const [date, highest] = [row.findIndex((f) => heads.date.test(plain(f))), row.findIndex((f) => heads.highest.test(plain(f)))];
  return date >= 0 && highest >= 0 && date !== highest;
};

/** Most lines told one by one. */
const mostTold = 20;
/** A battery lies between these, V: anything else is another column. */
const least = 5;
const most = 1000;

/**
 * Reads a charger's own daily history: a table with a date and the highest voltage of each day, with or without minutes in absorb and a temperature.
 *
 * @returns a problem where there is no such table in it, or where its dates can be read two ways
 */
export function readHistory(text: string, split: SplitRows): Result<HistoryFile> {
  const tables = ['\t', ';', ','].map((separator) => ({ separator, rows: split(text.replace(/^\ufeff/, ''), separator) }));
  const found = tables.map(({ separator, rows }) => ({ separator, rows, at: rows.findIndex(isHead) })).find(({ at }) => at >= 0);
  if (!found)
    return bad(
      'history-none',
      'This is no daily history: it needs a head with a date and the highest voltage of each day, as “date; max V”. A log of samples is brought in under Logs.',
    );
  const head = (found.rows[found.at] ?? []).map(plain);
  const place = (pattern: RegExp): number => head.findIndex((h) => pattern.test(h));
  const [dateAt, highAt, absorbAt, warmAt] = [place(heads.date), place(heads.highest), place(heads.absorb), place(heads.celsius)];
  const milli = /\bmv\b/i.test(head[highAt] ?? '');
  const hours = /\bh(ours?|rs?)?\b/i.test(head[absorbAt] ?? '');
  const fahrenheit = /\b(deg )?f\b|°f/i.test(head[warmAt] ?? '');
  const body = found.rows.slice(found.at + 1).filter((r) => r.some((f) => f.trim() !== ''));
  const order = orderOf(body.map((r) => (r[dateAt] ?? '').trim()));
  if (order === null)
    return bad('history-dates', `Dates such as “${(body[0]?.[dateAt] ?? '').trim()}” can be read two ways. Save them with the year first, as 2026-06-14.`);
  const comma = found.separator !== ',';
  const days = new Map<string, HistoryRow>();
  const leftOut: string[] = [];
  body.forEach((row, i) => {
    const leave = (why: string): void => {
      if (leftOut.length < mostTold) leftOut.push(`Line ${found.at + i + 2} ${why}.`);
    };
    const date = isoOf((row[dateAt] ?? '').trim(), order);
    const highest = readWritten(row[highAt] ?? '', comma);
    if (date === null) leave(`has no date that can be read: “${(row[dateAt] ?? '').trim().slice(0, 30)}”`);
    else if (days.has(date)) leave(`repeats ${date}`);
    else if (highest === null) leave(`has no highest voltage: “${(row[highAt] ?? '').trim().slice(0, 20)}”`);
    else {
      const volts = milli ? highest / 1000 : highest;
      if (volts < least || volts > most) {
        leave(`has ${volts} V, which no bank has`);
        return;
      }
      const absorb = absorbAt < 0 ? null : minutesOf(row[absorbAt] ?? '', comma, hours);
      const warm = warmAt < 0 ? null : readWritten(row[warmAt] ?? '', comma);
      days.set(date, {
        date,
        highest: volts,
        ...(absorb === null ? {} : { absorb }),
        ...(warm === null ? {} : { celsius: fahrenheit ? ((warm - 32) * 5) / 9 : warm }),
      });
    }
  });
  return days.size === 0
    ? bad('history-empty', `No day in this history can be read. ${leftOut[0] ?? ''}`.trim())
    : good({ days: [...days.values()].sort((a, b) => (a.date < b.date ? -1 : 1)), leftOut });
}

type Order = 'year' | 'day' | 'month';

/** How the dates are written: by those that only fit one order; null where none decides. */
function orderOf(dates: readonly string[]): Order | null {
  const parts = dates.flatMap((d) => {
    const m = /^(\d{1,4})([-./])(\d{1,2})[-./](\d{1,4})/.exec(d);
    return m ? [{ first: m[1] ?? '', a: Number(m[1]), sign: m[2], b: Number(m[3]) }] : [];
  });
  if (parts.length === 0 || parts.every((p) => p.first.length === 4)) return 'year';
  if (parts.some((p) => p.first.length < 4 && p.a > 12) || parts.every((p) => p.sign === '.')) return 'day';
  if (parts.some((p) => p.b > 12)) return 'month';
  // Within one history the day moves and the month rarely does.
  const [as, bs] = [new Set(parts.map((p) => p.a)).size, new Set(parts.map((p) => p.b)).size];
  return as > bs ? 'day' : bs > as ? 'month' : null;
}

function isoOf(text: string, order: Order): string | null {
  const m = /^(\d{1,4})[-./](\d{1,2})[-./](\d{1,4})/.exec(text);
  if (!m) return null;
  const [a, b, c] = [Number(m[1]), Number(m[2]), Number(m[3])];
  const [year, month, day] = (m[1] ?? '').length === 4 ? [a, b, c] : order === 'month' ? [c, a, b] : [c, b, a];
  const full = year < 100 ? 2000 + year : year;
  const date = new Date(Date.UTC(full, month - 1, day));
  return full >= 1990 && full <= 2200 && date.getUTCMonth() === month - 1 && date.getUTCDate() === day ? date.toISOString().slice(0, 10) : null;
}

/** “95”, “1.6 h” under hours, “01:35” as hours and minutes. */
function minutesOf(text: string, comma: boolean, hours: boolean): number | null {
  const clock = /^\s*(\d{1,2}):(\d{2})(?::\d{2})?\s*$/.exec(text);
  if (clock) return Number(clock[1]) * 60 + Number(clock[2]);
  const value = readWritten(text.replace(/\s*(min|h|hours?|minutes?)\s*$/i, ''), comma);
  return value === null || value < 0 ? null : value * (hours ? 60 : 1);
}
