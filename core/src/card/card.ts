import * as z from 'zod';
import { asideSchema, mostAside } from '../quantity';
import { between, chemistrySchema, identifier, isoDate, shortText } from '../sheet';
import { cardFaults } from './faults';
import { deviceValuesSchema, roleSchema, type Role } from './role';
import { telemetrySchema } from './telemetry';
import { deviceUnits } from './unit';

/** Who looked something up, when, and where: on a device, or in a document. */
const saidSchema = z.object({ by: shortText(20), on: isoDate, from: z.enum(['device', 'document']), document: shortText(120).optional() });
export type Said = z.infer<typeof saidSchema>;

/** What any parameter may carry besides its value. */
const common = {
  /** The way from the home screen to the value, in order: `Enter`, `Down: 2 times`, `Menu: hold 3 s`; `[Levels]` is what the display then shows. */
  keys: z.array(shortText(30)).max(16).default([]),
  access: z.enum(['basic', 'expert', 'installer']).default('basic'),
  /** In words: the battery type, mode or level that reveals it. */
  shownWhen: shortText(120).optional(),
  /** Another setting that its factory value, or even its present value, follows. */
  movesWith: roleSchema.optional(),
  /** The screen that proves the saved value, where it is not the card's usual one. */
  proof: shortText(160).optional(),
  /** Who looked it up last; missing where nobody says. */
  said: saidSchema.optional(),
};

const numberParameter = z.object({
  role: roleSchema,
  label: shortText(60),
  /** Menus to pass, outermost first. */
  menu: z.array(shortText(60)).max(8),
  unit: z.enum(deviceUnits),
  /** `positive`: the charger wants 24 where the maker prints −24 mV/°C. */
  slopeSign: z.enum(['negative', 'positive']).optional(),
  min: between(-1e5, 1e5),
  max: between(-1e5, 1e5),
  step: z.number().positive().max(1000),
  /** Range and default are for a 12 V system and multiply with the system voltage; the step does not. */
  per12V: z.boolean().default(false),
  special: z
    .array(z.object({ value: between(-1e5, 1e5), means: z.enum(['off', 'allDay', 'automatic']) }))
    .max(4)
    .default([]),
  /** Stepping below the least value jumps to the greatest. */
  wraps: z.boolean().default(false),
  factory: between(-1e5, 1e5).optional(),
  /** What nobody knows of it yet, `range` being both ends: what stands in its place is wide and fine enough never to move a value. */
  notKnown: z
    .array(z.enum(['range', 'least', 'most', 'step']))
    .max(4)
    .optional(),
  ...common,
});

const choiceParameter = z.object({
  role: roleSchema,
  label: shortText(60),
  menu: z.array(shortText(60)).max(8),
  unit: z.literal('choice'),
  /** `custom`: the battery type that hides no figure and overwrites none. */
  options: z
    .array(z.object({ value: shortText(40), means: z.enum(['on', 'off', 'custom', 'other']) }))
    .min(2)
    .max(20),
  factory: shortText(40).optional(),
  ...common,
});

const parameterSchema = z.discriminatedUnion('unit', [choiceParameter, numberParameter]).superRefine((p, ctx) => {
  if (p.unit !== 'choice' && p.min >= p.max) ctx.addIssue({ code: 'custom', message: 'the least value must be below the greatest' });
});
export type Parameter = z.infer<typeof parameterSchema>;
export type NumberParameter = z.infer<typeof numberParameter>;

/** A charger forces `parameter` to stay at least `gap` above (or below) `other`. */
const constraintSchema = z.object({
  parameter: roleSchema,
  relation: z.enum(['atLeast', 'atMost']),
  other: roleSchema,
  gap: between(-1000, 1000),
});

export type Constraint = z.infer<typeof constraintSchema>;

/** What a card is of: charge sources first, then the companions that must agree with them. */
const cardKindSchema = z.enum(['solarMppt', 'solarPwm', 'dcdc', 'alternator', 'turbine', 'inverterCharger', 'monitor', 'thermostat']);
export type CardKind = z.infer<typeof cardKindSchema>;

/** A kind in words. */
export const cardKindWords: Readonly<Record<CardKind, string>> = {
  solarMppt: 'solar charger, MPPT',
  solarPwm: 'solar charger, PWM',
  dcdc: 'DC-DC charger',
  alternator: 'alternator regulator',
  turbine: 'turbine charger',
  inverterCharger: 'inverter-charger',
  monitor: 'battery monitor',
  thermostat: 'thermostat and relay',
};

