import { formatDay } from '../../quantity';
import type { Log } from '../log';

/** The day a moment falls on by the log's own clock: a number that rises by one a day. */
export const dayOf = (log: Log, seconds: number): number => Math.floor((seconds + (log.offsetMinutes ?? 0) * 60) / 86_400);

/** A day in words. */
export const dayWords = (day: number): string => formatDay(day * 86_400);

/** Days as a list that can be read: the first three, and how many more. */
export function daysListed(days: readonly number[]): string {
  const shown = days.slice(0, 3).map(dayWords);
  const more = days.length - shown.length;
  return more > 0 ? `${shown.join(', ')} and ${more} more` : shown.join(' and ');
}
