import * as z from 'zod';
import { roleSchema } from '../card';
import { testRecordSchema } from '../fieldtest';
import type { Log } from '../proof';
import { asideSchema, mostAside } from '../quantity';
import { rehearsalSchema } from '../rehearsal';
import { programmingSchema, snapshotSchema } from '../runsheet';
import { allAssumed, defaultSchools, settingsInputSchema } from '../settings';
import { between, identifier, isoDate, rankSchema, shortText } from '../sheet';
import { visitSchema } from './visit';

/** The version this program writes. Older ones are migrated, newer ones refused. */
export const jobVersion = 9;

/** Run sheets of earlier visits that a job keeps. */
export const mostPastSheets = 24;

/** A log that belongs to a job. Its samples are kept beside the job document, never in it. */
const logEntrySchema = z.object({
  id: identifier,
  name: shortText(120),
  /** The instrument that wrote it: its accuracy goes into every verdict. */
  instrument: identifier,
  /** What wrote its battery temperature, where somebody has said so after the file was read: a device, `probe`, or `unknown`. */
  batterySensor: identifier.optional(),
  /** Seconds since 1970. */
  from: between(-1e11, 1e11),
  to: between(-1e11, 1e11),
  rows: z.int().min(0),
  /** Recorded from the devices themselves while somebody watched. */
  recorded: z.boolean().optional(),
});
export type LogEntry = z.infer<typeof logEntrySchema>;

/** What a log entry calls the sensor of its temperature while nobody knows which it is. */
export const unknownSensor = 'unknown';

/** A log with what its entry says of it. */
export const asEntered = (log: Log, { batterySensor }: Pick<LogEntry, 'batterySensor'>): Log => (batterySensor === undefined ? log : { ...log, batterySensor });

/** Kinds of document that can be kept with a job. */
export const attachmentTypes = ['application/pdf', 'image/png', 'image/jpeg', 'image/webp'] as const;

/** A document kept with the job: the sheet itself, a letter. Its bytes are kept beside the job document, never in it. */
export const attachmentSchema = z.object({
  id: identifier,
  name: shortText(160),
  type: z.enum(attachmentTypes),
  bytes: z.int().min(1),
  /** The sheet it belongs to. */
  sheet: identifier.optional(),
  /** Hash of its bytes, SHA-256, in hexadecimal. */
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
  /** What paper it is, as far as somebody has said it. */
  paper: z
    .object({
      title: shortText(160).optional(),
      revision: shortText(40).optional(),
      date: isoDate.optional(),
      /** Whose figures it holds. */
      rank: rankSchema.optional(),
      /** Where it was fetched: a page’s name, a person’s role. */
      from: shortText(160).optional(),
      fetched: isoDate.optional(),
    })
    .optional(),
});
export type Attachment = z.infer<typeof attachmentSchema>;

/** Who chose a school, and why. The newest of a school is last. */
const choiceSchema = z.object({
  school: z.string().max(40),
  to: shortText(40),
  /** Role of the person, never a name. */
  by: shortText(60),
  reason: shortText(300),
  date: isoDate,
});

const scalar = z.union([shortText(600), z.number(), z.boolean(), z.null()]);
const row = z.record(z.string().max(60), z.union([scalar, z.array(scalar).max(100)]));

/** A stop that somebody has accepted. It counts only while the finding says the same of the same device, numbers included. */
const acceptanceSchema = z.object({
  code: z.string().max(60),
  /** Device, setting and figure it is about. */
  charger: identifier.optional(),
  role: roleSchema.optional(),
  figure: z.string().max(60).optional(),
  /** What the finding knew; missing where an older program wrote down only the sentence. */
  facts: z.record(z.string().max(60), z.union([scalar, row, z.array(z.union([scalar, row])).max(100)])).optional(),
  /** The sentence that was accepted. */
  text: shortText(600),
  reason: shortText(300).min(1, 'say why'),
  /** Role of the person, never a name. */
  by: shortText(60),
  date: isoDate,
});
export type Acceptance = z.infer<typeof acceptanceSchema>;

