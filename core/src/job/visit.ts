import * as z from 'zod';
import { deviceValuesSchema } from '../card';
import { between, identifier, isoDate, shortText } from '../sheet';

/** What counted when a visit was closed: so that it can be told a year later, whatever was changed since. */
const closedVisitSchema = z.object({
  at: z.iso.datetime(),
  /** The figures that were pinned. */
  sheet: z.object({ id: identifier, battery: shortText(170), document: shortText(160), revision: shortText(40), date: isoDate.or(z.literal('')) }),
  schools: z.record(z.string().max(40), z.union([shortText(40), between(-1e6, 1e6)])),
  /** What each device was to hold, and what it held, as its display shows it. */
  targets: z.record(identifier, deviceValuesSchema),
  present: z.record(identifier, deviceValuesSchema),
  verdicts: z.object({
    pass: z.int().min(0),
    fail: z.int().min(0),
    inconclusive: z.int().min(0),
    notTested: z.int().min(0),
    stated: z.int().min(0).default(0),
  }),
  /** What was left open, in words. */
  open: z.array(shortText(600)).max(120),
});

/** Letters that the note of a visit takes. */
export const mostNote = 4000;

/** One visit: who came, what for, and what was noted. What was set and proved then carries its own date and is found by it. */
export const visitSchema = z.object({
  id: identifier,
  date: isoDate,
  by: shortText(20),
  purpose: shortText(120),
  note: shortText(mostNote),
  photos: z.array(identifier).max(12),
  /** The bank was equalised then. */
  equalised: z.boolean().optional(),
  /** Packs without a balancer were brought to one level, cell by cell, then. */
  balanced: z.boolean().optional(),
  closed: closedVisitSchema.nullable(),
});
export type Visit = z.infer<typeof visitSchema>;
