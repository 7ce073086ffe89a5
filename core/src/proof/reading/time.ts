import { tzOffset } from '@date-fns/tz';
import type { Mapping } from './mapping';

/** A time of the file. */
export interface Stamp {
  /** Seconds since 1970, UTC; as if UTC where no zone is known. */
  seconds: number;
  /** Minutes east of UTC; null where no zone is known. */
  offset: number | null;
}

/** Reads the times of one file. Keeps the last day and the last quarter of an hour in mind, because neighbours share them. */
export interface Clock {
  /** Null for what is no time. The same object is used again by the next call. */
  read(text: string): Stamp | null;
  /** The same for a number: seconds since 1970, from 10¹¹ on milliseconds. */
  epoch(number: number): Stamp;
  /** The offset of the zone changed on the way: daylight saving. */
  readonly changes: number;
}

const two = (text: string, at: number): number => {
  const a = text.charCodeAt(at) - 48;
  const b = text.charCodeAt(at + 1) - 48;
  return a >= 0 && a <= 9 && b >= 0 && b <= 9 ? a * 10 + b : NaN;
};

/** Midnight of a written date, s since 1970 as if UTC; NaN for what is none. */
export function dayOf(text: string, order: Mapping['dateOrder']): number {
  const parts = /^(\d{1,4})[-./](\d{1,2})[-./](\d{1,4})$/.exec(text);
  if (!parts) return NaN;
  const [a = 0, b = 0, c = 0] = parts.slice(1).map(Number);
  const yearFirst = (parts[1] ?? '').length === 4;
  const [year, month, day] = yearFirst ? [a, b, c] : order === 'monthFirst' ? [c, a, b] : [c, b, a];
  const full = year < 100 ? 2000 + year : year;
  if (full < 1970 || full > 2200 || month < 1 || month > 12 || day < 1) return NaN;
  const seconds = Date.UTC(full, month - 1, day) / 1000;
  // The 31st of June is the 1st of July to the calendar, and a slip to everybody else.
  return new Date(seconds * 1000).getUTCDate() === day ? seconds : NaN;
}

const clockForm = /^(\d{1,2})[:.h](\d{2})(?:[:.](\d{2})(?:[.,](\d{1,9}))?)?\s*(?:([AaPp])\.?[Mm]\.?)?\s*(Z|UTC|GMT|[+-]\d{2}:?\d{2}|[+-]\d{2})?$/;

