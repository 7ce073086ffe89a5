import type { Cell } from '../paper';

/** A cell of a table or a line of a list. */
export const cell = (text: string, tone?: Cell['tone'], below?: string): Cell => ({ text, ...(tone ? { tone } : {}), ...(below ? { below } : {}) });

/** The date of an ISO time. */
export const day = (at: string): string => at.slice(0, 10);

/** ISO time as a person reads it, in UTC as it was kept. */
export const moment = (at: string): string => `${at.slice(0, 10)} ${at.slice(11, 16)} UTC`;
