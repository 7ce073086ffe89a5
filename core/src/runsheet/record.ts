import * as z from 'zod';
import { deviceValuesSchema } from '../card';
import { between, identifier, isoDate, shortText } from '../sheet';
import { displayReadingSchema } from '../system';

/** How a reading came in: from the device’s display, from its registers, from a paper sheet that was filled in beside it, or from a file that its own program wrote. */
const waySchema = z.enum(['display', 'wire', 'paper', 'file']);
export type Way = z.infer<typeof waySchema>;

/** The same in words, behind what was read. */
export const wayWords: Readonly<Record<Way, string>> = {
  display: 'off its display',
  wire: 'over the wire',
  paper: 'from paper',
  file: 'from a settings file',
};

/** What an answer changed beside the values, as it was before it: taking the answer back brings it back. */
const beforeSchema = z.object({
  /** Null: nobody had read it off. */
  firmware: shortText(60).nullable().optional(),
  displayReadings: z.array(displayReadingSchema).max(6).optional(),
  passcodeChanged: z.boolean().optional(),
  /** Null where nobody had said it. */
  sensorFitted: z.boolean().nullable().optional(),
  resetSinceProof: z.boolean().optional(),
  found: deviceValuesSchema.optional(),
});
export type Before = z.infer<typeof beforeSchema>;

/** What was answered to a step of the run sheet. */
const answerSchema = z.object({
  step: z.string().min(1).max(120),
  state: z.enum(['done', 'skipped']),
  at: z.iso.datetime(),
  /** Initials or role of the person. */
  by: shortText(20),
  way: waySchema,
  instrument: identifier.optional(),
  /** The value that was wanted when it was answered: a step whose value has changed since stands open again. */
  wanted: z.union([between(-1e5, 1e5), shortText(40)]).optional(),
  /** What was read back: the value, the firmware. */
  reading: z.union([between(-1e5, 1e5), shortText(60)]).optional(),
  /** What several lines read at once: values found, values after a power cut. */
  values: deviceValuesSchema.optional(),
  /** Meter and display side by side, V. */
  meterV: between(0.1, 2000).optional(),
  displayV: between(0.1, 2000).optional(),
  /** Why it was skipped, or why another value was kept. */
  reason: shortText(300).optional(),
  before: beforeSchema.optional(),
});
export type Answer = z.infer<typeof answerSchema>;

/** Something that went otherwise than it should: kept, whatever was done about it. */
const troubleSchema = z.object({
  at: z.iso.datetime(),
  device: identifier.nullable(),
  step: z.string().max(120),
  text: shortText(400),
});

/** A run sheet under way, or the last one. The steps are worked out from the job; only what was found and what was answered is kept. */
export const programmingSchema = z.object({
  begunAt: z.iso.datetime(),
  endedAt: z.iso.datetime().nullable(),
  by: shortText(20),
  instrument: identifier,
  /** `set`: towards the targets; `putBack`: back to what was found, and everything closed again. */
  aim: z.enum(['set', 'putBack']),
  /** Values found on each device before anything was keyed, by device. */
  found: z.record(identifier, deviceValuesSchema),
  /** Of devices that were reset meanwhile: what had been found on them before, to put it back. */
  beforeReset: z.record(identifier, deviceValuesSchema).optional(),
  answers: z.array(answerSchema).max(1500),
  /** The step in view; null is the first that is open. */
  at: z.string().max(120).nullable(),
  trouble: z.array(troubleSchema).max(300),
});
export type Programming = z.infer<typeof programmingSchema>;

/** What stood on a device at one moment, and how far that was verified. */
export const snapshotSchema = z.object({
  device: identifier,
  at: z.iso.datetime(),
  date: isoDate,
  by: shortText(20),
  way: waySchema,
  /** `readOff`: found; `readBack`: read after keying; `powerCycle`: read again after the power was off. */
  verified: z.enum(['readOff', 'readBack', 'powerCycle']),
  values: deviceValuesSchema,
  firmware: shortText(60).optional(),
});
export type Snapshot = z.infer<typeof snapshotSchema>;

/** How a snapshot was verified, in words. */
export const verifiedWords: Readonly<Record<Snapshot['verified'], string>> = {
  readOff: 'as found',
  readBack: 'read back, power not cut',
  powerCycle: 'read back after a power cut',
};
