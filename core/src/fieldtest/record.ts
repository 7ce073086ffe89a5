import * as z from 'zod';
import { between, identifier, shortText } from '../sheet';

/** The guided tests. A new one is one file and one line in the list. */
export const testCodes = [
  'display',
  'chill',
  'lowTemperature',
  'thermostat',
  'absorbHold',
  'absorbToFloat',
  'recharge',
  'loadCutoff',
  'currentCeiling',
  'regulatorTerminals',
  'alternatorStart',
  'sisters',
  'monitorFull',
  'powerCycle',
  'turbine',
  'passcode',
  'history',
] as const;
const testCodeSchema = z.enum(testCodes);
export type TestCode = z.infer<typeof testCodeSchema>;

/** How good the evidence is: read off an instrument, from the device’s own daily history, or from its lamps. */
export const gradeSchema = z.enum(['measured', 'history', 'lamps']);
export type Grade = z.infer<typeof gradeSchema>;

/** A grade in words. */
export const gradeWords: Readonly<Record<Grade, string>> = { measured: 'measured', history: 'from its daily history', lamps: 'from its lamps' };

const readingSchema = z.union([between(-1e5, 1e5), shortText(60)]);

/** What was done or read at one step. */
const testAnswerSchema = z.object({
  step: z.string().min(1).max(60),
  at: z.iso.datetime(),
  values: z.record(z.string().max(40), readingSchema),
  /** Why it was left out. */
  skipped: shortText(200).optional(),
});
export type TestAnswer = z.infer<typeof testAnswerSchema>;

/** A guided test under way or done. Steps and bands are worked out from the job; only what was read is kept. */
export const testRecordSchema = z.object({
  id: identifier,
  code: testCodeSchema,
  /** Charger or companion it is about. */
  device: identifier,
  begunAt: z.iso.datetime(),
  endedAt: z.iso.datetime().nullable(),
  by: shortText(20),
  /** Meter, and what battery or sensor temperature was read with. */
  instrument: identifier,
  grade: gradeSchema,
  answers: z.array(testAnswerSchema).max(60),
  /** Readings taken again and again, in order. */
  series: z.array(testAnswerSchema).max(400),
  note: shortText(1000),
  photos: z.array(identifier).max(12),
  /** A log recorded while it ran. */
  log: identifier.optional(),
});
export type TestRecord = z.infer<typeof testRecordSchema>;

/** First and last moment at which something was read, s since 1970; when it began where nothing was. What is only done or put back is no reading. */
export function readBetween(record: TestRecord): { readonly from: number; readonly to: number } {
  const times = [...record.answers.filter((a) => Object.keys(a.values).length > 0), ...record.series].map((a) => Date.parse(a.at) / 1000);
  if (times.length === 0) times.push(Date.parse(record.begunAt) / 1000);
  return { from: Math.min(...times), to: Math.max(...times) };
}
