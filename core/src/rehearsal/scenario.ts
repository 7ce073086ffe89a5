import * as z from 'zod';
import { between, identifier } from '../sheet';
import { family } from '../card';
import { chargersWithCards, type Plan } from '../settings';
import type { Site } from '../system';

/** A window of the day in which something runs: from an hour, for so many. */
const windowSchema = z.object({ fromHour: between(0, 24), hours: between(0.1, 24) });

/** What a day is like: the weather, the loads, the sources that turn, the bank's charge at the start, and what is wrong. Part of the job file. */
export const scenarioSchema = z.object({
  /** The named day it was made from. */
  name: identifier,
  month: z.int().min(1).max(12),
  days: z.int().min(1).max(400),
  /** Hour at which the first day begins. */
  fromHour: between(0, 23),
  /** Mean light as a part of a clear sky's: the clearness index. */
  clearness: between(0.02, 1),
  /** Air around the bank at dawn, °C, and how far it rises by the afternoon. */
  dawnC: between(-50, 60),
  swingC: between(0, 40),
  /** The place is heated from this hour on, by so many °C. */
  heated: z.object({ fromHour: between(0, 24), byC: between(0, 40) }).nullable(),
  /** Part of the arrays that snow covers. */
  snow: between(0, 1),
  /** Loads, A at the bank: what always runs, what cycles with a fridge and for which part of the time, what the evening adds. */
  load: z.object({ baseA: between(0, 5000), fridgeA: between(0, 5000), duty: between(0, 1), eveningA: between(0, 5000) }),
  /** Engine, and the part of its rating the alternator can give at that speed. */
  engine: windowSchema.extend({ output: between(0.05, 1) }).nullable(),
  mains: windowSchema.nullable(),
  /** Part of its peak power that a turbine has. */
  flow: between(0, 1.2),
  /** Charge at the start, 0 to 1. */
  charge: between(0.02, 1),
  seed: z
    .int()
    .min(0)
    .max(2 ** 31),
  /** Sensors that are unplugged. */
  unplugged: z.array(identifier).max(24),
  /** One charger set higher than the others: absorb and float by so many V. */
  raised: z.object({ charger: identifier, volts: between(-5, 5) }).nullable(),
  /** Devices lose their supply at this hour; nothing that was keyed in had been saved. */
  powerCut: z.object({ hour: between(0, 24), saved: z.boolean() }).nullable(),
  /** The BMS opens at this hour, for so many minutes. */
  bmsOpens: z.object({ hour: between(0, 24), minutes: between(1, 1440) }).nullable(),
  /** Spread of capacity between strings, as a part. */
  stringSpread: between(0, 0.5),
  /** A log of the job whose power, load and temperature are played back; null for made weather. */
  replay: identifier.nullable(),
});
export type Scenario = z.infer<typeof scenarioSchema>;

/** Middle of a month as a day of the year. */
export const dayOfMonth = (month: number): number => Math.round(30.4 * (month - 0.5));

/** How far into its warm half a place's year is on a day, 0 in midwinter to 1 in midsummer. */
const summer = (latitude: number, day: number): number => (1 - Math.cos((2 * Math.PI * (day - (latitude < 0 ? 197 : 15))) / 365)) / 2;

/** Air at dawn on a day of the year, °C: between the place's coldest and the middle of its range. A plain course of the year, for want of a record. */
export const seasonalDawn = (site: Site, day: number): number => site.bankLowC + (site.bankHighC - site.bankLowC) * 0.5 * summer(site.latitude ?? 45, day);

type Shape = Partial<Omit<Scenario, 'name'>>;

/** A named day. */
export interface ScenarioKind {
  readonly name: string;
  /** As it stands in a sentence: "a clear day". */
  readonly words: string;
  readonly of: (plan: Plan) => Shape;
  /** Whether the job has what the day is about. */
  readonly suits: (plan: Plan) => boolean;
}

const has = (plan: Plan, ...kinds: readonly string[]): boolean =>
  plan.input.system.chargers.some((c) => kinds.includes(plan.input.cards.find((card) => card.id === c.card)?.kind ?? ''));
const solar = (plan: Plan): boolean => chargersWithCards(plan.input).some(({ card }) => family(card.kind) === 'solar');
const always = (): boolean => true;
const wintry = (plan: Plan): number => ((plan.input.system.site.latitude ?? 45) < 0 ? 8 : 2);
const high = (plan: Plan): number => ((plan.input.system.site.latitude ?? 45) < 0 ? 12 : 6);
const mid = (plan: Plan): number => ((plan.input.system.site.latitude ?? 45) < 0 ? 10 : 4);
const sensed = (plan: Plan): readonly string[] => plan.input.system.chargers.filter((c) => c.sensor.fitted).map((c) => c.id);

