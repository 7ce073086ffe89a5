import type { Card } from '../card';
import type { Scenario } from '../rehearsal';
import { defaultSchools, type SettingsInput } from '../settings';
import type { Sheet } from '../sheet';
import type { Charger, Companion, Instrument, PanelArray, System } from '../system';

/** The cards and sheets that ship with the program: what the places are made of. */
export interface PracticeLibrary {
  readonly cards: readonly Card[];
  readonly sheets: readonly Sheet[];
}

export const placeCodes = ['cabin', 'mast', 'hut', 'launch', 'pump', 'stage'] as const;
export type PlaceCode = (typeof placeCodes)[number];

/** A made-up installation to practise on. */
export interface Place {
  readonly code: PlaceCode;
  /** Its sheet, and the cards of its devices, by id. */
  readonly sheet: string;
  /** An older revision that may hang on the wall instead. */
  readonly olderSheet?: string;
  readonly system: System;
  readonly day: Partial<Scenario>;
  /** The hour at which somebody arrives. */
  readonly hour: number;
}

const meter: Instrument = {
  id: 'meter',
  name: 'Multimeter',
  volts: { percent: 0.5, digits: 0, resolution: 0.01 },
  amps: { percent: 1.5, digits: 0, resolution: 0.1 },
  temperatureErrorC: 0.5,
};
const onCase = { fitted: true, place: 'batteryCase', errorC: 0.5, offsetC: 0, lagSeconds: 540, warmLeadC: 1 } as const;
const noSensor = { ...onCase, fitted: false } as const;
const panel = { name: 'Shore 310', watts: 310, vocV: 40, vmpV: 33, iscA: 10, impA: 9.4, vocPercentPerC: -0.3, bypassDiodes: 3 } as const;
const small = { name: 'Mast 90', watts: 90, vocV: 22, vmpV: 18, iscA: 5.4, impA: 5, vocPercentPerC: -0.33, bypassDiodes: 2 } as const;
const array = (inSeries: number, inParallel: number, of: PanelArray['panel'] = panel): PanelArray => ({
  panel: of,
  inSeries,
  inParallel,
  tilt: 35,
  azimuth: 180,
  shaded: 0,
  shadeLight: 0.1,
  isolatorA: 32,
});
const charger = (id: string, name: string, card: string, more: Partial<Charger>): Charger => ({
  id,
  name,
  card,
  sensor: onCase,
  displayReadings: [],
  present: {},
  passcodeChanged: true,
  fuseA: 60,
  wire: { lengthM: 1.5, areaMm2: 16 },
  ...more,
});
const monitor = (present: Companion['present'] = {}): Companion => ({
  id: 'monitor',
  name: 'Monitor',
  card: 'tessick-m1',
  present: { loadMode: 'loads', ...present },
  switches: ['loads'],
  fullSeen: true,
});
const bank = (unitsInSeries: number, stringsInParallel: number, hasBms: boolean): System['bank'] => ({
  unitsInSeries,
  stringsInParallel,
  capacityFactor: 1,
  capacityReason: 'New',
  hasBms,
  ...(hasBms ? { cellSpreadV: 0.02 } : {}),
  fuseA: 200,
  cableA: 220,
  wire: { lengthM: 0.8, areaMm2: 70 },
  mainSwitchA: 300,
  shuntA: 300,
});
const site = (place: string, latitude: number, bankLowC: number, bankHighC: number): System['site'] => ({
  place,
  recordLowC: bankLowC - 10,
  recordHighC: bankHighC,
  bankLowC,
  bankHighC,
  coolingCPerHour: 2,
  latitude,
});

