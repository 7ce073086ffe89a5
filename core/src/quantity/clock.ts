const pad = (n: number): string => String(n).padStart(2, '0');

/** Minutes since midnight as a clock shows them: "07:42". */
export const formatTimeOfDay = (minutes: number): string => `${pad(Math.floor(minutes / 60))}:${pad(Math.floor(minutes % 60))}`;

/** A moment on the log's own clock: "07:42", or with the date "14 Jun 07:42". */
export function formatClock(seconds: number, offsetMinutes: number | null, withDate = false): string {
  const at = new Date((seconds + (offsetMinutes ?? 0) * 60) * 1000);
  const time = `${pad(at.getUTCHours())}:${pad(at.getUTCMinutes())}`;
  return withDate ? `${formatDate(seconds, offsetMinutes)} ${time}` : time;
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A moment of a run, whose clock has no zone: "14:39", or with the day "15 Jun 14:39". */
export const formatMoment = (seconds: number, withDay: boolean): string => `${withDay ? `${formatDay(seconds)} ` : ''}${formatClock(seconds, null)}`;

/** Its day alone: "15 Jun". */
export function formatDay(seconds: number): string {
  const at = new Date(seconds * 1000);
  return `${at.getUTCDate()} ${months[at.getUTCMonth()] ?? ''}`;
}

/** The day of a moment on the log's own clock: "14 Jun 2026". */
export function formatDate(seconds: number, offsetMinutes: number | null): string {
  const at = new Date((seconds + (offsetMinutes ?? 0) * 60) * 1000);
  return `${at.getUTCDate()} ${months[at.getUTCMonth()] ?? ''} ${at.getUTCFullYear()}`;
}

/** ISO time with the log's own offset: "2026-06-14T07:42:00+01:00". */
export function isoWithOffset(seconds: number, offsetMinutes: number | null): string {
  const full = new Date(Math.round((seconds + (offsetMinutes ?? 0) * 60) * 1000)).toISOString().slice(0, 23);
  const local = full.endsWith('.000') ? full.slice(0, 19) : full;
  if (offsetMinutes === null) return local;
  if (offsetMinutes === 0) return `${local}Z`;
  const size = Math.abs(offsetMinutes);
  return `${local}${offsetMinutes < 0 ? '-' : '+'}${pad(Math.floor(size / 60))}:${pad(size % 60)}`;
}