/** Makes a reader of times for a mapping. */
export function makeClock({ dateOrder, zone }: Pick<Mapping, 'dateOrder' | 'zone'>): Clock {
  const stamp: Stamp = { seconds: 0, offset: null };
  let lastDate = '';
  let lastDay = NaN;
  let lastZone = '';
  let lastOffset: number | null = null;
  let lastQuarter = NaN;
  let quarterOffset = 0;
  let before = -Infinity;
  let changes = 0;

  const offsetAt = (utcSeconds: number): number => tzOffset(zone ?? 'UTC', new Date(utcSeconds * 1000));

  /** From a zone's wall clock to UTC. An hour that comes twice is read as its second turn once the first has passed. */
  function zoned(local: number): Stamp {
    const quarter = Math.floor(local / 900);
    if (quarter !== lastQuarter) {
      lastQuarter = quarter;
      const first = offsetAt(local - offsetAt(local) * 60 - 3600);
      const guess = offsetAt(local - first * 60);
      if (guess !== quarterOffset && before > -Infinity) changes++;
      quarterOffset = guess;
    }
    let offset = quarterOffset;
    let seconds = local - offset * 60;
    if (seconds < before) {
      // Clocks went back: the same wall time an hour on.
      const later = offsetAt(seconds + 3600);
      if (later < offset && seconds + (offset - later) * 60 >= before) {
        seconds += (offset - later) * 60;
        offset = later;
      }
    }
    before = Math.max(before, seconds);
    stamp.seconds = seconds;
    stamp.offset = offset;
    return stamp;
  }

  function zoneOf(text: string): number | null {
    if (text === lastZone) return lastOffset;
    lastZone = text;
    if (text === '') lastOffset = null;
    else if (text === 'Z' || text === 'UTC' || text === 'GMT') lastOffset = 0;
    else if (!/^[+-]\d{2}(:?\d{2})?$/.test(text)) lastOffset = NaN;
    else lastOffset = (text.startsWith('-') ? -1 : 1) * (Number(text.slice(1, 3)) * 60 + (text.length > 3 ? Number(text.slice(-2)) : 0));
    return lastOffset;
  }

  function withZone(local: number, written: string): Stamp | null {
    const offset = zoneOf(written);
    if (offset !== offset || local !== local) return null;
    if (offset === null && zone !== null) return zoned(local);
    stamp.seconds = local - (offset ?? 0) * 60;
    stamp.offset = offset;
    return stamp;
  }

  function epoch(number: number): Stamp {
    stamp.seconds = number > 1e11 ? number / 1000 : number;
    if (zone === null) {
      stamp.offset = 0;
      return stamp;
    }
    const quarter = Math.floor(stamp.seconds / 900);
    if (quarter !== lastQuarter) {
      lastQuarter = quarter;
      const offset = offsetAt(stamp.seconds);
      if (before > -Infinity && offset !== quarterOffset) changes++;
      quarterOffset = offset;
    }
    before = stamp.seconds;
    stamp.offset = quarterOffset;
    return stamp;
  }

  return {
    epoch,
    get changes() {
      return changes;
    },
    read(given) {
      let text = given;
      const first = text.charCodeAt(0);
      if (first <= 32 || text.charCodeAt(text.length - 1) <= 32) text = text.trim();
      const n = text.length;
      // 2026-06-14T05:00:00 and what follows, the usual kind: the day is known from the line before.
      const c10 = n >= 19 ? text.charCodeAt(10) : 0;
      if ((c10 === 84 || c10 === 32) && text.charCodeAt(13) === 58 && text.charCodeAt(16) === 58) {
        if (!text.startsWith(lastDate) || lastDate.length !== 10) {
          lastDate = text.slice(0, 10);
          lastDay = dayOf(lastDate, dateOrder);
        }
        const h = two(text, 11);
        const m = two(text, 14);
        const s = two(text, 17);
        if (lastDay === lastDay && h <= 24 && m <= 59 && s <= 60) {
          if (n === 19) return withZone(lastDay + h * 3600 + m * 60 + s, '');
          if (n === 20 && text.charCodeAt(19) === 90) return withZone(lastDay + h * 3600 + m * 60 + s, 'Z');
          if (n === 25 && text.charCodeAt(22) === 58) return withZone(lastDay + h * 3600 + m * 60 + s, text.slice(19));
        }
      }
      // Seconds or milliseconds since 1970.
      if (n >= 9 && n <= 20 && /^\d{9,13}(\.\d+)?$/.test(text)) {
        return epoch(Number(text));
      }
      let split = text.indexOf('T');
      if (split < 0) split = text.search(/[ ,]/);
      if (split < 6) return null;
      const date = text.slice(0, split);
      if (date !== lastDate) {
        lastDate = date;
        lastDay = dayOf(date, dateOrder);
      }
      const clock = clockForm.exec(text.slice(split + 1).trim());
      if (Number.isNaN(lastDay) || !clock) return null;
      let hour = Number(clock[1]);
      const half = clock[5]?.toLowerCase();
      if (half) hour = (hour % 12) + (half === 'p' ? 12 : 0);
      const minute = Number(clock[2]);
      const second = Number(clock[3] ?? 0) + Number(`0.${clock[4] ?? '0'}`);
      if (hour > 24 || minute > 59 || second > 60) return null;
      return withZone(lastDay + hour * 3600 + minute * 60 + second, clock[6] ?? '');
    },
  };
}

/** Whether a text can be read as a time at all, by any order of its date. */
export const looksLikeTime = (text: string): boolean => /^\s*\d/.test(text) && text.length >= 8 && anyOrder.some((clock) => clock.read(text) !== null);

const anyOrder = (['yearFirst', 'dayFirst', 'monthFirst'] as const).map((dateOrder) => makeClock({ dateOrder, zone: null }));
