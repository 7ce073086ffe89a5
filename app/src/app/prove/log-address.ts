import type { Explanation } from '@calm-keel/core/proof';
import { isoWithOffset } from '@calm-keel/core/quantity';

/** A stretch of a log on the log's own clock, as the address and the plot write it: “2026-02-17T07:14:00”. */
export type ClockRange = readonly [from: string, to: string];

const shape = /^(\d{4}-\d{2}-\d{2})[T ](\d{2}:\d{2})(?::(\d{2})(?:\.\d+)?)?$/;

/** A moment on a log's clock as the address writes it; null for what is none. The plot writes a blank for the T, and fractions. */
export function clockText(text: string | undefined): string | null {
  const [, day, minutes, seconds] = shape.exec(text ?? '') ?? [];
  const full = day && minutes ? `${day}T${minutes}:${seconds ?? '00'}` : null;
  return full !== null && Number.isFinite(Date.parse(`${full}Z`)) ? full : null;
}

/** Seconds since 1970 of a moment on a log's clock, of a log so many minutes ahead of UTC. */
export const secondsOf = (clock: string, offsetMinutes: number | null): number => Date.parse(`${clock}Z`) / 1000 - (offsetMinutes ?? 0) * 60;

/** A moment on a log's clock, to the second. */
export const clockOf = (seconds: number, offsetMinutes: number | null): string => isoWithOffset(Math.round(seconds) + (offsetMinutes ?? 0) * 60, null);

/** The stretch that an address names; null for the whole log, and for one that ends before it begins. */
export function rangeOf(from: string | undefined, to: string | undefined): ClockRange | null {
  const [a, b] = [clockText(from), clockText(to)];
  return a !== null && b !== null && a < b ? [a, b] : null;
}

/** What is told of a log by its moment, “2026-02-17T07:14:00”; the second of the same moment is “…~2”. */
export function momentOf(told: readonly Explanation[], index: number, offsetMinutes: number | null): string | null {
  const at = told[index];
  if (!at) return null;
  const clock = clockOf(at.at, offsetMinutes);
  const before = told.slice(0, index).filter((t) => clockOf(t.at, offsetMinutes) === clock).length;
  return before === 0 ? clock : `${clock}~${before + 1}`;
}

/** Which of what is told an address means; −1 where it means none of them. */
export const toldAt = (told: readonly Explanation[], moment: string | undefined, offsetMinutes: number | null): number =>
  moment === undefined ? -1 : told.findIndex((_, i) => momentOf(told, i, offsetMinutes) === moment);
