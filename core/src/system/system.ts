import * as z from 'zod';
import { roleSchema } from '../card';
import { between, identifier, isoDate, shortText } from '../sheet';

/** How the batteries are joined, and what their wiring allows. */
export const bankSchema = z.object({
  unitsInSeries: z.int().min(1).max(60),
  stringsInParallel: z.int().min(1).max(60),
  /** Capacity in use divided by rated capacity. */
  capacityFactor: between(0.1, 1.2),
  capacityReason: shortText(200).default(''),
  hasBms: z.boolean(),
  /** Highest cell above the mean cell at the end of absorb, V; unknown when missing. */
  cellSpreadV: between(0, 1).optional(),
  /** Main fuse rating, A. */
  fuseA: between(1, 10_000).optional(),
  /** Ampacity of the main cable as its table gives it, A. */
  cableA: between(1, 10_000).optional(),
  /** Fuse in each string, A. */
  stringFuseA: between(1, 10_000).optional(),
});
export type Bank = z.infer<typeof bankSchema>;

/** The place: air extremes for the array, bank extremes for the cells. All °C. */
export const siteSchema = z.object({
  place: shortText(120).default(''),
  recordLowC: between(-70, 60),
  recordHighC: between(-40, 70),
  bankLowC: between(-60, 60),
  bankHighC: between(-40, 80),
  /** Fastest cooling of the battery, °C in one hour. */
  coolingCPerHour: between(0, 60),
});
export type Site = z.infer<typeof siteSchema>;

/** What stays switched on, A, and the highest voltage the loads bear. */
export const loadsSchema = z.object({
  minA: between(0, 10_000),
  maxA: between(0, 10_000),
  maxVolts: between(1, 2000).optional(),
});
export type Loads = z.infer<typeof loadsSchema>;

/** A temperature sensor as it is really fitted. */
export const sensorSchema = z.object({
  fitted: z.boolean(),
  place: z.enum(['batteryCase', 'batteryPost', 'pad', 'air', 'chargerCase']),
  /** ± error of the sensor itself, °C. */
  errorC: between(0, 20),
  /** How much warmer it reads than the cell while the bank is cold, °C. */
  offsetC: between(-20, 20),
  /** Time constant of its lag, s. */
  lagSeconds: between(0, 36_000),
  /** How far it runs ahead of the cell core when the place warms, °C. */
  warmLeadC: between(0, 30),
});
export type Sensor = z.infer<typeof sensorSchema>;

/** A sensor's place in words. */
export const sensorPlaceWords: Readonly<Record<Sensor['place'], string>> = {
  batteryCase: 'on the battery case',
  batteryPost: 'on a battery post',
  pad: 'on the battery, over a pad',
  air: 'in the air',
  chargerCase: 'in the charger’s case',
};

/** One comparison of the meter with a display, at the charger's own battery terminals, in V. */
export const displayReadingSchema = z.object({ meterV: between(0.1, 2000), displayV: between(0.1, 2000) });
export type DisplayReading = z.infer<typeof displayReadingSchema>;

/** A charger in its place on this job. */
export const chargerSchema = z.object({
  id: identifier,
  name: shortText(60).min(1, 'give the charger a name'),
  card: identifier,
  sensor: sensorSchema,
  displayReadings: z.array(displayReadingSchema).max(6),
  /** Values found on the device, as its display shows them. */
  present: z.partialRecord(roleSchema, z.union([between(-1e5, 1e5), shortText(40)])),
  fuseA: between(1, 10_000).optional(),
  cableA: between(1, 10_000).optional(),
  passcodeChanged: z.boolean(),
});
export type Charger = z.infer<typeof chargerSchema>;

const accuracySchema = z.object({
  percent: between(0, 20),
  digits: between(0, 100),
  resolution: z.number().positive().max(100),
});

/** A meter, a monitor or a logger, with what its maker promises. */
export const instrumentSchema = z.object({
  id: identifier,
  name: shortText(60).min(1),
  volts: accuracySchema,
  amps: accuracySchema,
  /** ± error of its battery temperature, °C. */
  temperatureErrorC: between(0, 20),
  calibrationDue: isoDate.optional(),
});
export type Instrument = z.infer<typeof instrumentSchema>;

/** The whole installation of a job. */
export const systemSchema = z
  .object({
    bank: bankSchema,
    site: siteSchema,
    loads: loadsSchema,
    chargers: z.array(chargerSchema).max(24),
    instruments: z.array(instrumentSchema).min(1).max(20),
    /** The instrument with which settings will be proved at the terminals. */
    provingInstrument: identifier,
  })
  .superRefine((system, ctx) => {
    const { site, loads, chargers, instruments } = system;
    if (site.bankLowC > site.bankHighC) ctx.addIssue({ code: 'custom', path: ['site', 'bankLowC'], message: 'the bank’s coldest must be below its hottest' });
    if (site.recordLowC > site.recordHighC)
      ctx.addIssue({ code: 'custom', path: ['site', 'recordLowC'], message: 'the record low must be below the record high' });
    if (loads.minA > loads.maxA) ctx.addIssue({ code: 'custom', path: ['loads', 'minA'], message: 'the least load must not be above the most' });
    for (const [name, list] of [
      ['chargers', chargers],
      ['instruments', instruments],
    ] as const)
      list.forEach((item, i) => {
        if (list.findIndex((other) => other.id === item.id) !== i) ctx.addIssue({ code: 'custom', path: [name, i, 'id'], message: `${item.id} stands twice` });
      });
    if (!instruments.some((i) => i.id === system.provingInstrument))
      ctx.addIssue({ code: 'custom', path: ['provingInstrument'], message: 'name one of the instruments' });
  });
export type System = z.infer<typeof systemSchema>;
