import * as z from 'zod';
import { cardSchema, roleSchema, type Card } from '../card';
import { between, identifier, isoDate, rankSchema, referencePolicySchema, sheetSchema, shortText } from '../sheet';
import { systemSchema, type Charger } from '../system';

/** The choices on which practitioners differ. Each default is the more careful one. */
export const schoolsSchema = z.object({
  /** Whose figures count: the maker’s own paper only, or the best that can be had, each marked. */
  reference: referencePolicySchema,
  /** `hold` at the maker's float, `floatEqualsAbsorb`, or `rest` until recharge. */
  lithiumFloat: z.enum(['hold', 'floatEqualsAbsorb', 'rest']),
  /** `full` to the sheet's target, `gentle` at the low end of the absorb band. */
  topCharge: z.enum(['full', 'gentle']),
  /** `offHarmless` also brings the stored equalise values down to absorb. */
  lithiumEqualise: z.enum(['off', 'offHarmless']),
  /**
   * Where the cutoff goes when the derating table allows less than the sources give just above it: at the sheet's minimum
   * plus margin, raised to the first stair that bears the sum, or at the minimum with the limits lowered.
   */
  coldCurrent: z.enum(['sheetMinimum', 'raiseCutoff', 'lowerLimits']),
});
export type Schools = z.infer<typeof schoolsSchema>;

/** The defaults of a new job. */
export const defaultSchools: Schools = {
  reference: 'makerOnly',
  lithiumFloat: 'hold',
  topCharge: 'full',
  lithiumEqualise: 'offHarmless',
  coldCurrent: 'sheetMinimum',
};

/** A person's figure in place of the derived one. It stays marked everywhere. */
export const overrideSchema = z.object({
  charger: identifier,
  role: roleSchema,
  /** In the core's unit at the bank: V, A, s, d, °C, V/°C per cell. */
  value: between(-1e5, 1e5),
  reason: shortText(300),
  /** Role of the person, never a name: "owner", "installer". */
  by: shortText(60),
  date: isoDate,
  /** Role of the second person who looked at it. */
  reviewedBy: shortText(60).optional(),
});
export type Override = z.infer<typeof overrideSchema>;

/** The tolerance used where the maker prints a single number instead of a band. */
export const toleranceSchema = z.object({ voltsPerCell: between(0, 0.2), rank: rankSchema });

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
  /** Coverage factor of every expanded uncertainty. */
  coverage: between(1, 4),
});
export type SettingsInput = z.infer<typeof settingsInputSchema>;

/** The card of a charger, or undefined when the job does not carry it. */
export const cardOf = (input: SettingsInput, charger: Charger): Card | undefined => input.cards.find((card) => card.id === charger.card);

/** The instrument with which settings will be proved. */
export function provingMeter(input: SettingsInput) {
  const { instruments, provingInstrument } = input.system;
  const meter = instruments.find((i) => i.id === provingInstrument) ?? instruments[0];
  if (!meter) throw new Error('a system always has an instrument');
  return meter;
}
