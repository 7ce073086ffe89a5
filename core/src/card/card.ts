import * as z from 'zod';
import { between, chemistrySchema, identifier, shortText } from '../sheet';
import { roleSchema, type Role } from './role';

/**
 * The form in which a charger wants a value.
 * `V`: absolute volts. `V/12V`: volts of a 12 V block. `V below float`: an offset.
 * `mV/°C/12V`, `mV/°C`, `mV/°C/cell`: slope for six cells, for the bank, for one cell.
 */
export const deviceUnitSchema = z.enum([
  'V',
  'V/12V',
  'V below float',
  'mV/°C/12V',
  'mV/°C',
  'mV/°C/cell',
  's',
  'min',
  'h',
  'd',
  'A',
  '% of rating',
  '°C',
  '°F',
  'choice',
]);

const numberParameter = z.object({
  role: roleSchema,
  label: shortText(60),
  /** Menus to pass, outermost first. */
  menu: z.array(shortText(60)).max(8),
  unit: deviceUnitSchema.exclude(['choice']),
  /** `positive`: the charger wants 24 where the maker prints −24 mV/°C. */
  slopeSign: z.enum(['negative', 'positive']).optional(),
  min: between(-1e5, 1e5),
  max: between(-1e5, 1e5),
  step: z.number().positive().max(1000),
  /** Range and default are for a 12 V system and multiply with the system voltage; the step does not. */
  per12V: z.boolean().default(false),
  special: z
    .array(z.object({ value: between(-1e5, 1e5), means: z.enum(['off', 'allDay']) }))
    .max(4)
    .default([]),
  /** Stepping below the least value jumps to the greatest. */
  wraps: z.boolean().default(false),
  factory: between(-1e5, 1e5).optional(),
  access: z.enum(['basic', 'expert']).default('basic'),
  shownWhen: shortText(120).optional(),
});

const choiceParameter = z.object({
  role: roleSchema,
  label: shortText(60),
  menu: z.array(shortText(60)).max(8),
  unit: z.literal('choice'),
  options: z
    .array(z.object({ value: shortText(40), means: z.enum(['on', 'off', 'other']) }))
    .min(2)
    .max(20),
  factory: shortText(40).optional(),
  access: z.enum(['basic', 'expert']).default('basic'),
  shownWhen: shortText(120).optional(),
});

export const parameterSchema = z.discriminatedUnion('unit', [choiceParameter, numberParameter]).superRefine((p, ctx) => {
  if (p.unit !== 'choice' && p.min >= p.max) ctx.addIssue({ code: 'custom', message: 'the least value must be below the greatest' });
});
export type Parameter = z.infer<typeof parameterSchema>;
export type NumberParameter = z.infer<typeof numberParameter>;

/** A charger forces `parameter` to stay at least `gap` above (or below) `other`. */
export const constraintSchema = z.object({
  parameter: roleSchema,
  relation: z.enum(['atLeast', 'atMost']),
  other: roleSchema,
  gap: between(-1000, 1000),
});

/** A charger card: what one charger model, at one menu revision, offers. Data only. */
export const cardSchema = z
  .object({
    format: z.literal('calm-keel/card'),
    version: z.literal(1),
    id: identifier,
    maker: shortText(60),
    model: shortText(60),
    kind: z.enum(['solarMppt', 'solarPwm']),
    describes: z.object({ firmware: shortText(40), menuRevision: shortText(40) }),
    ratings: z.object({
      outputA: between(0.1, 10_000),
      systemVolts: z.array(z.int().min(6).max(1000)).min(1).max(8),
      arrayVoltsMax: between(1, 2000),
      chemistries: z.array(chemistrySchema).min(1),
    }),
    parameters: z.array(parameterSchema).max(80),
    constraints: z.array(constraintSchema).max(40),
    commit: z.object({
      kind: z.enum(['auto', 'keyPress', 'longPress', 'endOfList']),
      timeoutSeconds: between(1, 3600).optional(),
      how: shortText(200),
      proof: shortText(200),
    }),
    absorb: z.object({
      start: z.discriminatedUnion('kind', [z.object({ kind: z.literal('touch') }), z.object({ kind: z.literal('held'), seconds: between(1, 3600) })]),
      end: z.enum(['time', 'taper', 'whicheverFirst']),
      timerCounts: z.enum(['atVoltage', 'wallClock']),
      currentSeen: z.enum(['ownOutput', 'bank']),
    }),
    sensor: z.object({
      reads: z.enum(['ownCase', 'wired', 'network', 'none']),
      usedFor: z.array(z.enum(['compensation', 'cutoff'])),
      withoutSensor: z.enum(['ignoresCutoff', 'stopsCharging', 'assumes25C']),
    }),
    display: z.object({ calibratable: z.boolean(), stepV: between(0.001, 1) }),
    /** How far the regulated voltage may sit from the value keyed in, percent of reading. */
    regulationPercent: between(0, 5),
    survivesBatteryLoss: z.boolean(),
    defaultPasscode: z.boolean(),
    programming: z.object({ powered: shortText(160), disconnected: z.array(shortText(80)).max(8) }),
    keys: z.array(z.object({ key: shortText(30), does: shortText(160), alsoDoes: shortText(160).optional() })).max(12),
  })
  .superRefine((card, ctx) => {
    const seen = new Set<Role>();
    card.parameters.forEach((p, i) => {
      if (seen.has(p.role)) ctx.addIssue({ code: 'custom', path: ['parameters', i, 'role'], message: `${p.role} stands twice` });
      seen.add(p.role);
    });
  });
export type Card = z.infer<typeof cardSchema>;

/** The card's parameter for a role, if it has one. */
export const parameterFor = (card: Card, role: Role): Parameter | undefined => card.parameters.find((p) => p.role === role);
