import { format, parseISO } from 'date-fns';

/** A year-month-day as a person reads it: “2026-06-14” is “14 Jun 2026”. */
export const dayWords = (date: string): string => format(parseISO(date), 'd MMM yyyy');

/** The time of day of a moment, as a clock here shows it: “14:05”. */
export const clockWords = (iso: string): string => format(parseISO(iso), 'HH:mm');
