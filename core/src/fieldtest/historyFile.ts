import { bad, good, type Result } from '../quantity';
import { dayOf, orderOf, readNumber, type Mapping, type SplitRows } from '../proof';

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
  absorb: /\babsor[bp]/i,
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
  const milli = /(^| )mv( |$)/i.test(head[highAt] ?? '');
  const hours = /\bh(ours?|rs?)?\b/i.test(head[absorbAt] ?? '');
  const fahrenheit = /\b(deg )?f\b|°f/i.test(head[warmAt] ?? '');
  const body = found.rows.slice(found.at + 1).filter((r) => r.some((f) => f.trim() !== ''));
  const doubts: string[] = [];
  const order = orderOf(
    body.map((r) => dateIn(r[dateAt] ?? '')),
    doubts,
  );
  if (doubts.length > 0)
    return bad('history-dates', `Dates such as “${dateIn(body[0]?.[dateAt] ?? '')}” can be read two ways. Save them with the year first, as 2026-06-14.`);
  // A decimal comma shows in a field of its own; where fields end at commas there is none.
  const comma = found.separator !== ',' && body.some((r) => r.some((f) => /^\s*-?\d+,\d+/.test(f)));
  const days = new Map<string, HistoryRow>();
  const leftOut: string[] = [];
  body.forEach((row, i) => {
    const leave = (why: string): void => {
      if (leftOut.length < mostTold) leftOut.push(`Line ${found.at + i + 2} ${why}.`);
    };
    const date = isoOf(dateIn(row[dateAt] ?? ''), order);
    const highest = numberIn(row[highAt] ?? '', comma);
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
      const warm = warmAt < 0 ? null : numberIn(row[warmAt] ?? '', comma);
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

/** The date of a field that may have a time behind it; the field itself where there is none. */
const dateIn = (field: string): string => /^\s*(\d{1,4}[-./]\d{1,2}[-./]\d{1,4})(?=\D|$)/.exec(field)?.[1] ?? field.trim();

function isoOf(date: string, order: Mapping['dateOrder']): string | null {
  const seconds = dayOf(date, order);
  return Number.isNaN(seconds) ? null : new Date(seconds * 1000).toISOString().slice(0, 10);
}

/** A number of a field; null for an empty one and for what is none. */
function numberIn(field: string, comma: boolean): number | null {
  const value = readNumber(field, comma);
  return value === null || Number.isNaN(value) ? null : value;
}

/** “95”, “1.6 h” under hours, “01:35” as hours and minutes. */
function minutesOf(text: string, comma: boolean, hours: boolean): number | null {
  const clock = /^\s*(\d{1,2}):(\d{2})(?::\d{2})?\s*$/.exec(text);
  if (clock) return Number(clock[1]) * 60 + Number(clock[2]);
  const value = numberIn(text.replace(/\s*(min|h|hours?|minutes?)\s*$/i, ''), comma);
  return value === null || value < 0 ? null : value * (hours ? 60 : 1);
}