/** The named days, in the order they are offered. A new one is one entry here. */
export const scenarioKinds: readonly ScenarioKind[] = [
  { name: 'clear-day', words: 'a clear day', suits: solar, of: (p) => ({ month: high(p), clearness: 1 }) },
  { name: 'broken-cloud', words: 'a day of broken cloud', suits: solar, of: (p) => ({ month: mid(p), clearness: 0.6 }) },
  { name: 'overcast', words: 'an overcast day', suits: solar, of: (p) => ({ month: mid(p), clearness: 0.2 }) },
  {
    name: 'freezing-dawn',
    words: 'a freezing dawn',
    suits: always,
    of: (p) => ({ month: wintry(p), clearness: 1, dawnC: p.input.system.site.bankLowC - 1.5, swingC: 10, charge: 0.4 }),
  },
  {
    name: 'heated-hold',
    words: 'a freezing dawn, heated hold',
    suits: always,
    of: (p) => ({
      month: wintry(p),
      clearness: 1,
      dawnC: p.input.system.site.bankLowC - 1.5,
      swingC: 6,
      charge: 0.4,
      heated: { fromHour: 7, byC: 16 },
    }),
  },
  {
    name: 'motoring',
    words: 'a day with two hours under engine',
    suits: (p) => has(p, 'alternator', 'dcdc'),
    of: (p) => ({ month: mid(p), clearness: 0.6, engine: { fromHour: 9, hours: 2, output: 0.7 } }),
  },
  {
    name: 'cold-start',
    words: 'a cold morning under engine',
    suits: (p) => has(p, 'alternator', 'dcdc'),
    of: (p) => ({
      month: wintry(p),
      clearness: 0.5,
      dawnC: p.input.system.site.bankLowC + 4,
      swingC: 6,
      charge: 0.4,
      engine: { fromHour: 7, hours: 3, output: 0.8 },
    }),
  },
  {
    name: 'fridges-on',
    words: 'a clear day with every load on',
    suits: always,
    of: (p) => ({
      month: high(p),
      clearness: 1,
      load: { ...usualLoad(p), fridgeA: Math.max(0, p.input.system.loads.maxA - p.input.system.loads.minA), duty: 1, eveningA: 0 },
    }),
  },
  {
    name: 'sensor-unplugged',
    words: 'a freezing dawn, sensors unplugged',
    suits: (p) => sensed(p).length > 0,
    of: (p) => ({ month: wintry(p), clearness: 1, dawnC: p.input.system.site.bankLowC - 1.5, swingC: 10, charge: 0.4, unplugged: [...sensed(p)] }),
  },
  {
    name: 'sister-high',
    words: 'a clear day, one charger set 0.4 V higher',
    suits: always,
    of: (p) => ({
      month: high(p),
      clearness: 1,
      charge: 0.75,
      raised: p.input.system.chargers[0] ? { charger: p.input.system.chargers[0].id, volts: 0.4 } : null,
    }),
  },
  {
    name: 'power-cut',
    words: 'a clear day, power cut before anything was saved',
    suits: always,
    of: (p) => ({ month: high(p), clearness: 1, powerCut: { hour: 9, saved: false } }),
  },
  {
    name: 'bms-opens',
    words: 'a clear day on which the BMS opens',
    suits: (p) => p.input.system.bank.hasBms || has(p, 'turbine'),
    of: (p) => ({ month: high(p), clearness: 1, charge: 0.7, bmsOpens: { hour: 12, minutes: 20 } }),
  },
  {
    name: 'snow',
    words: 'three winter days under snow',
    suits: solar,
    of: (p) => ({ month: wintry(p), clearness: 0.5, snow: 0.9, days: 3, dawnC: seasonalDawn(p.input.system.site, dayOfMonth(wintry(p))) }),
  },
  {
    name: 'yard-night',
    words: 'a night on the mains',
    suits: (p) => has(p, 'inverterCharger'),
    of: (p) => ({ month: mid(p), clearness: 0.4, fromHour: 16, mains: { fromHour: 18, hours: 12 } }),
  },
  { name: 'week', words: 'a week of broken cloud', suits: always, of: (p) => ({ month: mid(p), clearness: 0.55, days: 7 }) },
  { name: 'year', words: 'a whole year', suits: always, of: () => ({ month: 1, clearness: 0.55, days: 365, fromHour: 0 }) },
];

/** Loads on a usual day: what always runs, a fridge that cycles, more in the evening. */
const usualLoad = ({ input }: Plan): Scenario['load'] => {
  const { minA, maxA } = input.system.loads;
  const rest = Math.max(0, maxA - minA);
  return { baseA: minA, fridgeA: rest * 0.6, duty: 0.38, eveningA: rest * 0.4 };
};

/**
 * The scenario of a name on a job, with everything the day does not say taken from the place.
 *
 * @returns null when there is no such name
 */
export function scenarioNamed(plan: Plan, name: string): Scenario | null {
  const kind = scenarioKinds.find((k) => k.name === name);
  if (!kind) return null;
  const { site } = plan.input.system;
  const shape = kind.of(plan);
  const month = shape.month ?? 6;
  return {
    name,
    month,
    days: 1,
    fromHour: 4,
    clearness: 1,
    dawnC: Math.round(2 * seasonalDawn(site, dayOfMonth(month))) / 2,
    swingC: Math.max(2, Math.round((site.bankHighC - site.bankLowC) * 0.15)),
    heated: null,
    snow: 0,
    load: usualLoad(plan),
    engine: null,
    mains: null,
    flow: 0.6,
    charge: 0.5,
    seed: 1,
    unplugged: [],
    raised: null,
    powerCut: null,
    bmsOpens: null,
    stringSpread: 0,
    replay: null,
    ...shape,
  };
}

/** A day in words: "a day of broken cloud". */
export const scenarioWords = (name: string): string => scenarioKinds.find((k) => k.name === name)?.words ?? name.replace(/-/g, ' ');

/** A value tried on one charger, as its display would show it. It moves the rehearsal and nothing else. */
const nudgeSchema = z.object({ charger: identifier, role: z.string().max(40), value: between(-1e5, 1e5) });

/** What is compared with what stands on Settings. */
const otherSchema = z.enum(['none', 'asSet', 'asFound', 'factory', 'lastVisit']);

/** The rehearsal kept with a job: its day, what is tried, and what it is compared with. */
export const rehearsalSchema = z.object({
  scenario: scenarioSchema,
  nudges: z.array(nudgeSchema).max(60),
  against: otherSchema,
});
export type Rehearsal = z.infer<typeof rehearsalSchema>;