/** Whether cards of this kind charge the bank. */
export const isSource = (kind: CardKind): boolean => kind !== 'monitor' && kind !== 'thermostat';

/** One press that sets several parameters at once. */
const presetSchema = z.object({
  name: shortText(60),
  /** Device values by role, as the display shows them after it. */
  sets: deviceValuesSchema,
});

/** What nobody may know of a device, in groups that are found out one by one. A group stands for all of its own. */
export const unknownGroups = {
  /** Whether it has just these settings. */
  settings: [],
  /** How it saves; how long it holds an edit that is left alone. */
  saving: ['saveWay', 'saveTimeout'],
  /** How it starts, counts and ends absorb, and on whose current. */
  absorb: ['absorbStart', 'absorbCount', 'absorbEnd', 'absorbCurrent'],
  /** When it charges anew. */
  recharge: ['rechargeRule', 'rechargeDaily'],
  /** What its battery sensor is, what it is used for, and what happens without it. */
  sensor: ['sensorKind', 'sensorUse', 'sensorLoss'],
  /** Whether its display can be adjusted; how well display and regulation hold. */
  display: ['displayAdjust', 'displayAccuracy'],
  /** Whether it regulates from sense leads. */
  sense: [],
  /** What it forgets at a power cut. */
  powerCut: [],
  /** Whether it survives losing the battery. */
  batteryLoss: [],
  passcode: [],
  /** What its input takes. */
  input: [],
} as const;
export type UnknownGroup = keyof typeof unknownGroups;
export type CardUnknown = UnknownGroup | (typeof unknownGroups)[UnknownGroup][number];

const groupNames = Object.keys(unknownGroups) as UnknownGroup[];
/** Every unknown, each group before its own. */
export const allUnknowns: readonly CardUnknown[] = groupNames.flatMap((group) => [group, ...unknownGroups[group]]);
const cardUnknownSchema = z.enum(allUnknowns as [CardUnknown, ...CardUnknown[]]);

/** Places of the run sheet that a line of a card can stand before, besides its settings; `end` is behind all of them. */
export const linePlaces = ['wake', 'identify', 'compare', 'readOff', 'commit', 'persist', 'end'] as const;
export type LinePlace = (typeof linePlaces)[number] | Role;

/** What a manual tells to do, one line a step. */
const procedureSteps = z.array(shortText(160)).min(1).max(12);

/** How somebody sets a device. */
export const settingWays = ['list', 'menus', 'contact', 'numbers', 'switch', 'app', 'wire', 'nothing'] as const;
export type SettingWay = (typeof settingWays)[number];