/** The places, from easy to hard. Six banks of five chemistries; none of them is anybody’s. */
export const places: readonly Place[] = [
  {
    code: 'cabin',
    sheet: 'pellow-lb-25-rev-d',
    olderSheet: 'pellow-lb-25-rev-c',
    hour: 10,
    day: { month: 6, clearness: 1, charge: 0.6 },
    system: {
      bank: bank(1, 2, true),
      site: site('Cabin', 54, 2, 32),
      loads: { minA: 2, maxA: 11, maxVolts: 31, name: 'Fridge and lights', fuseA: 40 },
      chargers: [
        charger('east', 'Charger east', 'varrow-s45', { array: array(3, 1), present: { batteryType: 'own figures', systemVoltage: '24' } }),
        charger('west', 'Charger west', 'varrow-s45', { array: array(3, 1), present: { batteryType: 'own figures', systemVoltage: '24' } }),
      ],
      companions: [monitor()],
      instruments: [meter],
      provingInstrument: 'meter',
    },
  },
  {
    code: 'mast',
    sheet: 'dunmere-t6-210-rev-5',
    hour: 11,
    day: { month: 6, clearness: 1, charge: 0.8 },
    system: {
      bank: { ...bank(2, 1, false), fuseA: 60, cableA: 70 },
      site: site('Mast hut', 50, -5, 30),
      loads: { minA: 0.4, maxA: 1.2, maxVolts: 16, name: 'Logger and radio', fuseA: 10 },
      chargers: [charger('mast', 'Charger', 'varrow-p15', { array: array(1, 2, small), fuseA: 15, wire: { lengthM: 2, areaMm2: 6 } })],
      companions: [],
      instruments: [meter],
      provingInstrument: 'meter',
    },
  },
  {
    code: 'pump',
    sheet: 'dunmere-gl-90-rev-3',
    hour: 10,
    day: { month: 7, clearness: 1, charge: 0.7 },
    system: {
      bank: { ...bank(1, 2, false), fuseA: 100, cableA: 120 },
      site: site('Pump house', 44, 0, 34),
      loads: { minA: 1, maxA: 6, maxVolts: 16, name: 'Pump control', fuseA: 20 },
      chargers: [charger('pump', 'Charger', 'varrow-s45-b', { array: array(2, 1), fuseA: 50, present: { batteryType: 'own figures', systemVoltage: '12' } })],
      companions: [monitor()],
      instruments: [meter],
      provingInstrument: 'meter',
    },
  },
  {
    code: 'launch',
    sheet: 'pellow-lb-25-rev-d',
    olderSheet: 'pellow-lb-25-rev-c',
    hour: 9,
    day: { month: 5, clearness: 0.9, charge: 0.5, engine: { fromHour: 8, hours: 4, output: 0.7 } },
    system: {
      bank: bank(1, 2, true),
      site: site('Launch', 52, -2, 34),
      loads: { minA: 2, maxA: 11, maxVolts: 31, name: 'Fridge and pilothouse', fuseA: 40 },
      chargers: [
        charger('roof', 'Solar', 'varrow-s45-b', { array: array(3, 1), present: { batteryType: 'own figures', systemVoltage: '24' } }),
        charger('dcdc', 'DC-DC', 'tessick-d30', {
          feed: { name: 'Start bank', volts: 12, restingV: 12.8, dropV: 0.2 },
          present: { batteryType: 'free' },
          fuseA: 40,
        }),
        charger('alternator', 'Alternator', 'murrel-ar-2', {
          machine: { name: 'Alternator', ratedA: 100, loadDumpProtected: true, maxC: 120 },
          fuseA: 125,
          wire: { lengthM: 2.5, areaMm2: 35 },
        }),
      ],
      companions: [monitor()],
      instruments: [meter],
      provingInstrument: 'meter',
    },
  },
  {
    code: 'hut',
    sheet: 'dunmere-gx-110-rev-2',
    hour: 11,
    day: { month: 5, clearness: 1, charge: 0.75, flow: 0.5 },
    system: {
      bank: bank(2, 4, false),
      site: site('Relay hut', 58, -8, 26),
      loads: { minA: 3, maxA: 9, maxVolts: 31, name: 'Relay and heater', fuseA: 30 },
      chargers: [
        charger('leader', 'Solar leader', 'hadrin-h80', {
          array: array(3, 2),
          fuseA: 100,
          wire: { lengthM: 1.5, areaMm2: 35 },
          present: { follows: 'leader' },
        }),
        charger('follower', 'Solar follower', 'hadrin-h80', {
          array: array(3, 2),
          fuseA: 100,
          wire: { lengthM: 1.5, areaMm2: 35 },
          follows: 'leader',
          present: { follows: 'follower' },
        }),
        charger('turbine', 'Stream turbine', 'ostrel-w12', {
          machine: { name: 'Stream turbine', ratedA: 30, loadDumpProtected: true, diversionW: 1500, peakW: 900, brakeFailsSafe: true },
          present: { powerCurve: 'low head', outputMode: 'auto' },
          wire: { lengthM: 4, areaMm2: 25 },
        }),
      ],
      companions: [monitor()],
      instruments: [meter],
      provingInstrument: 'meter',
    },
  },
  {
    code: 'stage',
    sheet: 'corvane-n14-rev-1',
    hour: 10,
    day: { month: 6, clearness: 1, charge: 0.55, mains: { fromHour: 8, hours: 8 } },
    system: {
      bank: { ...bank(1, 1, true), fuseA: 100, cableA: 120 },
      site: site('Stage trailer', 48, -4, 36),
      loads: { minA: 1, maxA: 20, maxVolts: 62, name: 'Amplifiers and light', fuseA: 80 },
      chargers: [
        charger('roof', 'Roof', 'varrow-s45', { array: array(3, 1), fuseA: 40, present: { batteryType: 'own figures', systemVoltage: '48' } }),
        charger('yard', 'Inverter-charger', 'quern-r9', {
          sensor: noSensor,
          fuseA: 100,
          wire: { lengthM: 1, areaMm2: 25 },
          present: { batteryType: 'own' },
        }),
      ],
      companions: [
        {
          id: 'thermostat',
          name: 'Thermostat',
          card: 'isk-t1',
          present: { outputMode: 'heating', thermostatDifferential: 2 },
          switches: ['roof'],
          sensor: onCase,
          relay: { breaks: 'arraySide' },
        },
      ],
      instruments: [meter],
      provingInstrument: 'meter',
    },
  },
];

/** A place as the settings are worked out for it. */
export function inputOf(place: Place, { cards, sheets }: PracticeLibrary, sheetId = place.sheet): SettingsInput {
  const sheet = sheets.find((s) => s.id === sheetId);
  if (!sheet) throw new Error(`the library has no sheet ${sheetId}`);
  const used = new Set([...place.system.chargers, ...place.system.companions].map((d) => d.card));
  return {
    sheet,
    otherSheets: [],
    system: place.system,
    cards: cards.filter((c) => used.has(c.id)),
    schools: defaultSchools,
    overrides: [],
    tolerance: { voltsPerCell: 0.0125, rank: 'assumed' },
    coverage: 2,
  };
}
