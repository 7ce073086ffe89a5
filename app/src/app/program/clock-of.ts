import { format, parseISO } from 'date-fns';

/** The time of day of a moment, as a clock here shows it. */
export const clockOf = (iso: string): string => format(parseISO(iso), 'HH:mm');