/** A charger card: what one charger model, at one menu revision, offers. Data only. */
export const cardSchema = z
  .object({
    format: z.literal('calm-keel/card'),
    version: z.literal(1),
    id: identifier,
    /** Names of its file that this program does not know, held as they stood. */
    aside: z.array(asideSchema).max(mostAside).optional(),
    maker: shortText(60),
    model: shortText(60),
    kind: cardKindSchema,
    describes: z.object({ firmware: shortText(40), menuRevision: shortText(40) }),
    ratings: z.object({
      outputA: between(0, 10_000),
      systemVolts: z.array(z.int().min(6).max(1000)).min(1).max(8),
      /** Solar: most the input bears, V, and most short-circuit current, A. */
      arrayVoltsMax: between(1, 2000).optional(),
      arrayAmpsMax: between(0.1, 1000).optional(),
      /** DC-DC and turbine: range of the input, V. */
      inputVolts: z.object({ min: between(0, 2000), max: between(0.1, 2000) }).optional(),
      /** Thermostats: what the contact breaks, V DC and A. */
      contact: z.object({ volts: between(1, 2000), amps: between(0.1, 2000) }).optional(),
      chemistries: z.array(chemistrySchema).min(1),
    }),
    parameters: z.array(parameterSchema).max(80),
    constraints: z.array(constraintSchema).max(40),
    presets: z.array(presetSchema).max(20).default([]),
    commit: z.object({
      kind: z.enum(['auto', 'keyPress', 'longPress', 'endOfList']),
      timeoutSeconds: between(1, 3600).optional(),
      how: shortText(200),
      proof: shortText(200),
      /** The stroke that saves, where it is another than the one that keeps a value: `Store`, `Set: hold 4 s`. */
      stroke: shortText(40).optional(),
      /** Where a menu has two ways out: the one that saves and the one that throws the edit away. */
      waysOut: z.object({ saves: shortText(120), discards: shortText(120) }).optional(),
    }),
    absorb: z.object({
      start: z.discriminatedUnion('kind', [z.object({ kind: z.literal('touch') }), z.object({ kind: z.literal('held'), seconds: between(1, 3600) })]),
      end: z.enum(['time', 'taper', 'whicheverFirst', 'both', 'adaptive', 'stateOfCharge', 'none']),
      timerCounts: z.enum(['atVoltage', 'wallClock']),
      currentSeen: z.enum(['ownOutput', 'bank']),
    }),
    recharge: z
      .object({
        rule: z.enum(['voltage', 'belowFloat', 'days', 'none']),
        /** Starts a new cycle at every sunrise or start of the source, whatever the voltage. */
        restartsDaily: z.boolean(),
      })
      .default({ rule: 'voltage', restartsDaily: false }),
    sensor: z.object({
      reads: z.enum(['ownCase', 'wired', 'network', 'none']),
      usedFor: z.array(z.enum(['compensation', 'cutoff'])),
      withoutSensor: z.enum(['ignoresCutoff', 'stopsCharging', 'assumes25C']),
    }),
    display: z.object({ calibratable: z.boolean(), stepV: between(0.001, 1) }),
    /** How far the regulated voltage may sit from the value keyed in, percent of reading. */
    regulationPercent: between(0, 5),
    /** Regulates from sense leads at the battery instead of its own terminals. */
    remoteSense: z.boolean().default(false),
    /** Setpoints that move with battery temperature; the others stand fixed. */
    compensated: z.array(roleSchema).max(12).default(['absorbVoltage', 'bulkVoltage', 'floatVoltage', 'equaliseVoltage']),
    /** Can take its figures from a leader of the same kind. */
    canFollow: z.boolean().default(false),
    /** What is lost at a restart unless it was saved apart. */
    forgets: z.array(roleSchema).max(20).default([]),
    survivesBatteryLoss: z.boolean(),
    defaultPasscode: z.boolean(),
    programming: z.object({
      /** It can be programmed on the bench, before it is mounted and without its source. */
      bench: z.boolean().optional(),
      /** How a level of access is reached. */
      levels: z.partialRecord(z.enum(['expert', 'installer']), shortText(160)).optional(),
      powered: shortText(160),
      disconnected: z.array(shortText(80)).max(8),
      powerUp: z.array(shortText(80)).max(8).default([]),
      tools: z.array(shortText(80)).max(8).default([]),
    }),
    keys: z
      .array(
        z.object({
          key: shortText(30),
          does: shortText(160),
          alsoDoes: shortText(160).optional(),
          /** When the other meaning comes: held so long, or pressed on the home screen; and whether it restores the factory values. */
          second: z.object({ when: z.enum(['held', 'home']), seconds: between(0.5, 60).optional(), does: z.enum(['factory', 'other']) }).optional(),
        }),
      )
      .max(12),
    /** Keys that change a value and keep it, the one that leads back, and how they run when held. */
    entry: z
      .object({ raise: shortText(30), lower: shortText(30), keep: shortText(40).optional(), back: shortText(40).optional(), held: shortText(160).optional() })
      .optional(),
    /** How a program reads and writes it, where it can. */
    telemetry: telemetrySchema.optional(),
    /** How it is set. */
    setBy: z.enum(settingWays).optional(),
    /** Settings that another device may say over a data line, and what counts when that line is lost; missing while nobody knows. */
    dictated: z.object({ roles: z.array(roleSchema).min(1).max(40), whenLost: z.enum(['ownFigures', 'lastFigures', 'stops']).optional() }).optional(),
    /** Ways back, as the manual prints them; one that is missing is not known. */
    procedures: z
      .object({
        /** To the factory values; and the settings that it leaves alone, missing while nobody knows. */
        factoryReset: z.object({ steps: procedureSteps, spares: z.array(roleSchema).max(40).optional() }).optional(),
        /** To a passcode that somebody forgot; and whether the settings are gone then, missing while nobody knows. */
        forgottenPasscode: z.object({ steps: procedureSteps, resets: z.boolean().optional() }).optional(),
      })
      .optional(),
    /** What is to be done by hand at a place of its run sheet: “Loosen the strap first”. */
    lines: z
      .array(z.object({ before: z.union([z.enum(linePlaces), roleSchema]), says: shortText(160).min(1) }))
      .max(20)
      .optional(),
    /** Settings of which nobody knows what they mean: nobody touches them. `shows` is what was read there. */
    others: z
      .array(z.object({ label: shortText(60), menu: z.array(shortText(60)).max(8), shows: shortText(40).optional() }))
      .max(300)
      .optional(),
    /** Who looked it up, when, and where: on a device, or in a document. */
    surveyed: z.array(saidSchema).max(40).optional(),
    /** What stands in its place is the careful guess that is counted with, and said to be one. */
    notKnown: z.array(cardUnknownSchema).max(cardUnknownSchema.options.length).optional(),
  })
  .superRefine((card, ctx) => {
    const seen = new Set<Role>();
    card.parameters.forEach((p, i) => {
      if (seen.has(p.role)) ctx.addIssue({ code: 'custom', path: ['parameters', i, 'role'], message: `${p.role} is there twice` });
      seen.add(p.role);
    });
    for (const { place, message } of cardFaults(card)) ctx.addIssue({ code: 'custom', path: [...place], message });
  });
