import * as z from 'zod';
import { cardSchema, roleSchema, type Card } from '../card';
import { between, identifier, isoDate, rankSchema, referencePolicySchema, sheetSchema, shortText, statedFigure } from '../sheet';
import { bareCharger, systemSchema, type Charger, type Companion, type System } from '../system';

/** The choices on which practitioners differ. Each default is the more careful one. */
export const schoolsSchema = z.object({
  /** Whose figures count: the maker’s own paper only, or the best that can be had, each marked. */
  reference: referencePolicySchema,
  /** `hold` at the maker’s float, `floatEqualsAbsorb`, or `rest` until recharge. */
  lithiumFloat: z.enum(['hold', 'floatEqualsAbsorb', 'rest']),
  /** `full` to the sheet’s target, `gentle` at the low end of the absorb band. */
  topCharge: z.enum(['full', 'gentle']),
  /** Gentle: a full charge for balancing at least this often, days. */
  fullEveryDays: z.int().min(1).max(365),
  /** What ends absorb: as the sheet says, or by time, by taper current, or whichever comes first. */
  absorbEnd: z.enum(['asSheet', 'time', 'taper', 'whicheverFirst']),
  /** `offHarmless` also brings the stored equalise values down to absorb. */
  lithiumEqualise: z.enum(['off', 'offHarmless']),
  /** Compensation sensor on lithium: decided by what the charger uses it for, always unplugged, or always kept. */
  lithiumSensor: z.enum(['byUse', 'unplug', 'keep']),
  /** Where the cold protection of each source lives: wherever one works, in one place, or in two. */
  coldProtection: z.enum(['anyThatWorks', 'charger', 'bms', 'relay', 'two']),
  /** `margin`: above the sheet by what the sensor costs; `exact`: the sheet’s figure itself. */
  cutoffFigure: z.enum(['margin', 'exact']),
  /**
   * Where the cutoff goes when the derating table allows less than the sources give just above it: at the sheet’s minimum
   * plus margin, raised to the first stair that bears the sum, each source to the first stair that bears it beside the others,
   * or at the minimum with the limits lowered.
   */
  coldCurrent: z.enum(['sheetMinimum', 'raiseCutoff', 'stagger', 'lowerLimits']),
  /** The lowest of recommendation, bank, cable and fuse; the maker’s most; or about 0.3 C. */
  chargeCurrent: z.enum(['lowest', 'makerMost', 'third']),
  /** How the ceiling is shared: by rating, in the order of the roster, or by agreed shares. */
  allocation: z.enum(['byRating', 'priority', 'fixed']),
  /** Where the limit is measured: at each charger’s output, or at the shunt where the charger can. */
  limitMeasured: z.enum(['chargerOutput', 'shunt']),
  /** Capacity entered in the monitor: rated, or rated × the recorded factor. */
  monitorCapacity: z.enum(['factored', 'rated']),
  /** How monitor and chargers come to agree on full. */
  monitorFull: z.enum(['lowerMonitor', 'raiseAbsorb']),
  /** Alternators: one voltage and a low case limit, or high bulk, lower absorb and float, and a high case limit. */
  alternator: z.enum(['longCool', 'shortHot']),
  /** Away for months: as the maker answers, absorb every so many days, or at storage charge. */
  unattended: z.enum(['askMaker', 'absorbEvery', 'storage']),
});
export type Schools = z.infer<typeof schoolsSchema>;

/** The defaults of a new job. */
export const defaultSchools: Schools = {
  reference: 'makerOnly',
  lithiumFloat: 'hold',
  topCharge: 'full',
  fullEveryDays: 14,
  absorbEnd: 'asSheet',
  lithiumEqualise: 'offHarmless',
  lithiumSensor: 'byUse',
  coldProtection: 'anyThatWorks',
  cutoffFigure: 'margin',
  coldCurrent: 'sheetMinimum',
  chargeCurrent: 'lowest',
  allocation: 'byRating',
  limitMeasured: 'chargerOutput',
  monitorCapacity: 'factored',
  monitorFull: 'lowerMonitor',
  alternator: 'longCool',
  unattended: 'askMaker',
};