/** A whole job: what is known, chosen and overridden. Everything else is derived from it. */
export const jobSchema = z
  .object({
    format: z.literal('calm-keel/job'),
    version: z.literal(jobVersion),
    id: identifier,
    name: shortText(80).min(1, 'give the job a name'),
    note: shortText(2000),
    createdAt: z.iso.datetime(),
    ...settingsInputSchema.shape,
    choices: z.array(choiceSchema).max(200),
    accepted: z.array(acceptanceSchema).max(200),
    /** The day last rehearsed; null while nobody has. */
    rehearsal: rehearsalSchema.nullable(),
    /** The run sheet under way, or the last one; null while none was begun. */
    programming: programmingSchema.nullable(),
    /** Run sheets of earlier visits, the newest last. */
    pastSheets: z.array(programmingSchema).max(mostPastSheets),
    /** What stood on each device, visit by visit; the newest last. */
    snapshots: z.array(snapshotSchema).max(300),
    /** Guided tests, under way and done; the newest last. */
    tests: z.array(testRecordSchema).max(200),
    /** Visits, in the order in which they were begun. */
    visits: z.array(visitSchema).max(200),
    /** Evidence older than this is to be taken again, months. */
    recheckMonths: z.int().min(1).max(60),
    logs: z.array(logEntrySchema).max(200),
    attachments: z.array(attachmentSchema).max(60),
    /** Names of its file that this program does not know, held as they stood. */
    aside: z.array(asideSchema).max(mostAside).optional(),
  })
  .superRefine((job, ctx) => {
    for (const [i, sheet] of job.otherSheets.entries())
      if (sheet.id === job.sheet.id || job.otherSheets.findIndex((s) => s.id === sheet.id) !== i)
        ctx.addIssue({ code: 'custom', path: ['otherSheets', i, 'id'], message: `the sheet ${sheet.id} is there twice` });
    job.logs.forEach((log, i) => {
      if (!job.system.instruments.some((x) => x.id === log.instrument))
        ctx.addIssue({ code: 'custom', path: ['logs', i, 'instrument'], message: 'name one of the instruments' });
    });
  });
export type Job = z.infer<typeof jobSchema>;

/** What a job has of its own before anything was decided or done: nothing. */
export const nothingDone = {
  overrides: [],
  choices: [],
  accepted: [],
  rehearsal: null,
  programming: null,
  pastSheets: [],
  snapshots: [],
  tests: [],
  visits: [],
  logs: [],
  attachments: [],
} satisfies Partial<Job>;

/** What a multimeter usually promises; the person corrects it by its manual. */
export const usualMeter = {
  volts: { percent: 0.5, digits: 2, resolution: 0.01 },
  amps: { percent: 2, digits: 3, resolution: 0.1 },
  temperatureErrorC: 1,
};

/**
 * A new, empty job: no figures, no chargers. What nothing can be worked out without is assumed and marked so: one LFP battery, a place, a meter of a usual
 * accuracy.
 *
 * @param now ISO time
 */
export function newJob(id: string, name: string, now: string): Job {
  return {
    format: 'calm-keel/job',
    version: jobVersion,
    id,
    name,
    note: '',
    createdAt: now,
    sheet: {
      format: 'calm-keel/sheet',
      version: 1,
      id: 'new-sheet',
      maker: '',
      battery: 'Battery',
      chemistry: 'lfp',
      document: '',
      revision: '',
      date: '',
      unit: { nominalVolts: 12.8, cellsInSeries: 4 },
      figures: {},
      derating: [],
    },
    otherSheets: [],
    system: {
      bank: { unitsInSeries: 1, stringsInParallel: 1, capacityFactor: 1, capacityReason: '', hasBms: true },
      site: { place: '', recordLowC: -10, recordHighC: 35, bankLowC: 0, bankHighC: 35, coolingCPerHour: 5 },
      loads: { minA: 0, maxA: 0 },
      chargers: [],
      companions: [],
      instruments: [{ ...usualMeter, id: 'meter', name: 'Multimeter', assumed: true }],
      provingInstrument: 'meter',
    },
    cards: [],
    schools: defaultSchools,
    ...nothingDone,
    recheckMonths: 12,
    tolerance: { voltsPerCell: 0.0125, rank: 'assumed' },
    assumed: allAssumed,
    coverage: 2,
  };
}