export type Card = z.infer<typeof cardSchema>;

/** What a choice on the device means: on, off, custom, other; null where the role is no choice or the value none of its options. */
export function meansOf(parameter: Parameter | undefined, value: unknown): 'on' | 'off' | 'custom' | 'other' | null {
  return parameter?.unit === 'choice' ? (parameter.options.find((o) => o.value === value)?.means ?? null) : null;
}

/** Whether something of a card is not known: of a group, anything of it. */
export const isUnknown = ({ notKnown = [] }: Pick<Card, 'notKnown'>, what: CardUnknown): boolean =>
  notKnown.some((missing) => missing === what || groupOf(missing) === what || groupOf(what) === missing);

/** The group of one that belongs to a group. */
export const groupOf = (what: CardUnknown): UnknownGroup | undefined =>
  groupNames.find((group) => (unknownGroups[group] as readonly CardUnknown[]).includes(what));

/** A card's unknowns without one that was found out: of a group the rest of it remains. */
export const foundOut = (notKnown: readonly CardUnknown[], what: CardUnknown): readonly CardUnknown[] =>
  notKnown.flatMap((missing) => {
    const own: readonly CardUnknown[] = missing in unknownGroups ? unknownGroups[missing as UnknownGroup] : [];
    return missing === what ? [] : own.includes(what) ? own.filter((other) => other !== what) : [missing];
  });

/** Whether the range, one end of it, or the step of a number on a device is known. */
export const isKnown = (parameter: NumberParameter, what: 'range' | 'least' | 'most' | 'step'): boolean =>
  !(parameter.notKnown ?? []).some((missing) => missing === what || (missing === 'range' && what !== 'step') || (what === 'range' && missing !== 'step'));

/** Where a number on a card has each of its ends, and its step. */
export const endFields = { least: 'min', most: 'max', step: 'step' } as const;
export type RangeEnd = keyof typeof endFields;
export const rangeEnds = Object.keys(endFields) as readonly RangeEnd[];

/**
 * The settings of a card after a change: those that are not as they were were looked up by whoever is named, or by nobody who says so; the others as before.
 *
 * @param before of a card that was read; the same for `after`, so that both have their names in one order
 * @param said who looked up a setting that changed; null where nobody says
 */
export const saidAnew = (before: readonly Parameter[], after: readonly Parameter[], said: (parameter: Parameter) => Said | null): Parameter[] =>
  after.map((parameter) => {
    const { said: _said, ...now } = parameter;
    const { said: formerly, ...was } = before.find((p) => p.role === parameter.role) ?? ({} as Partial<Parameter>);
    const own = JSON.stringify(now) === JSON.stringify(was) ? formerly : said(parameter);
    return own ? { ...now, said: own } : now;
  });

/** The card's parameter for a role, if it has one. */
export const parameterFor = (card: Card, role: Role): Parameter | undefined => card.parameters.find((p) => p.role === role);
