import * as z from 'zod';
import { deviceValuesSchema } from '../card';
import { between, identifier, isoDate, shortText } from '../sheet';

/** A pair of conductors: length one way and area of one of them. */
const wireSchema = z.object({
  lengthM: between(0.05, 500).optional(),
  areaMm2: between(0.5, 1000).optional(),
  /** Air of the hottest place it runs through, °C; the table’s 30 °C where it is not said. */
  airC: between(-20, 69).optional(),
});
export type Wire = z.infer<typeof wireSchema>;

/** How the batteries are joined, and what their wiring allows. */
const bankSchema = z.object({
  unitsInSeries: z.int().min(1).max(60),
  stringsInParallel: z.int().min(1).max(60),
  /** Capacity in use divided by rated capacity. */
  capacityFactor: between(0.1, 1.2),
  capacityReason: shortText(200).default(''),
  hasBms: z.boolean(),
  /** Packs without a balancer of their own: how often a balance charge is due, days. */
  balanceEveryDays: between(1, 730).optional(),
  /** Measured at the bank while nothing charges and little draws, V. */
  restingV: between(0.5, 2000).optional(),
  /** Highest cell above the mean cell at the end of absorb, V; unknown when missing. */
  cellSpreadV: between(0, 1).optional(),
  /** How far the current of one string was measured above its equal part, %. */
  stringExcessPercent: between(0, 100).optional(),
  /** Main fuse rating, A. */
  fuseA: between(1, 10_000).optional(),
  /** Ampacity of the main cable as its table gives it, A. */
  cableA: between(1, 10_000).optional(),
  /** Fuse in each string, A. */
  stringFuseA: between(1, 10_000).optional(),
  wire: wireSchema.optional(),
  mainSwitchA: between(1, 10_000).optional(),
  shuntA: between(1, 10_000).optional(),
  /** Current the main fuse can break, A, and what the bank drives into a short, A. */
  fuseBreaksA: between(1, 1e6).optional(),
  shortCircuitA: between(1, 1e6).optional(),
  /** Whether the BMS's charge-enable contact is wired to the chargers' inputs; unknown when missing. */
  chargeEnable: z.enum(['wired', 'notWired']).optional(),
  /** New cells before their first charge: whether they were balanced at the top, and the resting volts of each string. */
  firstCharge: z.object({ topBalanced: z.boolean(), stringVolts: z.array(between(0.1, 2000)).max(60) }).optional(),
});
export type Bank = z.infer<typeof bankSchema>;

/** The place: air extremes for the array, bank extremes for the cells. All °C. */
const siteSchema = z.object({
  place: shortText(120).default(''),
  recordLowC: between(-70, 60),
  recordHighC: between(-40, 70),
  bankLowC: between(-60, 60),
  bankHighC: between(-40, 80),
  /** Fastest cooling of the battery, °C in one hour. */
  coolingCPerHour: between(0, 60),
  /** Degrees, north positive. */
  latitude: between(-66, 66).optional(),
  /** Longest time that nobody is there, months. */
  unattendedMonths: between(0, 60).optional(),
  /** How the DC side is earthed: bonded at one place of its own, only through a charger's ground-fault detector, or not at all. */
  grounding: z.enum(['bonded', 'throughCharger', 'floating']).optional(),
});
export type Site = z.infer<typeof siteSchema>;

/** What stays switched on, A, and the highest voltage the loads bear. */
const loadsSchema = z.object({
  minA: between(0, 10_000),
  maxA: between(0, 10_000),
  maxVolts: between(1, 2000).optional(),
  name: shortText(80).optional(),
  fuseA: between(1, 10_000).optional(),
  /** Some load's negative goes to the bank beside the shunt. */
  besideShunt: z.boolean().optional(),
});