/** A person's figure in place of the derived one. It stays marked everywhere. */
const overrideSchema = z.object({
  charger: identifier,
  role: roleSchema,
  /**
   * In the core's unit at the bank: V, A, s, d, °C, V/°C per cell; the option of a choice, as the device shows it; `false` for the device's own off; null to
   * leave what stands on it.
   */
  value: z.union([between(-1e5, 1e5), shortText(40).min(1), z.literal(false), z.null()]),
  reason: shortText(300),
  /** Role of the person, never a name: "owner", "installer". */
  by: shortText(60),
  date: isoDate,
  /** Role of the second person who looked at it. */
  reviewedBy: shortText(60).optional(),
});
export type Override = z.infer<typeof overrideSchema>;

/** The tolerance used where the maker prints a single number instead of a band. */
const toleranceSchema = z.object({ voltsPerCell: between(0, 0.2), rank: rankSchema });

/** What a job begins with because nothing can be worked out without it. Each stays marked until somebody says it, be it the same. */
export const assumableSchema = z.enum([
  'chemistry',
  'nominalVolts',
  'cellsInSeries',
  'unitsInSeries',
  'stringsInParallel',
  'hasBms',
  'bankLowC',
  'bankHighC',
  'recordLowC',
  'recordHighC',
  'coolingCPerHour',
  'minA',
  'maxA',
]);
export type Assumable = z.infer<typeof assumableSchema>;

/** Everything the settings follow from. */
export const settingsInputSchema = z.object({
  sheet: sheetSchema,
  /** Other revisions kept with the job; none of them is used. */
  otherSheets: z.array(sheetSchema).max(20),
  system: systemSchema,
  cards: z.array(cardSchema).max(24),
  schools: schoolsSchema,
  overrides: z.array(overrideSchema).max(200),
  tolerance: toleranceSchema,
  /** What nobody has said yet: the value that stands there is the one a new job begins with. */
  assumed: z.partialRecord(assumableSchema, z.literal(true)).optional(),
  /** Coverage factor of every expanded uncertainty. */
  coverage: between(1, 4),
});
export type SettingsInput = z.infer<typeof settingsInputSchema>;

/** The card of a charger or companion, or undefined when the job does not carry it. */
export const cardOf = (input: SettingsInput, charger: Pick<Charger, 'card'>): Card | undefined => input.cards.find((card) => card.id === charger.card);

/** Every charger of a job with its card, in the order of the roster; chargers without a card are left out. */
export const chargersWithCards = (input: SettingsInput): readonly { readonly charger: Charger; readonly card: Card }[] =>
  input.system.chargers.flatMap((charger) => {
    const card = cardOf(input, charger);
    return card ? [{ charger, card }] : [];
  });

/** Where compensation is zero, °C: 25 unless the sheet says otherwise. */
export const referenceC = ({ input }: { readonly input: Pick<SettingsInput, 'sheet'> }): number =>
  statedFigure(input.sheet, 'compensationReference')?.target ?? 25;

/** A companion as a place for settings: it has no display error, no array and no passcode of its own. */
export const companionInPlace = ({ id, name, card, present, sensor, firmware, lastVisit, link }: Companion): Charger => ({
  ...bareCharger({ id, name, card }),
  present,
  ...(sensor ? { sensor } : {}),
  ...(firmware === undefined ? {} : { firmware }),
  ...(lastVisit ? { lastVisit } : {}),
  ...(link === undefined ? {} : { link }),
});

const ofSystem = new WeakMap<System, readonly Charger[]>();

/** Every device that has settings, chargers first. Kept with the system: every setting asks. */
export function devicesOf({ system }: Pick<SettingsInput, 'system'>): readonly Charger[] {
  const kept = ofSystem.get(system);
  if (kept) return kept;
  const list = [...system.chargers, ...system.companions.map(companionInPlace)];
  ofSystem.set(system, list);
  return list;
}

/** The instrument with which settings will be proved. */
export function provingMeter(input: SettingsInput) {
  const { instruments, provingInstrument } = input.system;
  const meter = instruments.find((i) => i.id === provingInstrument) ?? instruments[0];
  if (!meter) throw new Error('a system always has an instrument');
  return meter;
}

/** What a device of the job is called; its id when the job has no such device. */
export const deviceName = (input: Pick<SettingsInput, 'system'>, id: string): string => devicesOf(input).find((d) => d.id === id)?.name ?? id;
