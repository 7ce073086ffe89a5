import * as z from 'zod';

/** A short name or note a person typed. It is text everywhere and never markup; control characters are refused. */
export const shortText = (max: number) =>
  z
    .string()
    .max(max, `at most ${max} characters`)

    .refine((text) => !/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/.test(text), 'control characters are not allowed');

/** A name used to refer to things inside a file: small letters, digits and hyphens. */
export const identifier = z.string().regex(/^[a-z0-9][a-z0-9-]{0,59}$/, 'use small letters, digits and hyphens, at most 60');

/** A calendar date, year-month-day. */
export const isoDate = z.string().regex(/^\d{4}-\d{2}(-\d{2})?$/, 'write dates as 2026-02 or 2026-02-14');

/** A finite number between two ends. */
export const between = (min: number, max: number) => z.number().min(min, `at least ${min}`).max(max, `at most ${max}`);