/** A temperature sensor as it is really fitted. */
export const sensorSchema = z.object({
  /** Missing while nobody has said whether there is one: that counts as none, and nothing else here is known then. */
  fitted: z.boolean().optional(),
  place: z.enum(['batteryCase', 'batteryPost', 'betweenUnits', 'pad', 'air', 'chargerCase']),
  /** What it is: "10 kΩ thermistor", "digital, on the network". */
  type: shortText(60).optional(),
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

/** What a log calls the sensor of its temperature where it is a probe of its own, on the battery; else it is the id of a device. */
export const ownProbe = 'probe';

/** A sensor's place in words. */
export const sensorPlaceWords: Readonly<Record<Sensor['place'], string>> = {
  batteryCase: 'on the battery case',
  batteryPost: 'on a battery post',
  betweenUnits: 'between two batteries',
  pad: 'on the battery, over a pad',
  air: 'in the air',
  chargerCase: 'in the charger’s case',
};

/** One comparison of the meter with a display, at the charger's own battery terminals, in V. */
export const displayReadingSchema = z.object({ meterV: between(0.1, 2000), displayV: between(0.1, 2000) });
export type DisplayReading = z.infer<typeof displayReadingSchema>;

/** A panel by its label, at standard test conditions. */
export const panelSchema = z
  .object({
    name: shortText(60).default(''),
    watts: between(1, 2000),
    vocV: between(1, 500),
    vmpV: between(1, 500),
    iscA: between(0.05, 100),
    impA: between(0.05, 100),
    /** Change of open-circuit voltage, % per °C; missing when the label is silent. */
    vocPercentPerC: between(-1, 0).optional(),
    /** Change of operating voltage, or of power, % per °C; missing when the label is silent. */
    vmpPercentPerC: between(-1, 0).optional(),
    bypassDiodes: z.int().min(0).max(12),
    /** Greatest series fuse by the label, A. */
    maxFuseA: between(0.5, 200).optional(),
  })
  .superRefine((panel, ctx) => {
    if (panel.vmpV >= panel.vocV) ctx.addIssue({ code: 'custom', path: ['vmpV'], message: 'the operating voltage must lie below the open-circuit voltage' });
    if (panel.impA >= panel.iscA) ctx.addIssue({ code: 'custom', path: ['impA'], message: 'the operating current must lie below the short-circuit current' });
  });

/** Panels of one kind on one charger. */
export const arraySchema = z.object({
  panel: panelSchema,
  inSeries: z.int().min(1).max(40),
  inParallel: z.int().min(1).max(40),
  /** Degrees from level, and where they look: degrees from north over east. */
  tilt: between(0, 90),
  azimuth: between(0, 360),
  /** Panels that stand in shade at the worst hour, and the light left to them, 0 to 1. */
  shaded: z.int().min(0).max(400),
  shadeLight: between(0, 1),
  /** Parts behind one bypass diode that stand in shade on one panel more. */
  shadedParts: z.int().min(0).max(12).optional(),
  stringFuseA: between(0.5, 200).optional(),
  isolatorA: between(0.5, 1000).optional(),
});
export type PanelArray = z.infer<typeof arraySchema>;

/** What turns at a charger that has no panels: an alternator or a turbine. */
const machineSchema = z.object({
  name: shortText(60),
  ratedA: between(0.1, 10_000).optional(),
  /** Missing while nobody has said it. */
  loadDumpProtected: z.boolean().optional(),
  /** Hottest its maker allows, °C. */
  maxC: between(40, 250).optional(),
  /** Turbines: power of the diversion load, W, and of the turbine at its peak, W. */
  diversionW: between(1, 1e6).optional(),
  peakW: between(1, 1e6).optional(),
  /** Turbines: the brake closes by itself when its supply fails. */
  brakeFailsSafe: z.boolean().optional(),
});

/** The bank that a DC-DC charger draws from. */
const feedSchema = z.object({
  name: shortText(60),
  /** Nominal, V; missing while nobody has said it. */
  volts: between(1, 1000).optional(),
  /** Highest volts at which it rests when nothing charges it. */
  restingV: between(1, 1000).optional(),
  /** Measured drop of the input cable at full current, V. */
  dropV: between(0, 20).optional(),
  /** A signal tells the charger that the engine runs, whatever the volts. */
  engineSignal: z.boolean().optional(),
  /** What the feeding alternator can spare, A at its own voltage. */
  spareA: between(0.1, 10_000).optional(),
});

/** Values read off a device on an earlier visit, as its display showed them. */
const visitSchema = z.object({ date: isoDate, values: deviceValuesSchema });

/** A charger in its place on this job. */
const chargerSchema = z.object({
  id: identifier,
  name: shortText(60).min(1, 'give the charger a name'),
  card: identifier,
  sensor: sensorSchema,
  displayReadings: z.array(displayReadingSchema).max(6),
  /** Values found on the device, as its display shows them. */
  present: deviceValuesSchema,
  fuseA: between(1, 10_000).optional(),
  cableA: between(1, 10_000).optional(),
  wire: wireSchema.optional(),
  array: arraySchema.optional(),
  machine: machineSchema.optional(),
  feed: feedSchema.optional(),
  /** Firmware and menu revision as read off the device. */
  firmware: shortText(60).optional(),
  passcodeChanged: z.boolean(),
  /** Id of the leader it takes its figures from. */
  follows: identifier.optional(),
  /** A share of the ceiling agreed for it, A, where shares are fixed. */
  shareA: between(0, 10_000).optional(),
  /** Who says its figures over a data line, where its card lets somebody; missing while nobody has said it. */
  dictatedBy: z.object({ by: z.enum(['nobody', 'battery', 'device']), device: identifier.optional() }).optional(),
  /** What is joined to its auxiliary relay: a load for surplus, a generator’s start or an alarm at low charge; missing while nobody has said it. */
  onRelay: z.enum(['nothing', 'surplus', 'low']).optional(),
  /** Its negative goes to the bank beside the shunt. */
  besideShunt: z.boolean().optional(),
  /** Firmware when its settings were last proved; and whether it has been reset since. */
  provedFirmware: shortText(60).optional(),
  resetSinceProof: z.boolean().optional(),
  lastVisit: visitSchema.optional(),
  /** Name of the device in the server’s list, where it can be read and written over the wire. */
  link: shortText(60).optional(),
});
export type Charger = z.infer<typeof chargerSchema>;

/** What a relay opens to stop a source. */
const breaksSchema = z.enum(['arraySide', 'batterySide', 'enableInput', 'field', 'brake', 'output']);
export type Breaks = z.infer<typeof breaksSchema>;

/** A relay or contactor that a thermostat drives. */
const relaySchema = z.object({
  breaks: breaksSchema,
  /** What its contact breaks, V DC and A; missing when the thermostat's own contact does it. */
  volts: between(1, 2000).optional(),
  amps: between(0.1, 2000).optional(),
  /** What its coil takes, W. */
  coilW: between(0, 200).optional(),
  /** A fused slot of its own feeds the coil. */
  fusedSupply: z.boolean().optional(),
});
export type Relay = z.infer<typeof relaySchema>;

/** A device that must agree with the chargers: a monitor, a thermostat with its relay. */
const companionSchema = z.object({
  id: identifier,
  name: shortText(60).min(1, 'give the companion a name'),
  card: identifier,
  present: deviceValuesSchema,
  /** Ids of the chargers it switches; "loads" stands for the loads. */
  switches: z.array(identifier).max(24),
  firmware: shortText(60).optional(),
  /** The sensor of a thermostat. */
  sensor: sensorSchema.optional(),
  relay: relaySchema.optional(),
  /** Monitors: a full charge has been seen since it was fitted, so that its state of charge means something. */
  fullSeen: z.boolean().optional(),
  /** It has been reset since its settings were last proved. */
  resetSinceProof: z.boolean().optional(),
  lastVisit: visitSchema.optional(),
  /** Name of the device in the server’s list. */
  link: shortText(60).optional(),
});
export type Companion = z.infer<typeof companionSchema>;

const accuracySchema = z.object({
  percent: between(0, 20),
  digits: between(0, 100),
  resolution: z.number().positive().max(100),
});

/** A meter, a monitor or a logger, with what its maker promises. */
const instrumentSchema = z.object({
  id: identifier,
  name: shortText(60).min(1),
  volts: accuracySchema,
  amps: accuracySchema,
  /** ± error of its battery temperature, °C. */
  temperatureErrorC: between(0, 20),
  calibrationDue: isoDate.optional(),
  /** Its accuracy is what instruments of its kind usually promise: nobody has read its own manual yet. */
  assumed: z.literal(true).optional(),
  /** Most it can show, V and A, and what it adds to a current path, mΩ. */
  rangeV: between(0.1, 10_000).optional(),
  rangeA: between(0.01, 10_000).optional(),
  burdenMilliohm: between(0, 100_000).optional(),
});
export type Instrument = z.infer<typeof instrumentSchema>;

/** The whole installation of a job. */
export const systemSchema = z
  .object({
    bank: bankSchema,
    site: siteSchema,
    loads: loadsSchema,
    chargers: z.array(chargerSchema).max(24),
    companions: z.array(companionSchema).max(12),
    /** What is to be done by hand before a step of the run sheet, by the step’s id. */
    lines: z
      .array(z.object({ id: identifier, before: z.string().min(1).max(120), says: shortText(160).min(1) }))
      .max(60)
      .optional(),
    /** Panels that no charger takes yet. */
    plannedArray: arraySchema.optional(),
    instruments: z.array(instrumentSchema).min(1).max(20),
    /** The instrument with which settings will be proved at the terminals. */
    provingInstrument: identifier,
  })
  .superRefine((system, ctx) => {
    const { site, loads, chargers, companions, instruments } = system;
    if (site.bankLowC > site.bankHighC) ctx.addIssue({ code: 'custom', path: ['site', 'bankLowC'], message: 'the bank’s coldest must be below its hottest' });
    if (site.recordLowC > site.recordHighC)
      ctx.addIssue({ code: 'custom', path: ['site', 'recordLowC'], message: 'the record low must be below the record high' });
    if (loads.minA > loads.maxA) ctx.addIssue({ code: 'custom', path: ['loads', 'minA'], message: 'the least load must not be above the most' });
    for (const [name, list] of [
      ['chargers', chargers],
      ['companions', companions],
      ['instruments', instruments],
    ] as const)
      list.forEach((item, i) => {
        if (list.findIndex((other) => other.id === item.id) !== i)
          ctx.addIssue({ code: 'custom', path: [name, i, 'id'], message: `${item.id} is there twice` });
      });
    chargers.forEach((charger, i) => {
      if (charger.follows === undefined) return;
      const leader = chargers.find((c) => c.id === charger.follows);
      if (!leader || leader.id === charger.id || leader.follows !== undefined)
        ctx.addIssue({ code: 'custom', path: ['chargers', i, 'follows'], message: 'name a charger that follows nobody itself' });
    });
    if (!instruments.some((i) => i.id === system.provingInstrument))
      ctx.addIssue({ code: 'custom', path: ['provingInstrument'], message: 'name one of the instruments' });
  });
export type System = z.infer<typeof systemSchema>;
