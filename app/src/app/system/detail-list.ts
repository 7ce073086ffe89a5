import { parameterFor, type Card } from '@calm-keel/core/card';
import type { Job } from '@calm-keel/core/job';
import { capital, formatNumber, type Result } from '@calm-keel/core/quantity';
import { isLithium } from '@calm-keel/core/sheet';
import { bankFacts, readCapacityInUse, sensorPlaceWords, sensorSchema, unseenSensor, usualSensor, type Charger, type Sensor } from '@calm-keel/core/system';

/** What a detail belongs to. */
export type DetailPlace = 'bank' | 'site' | 'loads' | 'charger' | 'companion' | 'instrument';

/** One thing to enter about a part of the system. */
export interface Detail {
  /** Where it stands in the part, outermost first. */
  readonly path: readonly string[];
  readonly label: string;
  readonly kind: 'number' | 'temperature' | 'difference' | 'tick' | 'yesNo' | 'choice' | 'text' | 'numbers';
  readonly unit?: string;
  readonly step?: number;
  readonly min?: number;
  readonly max?: number;
  /** Core units in one shown unit. */
  readonly scale?: number;
  /** It cannot be empty; otherwise empty means “not known”. */
  readonly required?: boolean;
  /** What a refusal says instead of the document’s own words. */
  readonly refusal?: string;
  readonly options?: (job: Job, id: string) => readonly { readonly value: string; readonly words: string }[];
  /** Whether it is asked of this part at all. */
  readonly asked?: (card: Card | undefined, job: Job, part: unknown) => boolean;
  /** It is a name of the server’s list of devices. */
  readonly listed?: true;
  /** What is taken while it is not entered. */
  readonly usual?: (card: Card | undefined) => number;
  /** Reads what somebody wrote for it; what is shown below the field says how it was understood. */
  readonly reads?: (text: string, job: Job) => Result<number>;
  readonly says?: (value: unknown, job: Job) => string;
  /** A choice that stands for several values of the part together. */
  readonly together?: { readonly read: (part: unknown) => string; readonly write: (part: object, value: string) => object };
}

const kind =
  (...kinds: readonly Card['kind'][]) =>
  (card: Card | undefined): boolean =>
    card !== undefined && kinds.includes(card.kind);
const unknown = { value: '', words: 'Not known' } as const;

/** Whether a sensor is there and where it sits: one question, and not known until it is answered. */
const sensorPlace: Detail = {
  path: ['sensor'],
  label: 'Sensor on the battery',
  kind: 'choice',
  options: () => [
    unknown,
    { value: 'none', words: 'None joined' },
    ...sensorSchema.shape.place.options.map((value) => ({ value, words: capital(sensorPlaceWords[value]) })),
  ],
  together: {
    read: (part) => {
      const sensor = valueAt(part, ['sensor']) as Sensor | undefined;
      return sensor?.fitted === undefined ? '' : sensor.fitted ? sensor.place : 'none';
    },
    write: (part, value) => {
      const { fitted: _before, ...sensor } = (valueAt(part, ['sensor']) as Sensor | undefined) ?? unseenSensor;
      if (value === '') return { ...part, sensor };
      const place = value as Sensor['place'];
      return { ...part, sensor: value === 'none' ? { ...sensor, fitted: false } : { ...sensor, fitted: true, place, ...usualSensor[place] } };
    },
  },
};
const joined = (_card: Card | undefined, _job: Job, part: unknown): boolean => valueAt(part, ['sensor', 'fitted']) === true;

const name: Detail = { path: ['name'], label: 'Name', kind: 'text', required: true };
/** The name under which the server’s list has the device: one with registers by its card, or one that only talks. */
const onWire: Detail = { path: ['link'], label: 'On the wire as', kind: 'text', listed: true };
const amps = (path: readonly string[], label: string, step: number): Detail => ({ path, label, kind: 'number', unit: 'A', step, min: 1, max: 10_000 });
const wire = (name: string): readonly Detail[] => [
  { path: ['wire', 'lengthM'], label: `${name}, one way`, kind: 'number', unit: 'm', step: 0.1, min: 0.05, max: 500 },
  { path: ['wire', 'areaMm2'], label: `${name}, area`, kind: 'number', unit: 'mm²', step: 1, min: 0.5, max: 1000 },
  {
    path: ['wire', 'airC'],
    label: `${name}, hottest air on its way`,
    kind: 'temperature',
    step: 5,
    min: -20,
    max: 69,
    asked: (_card, _job, part) => valueAt(part, ['wire']) !== undefined,
  },
];

/** What is asked of each part, by the heading it stands under. */
export const details: Readonly<Record<DetailPlace, Readonly<Record<string, readonly Detail[]>>>> = {
  bank: {
    first: [
      { path: ['unitsInSeries'], label: 'Batteries in series', kind: 'number', min: 1, max: 60, required: true },
      { path: ['stringsInParallel'], label: 'Strings in parallel', kind: 'number', min: 1, max: 60, required: true },
      amps(['fuseA'], 'Main fuse', 10),
      amps(['cableA'], 'Main cable is rated for', 5),
      amps(['stringFuseA'], 'Fuse in each string', 10),
      { path: ['hasBms'], label: 'BMS in the batteries', kind: 'yesNo', required: true },
    ],
    more: [
      {
        path: ['capacityFactor'],
        label: 'Capacity in use, Ah, % or ratio',
        kind: 'text',
        required: true,
        reads: (text, job) => readCapacityInUse(text, bankFacts(job.sheet, job.system).ratedAh),
        says: (value, job) => {
          const { ratedAh } = bankFacts(job.sheet, job.system);
          return `${ratedAh === null ? '' : `${formatNumber(Number(value) * ratedAh, 0)} Ah, `}${formatNumber(Number(value) * 100, 0)} % of rated`;
        },
      },
      { path: ['capacityReason'], label: 'Because', kind: 'text', required: true },
      ...wire('Main cable'),
      amps(['mainSwitchA'], 'Main switch', 10),
      amps(['shuntA'], 'Shunt', 50),
      { path: ['fuseBreaksA'], label: 'Main fuse breaks', kind: 'number', unit: 'A', step: 1000, min: 1, max: 1e6 },
      { path: ['shortCircuitA'], label: 'Bank into a short', kind: 'number', unit: 'A', step: 500, min: 1, max: 1e6 },
      {
        path: ['stringExcessPercent'],
        label: 'One string above its part, measured',
        kind: 'number',
        unit: '%',
        step: 1,
        min: 0,
        max: 100,
        asked: (_card, job) => job.system.bank.stringsInParallel > 1,
      },
      { path: ['restingV'], label: 'Bank at rest, measured', kind: 'number', unit: 'V', step: 0.1, min: 0.5, max: 2000 },
      { path: ['cellSpreadV'], label: 'Highest cell above the mean', kind: 'number', unit: 'V', step: 0.01, min: 0, max: 1 },
      {
        path: ['balanceEveryDays'],
        label: 'No balancer: balance every',
        kind: 'number',
        unit: 'd',
        step: 30,
        min: 1,
        max: 730,
        asked: (_card, job) => isLithium(job.sheet.chemistry),
      },
      {
        path: ['chargeEnable'],
        label: 'Charge enable of the BMS',
        kind: 'choice',
        asked: (_card, job) => job.system.bank.hasBms,
        options: () => [unknown, { value: 'wired', words: 'Wired to the chargers' }, { value: 'notWired', words: 'Not wired' }],
      },
      { path: ['firstCharge', 'topBalanced'], label: 'New cells: balanced at the top', kind: 'tick' },
      { path: ['firstCharge', 'stringVolts'], label: 'Resting volts of each string', kind: 'numbers', unit: 'V' },
    ],
  },
  site: {
    first: [
      { path: ['place'], label: 'Where', kind: 'text', max: 120, required: true },
      { path: ['bankLowC'], label: 'Bank, coldest', kind: 'temperature', min: -60, max: 60, required: true },
      { path: ['bankHighC'], label: 'Bank, hottest', kind: 'temperature', min: -40, max: 80, required: true },
      { path: ['recordLowC'], label: 'Air, record low', kind: 'temperature', min: -70, max: 60, required: true },
    ],
    more: [
      { path: ['recordHighC'], label: 'Air, record high', kind: 'temperature', min: -40, max: 70, required: true },
      { path: ['coolingCPerHour'], label: 'Fastest cooling in an hour', kind: 'difference', step: 0.5, min: 0, max: 60, required: true },
      { path: ['latitude'], label: 'Latitude, north +', kind: 'number', unit: '°', min: -66, max: 66 },
      { path: ['unattendedMonths'], label: 'Longest without anybody there', kind: 'number', unit: 'months', min: 0, max: 60 },
      {
        path: ['grounding'],
        label: 'Earthing of the DC side',
        kind: 'choice',
        options: () => [
          unknown,
          { value: 'bonded', words: 'Bonded at one place' },
          { value: 'throughCharger', words: 'Through a charger’s detector' },
          { value: 'floating', words: 'Floating' },
        ],
      },
    ],
  },
  loads: {
    first: [
      { path: ['minA'], label: 'Loads, least', kind: 'number', unit: 'A', step: 0.5, min: 0, max: 10_000, required: true },
      { path: ['maxA'], label: 'Loads, most', kind: 'number', unit: 'A', step: 0.5, min: 0, max: 10_000, required: true },
    ],
    more: [
      { path: ['name'], label: 'Loads', kind: 'text', max: 80 },
      amps(['fuseA'], 'Loads, fuse', 5),
      { path: ['maxVolts'], label: 'Loads may have at most', kind: 'number', unit: 'V', step: 0.1, min: 1, max: 2000 },
      { path: ['besideShunt'], label: 'A load’s negative goes beside the shunt', kind: 'tick' },
    ],
  },
  charger: {
    name: [name],
    firmware: [{ path: ['firmware'], label: 'Firmware, as read off', kind: 'text' }],
    sensor: [
      sensorPlace,
      { path: ['sensor', 'type'], label: 'What it is', kind: 'text', asked: joined },
      { path: ['sensor', 'offsetC'], label: 'Reads warmer by', kind: 'difference', step: 0.5, min: -20, max: 20, required: true, asked: joined },
      { path: ['sensor', 'errorC'], label: 'Its own error ±', kind: 'difference', step: 0.1, min: 0, max: 20, required: true, asked: joined },
      { path: ['sensor', 'lagSeconds'], label: 'Lag', kind: 'number', unit: 'min', scale: 60, min: 0, max: 36_000, required: true, asked: joined },
      { path: ['sensor', 'warmLeadC'], label: 'Ahead on warming', kind: 'difference', step: 0.5, min: 0, max: 30, required: true, asked: joined },
    ],
    machine: [
      { path: ['machine', 'name'], label: 'Machine', kind: 'text', required: true },
      {
        path: ['machine', 'ratedA'],
        label: 'Rated',
        kind: 'number',
        unit: 'A',
        step: 5,
        min: 0.1,
        max: 10_000,
        usual: (card) => card?.ratings.outputA ?? 10,
      },
      { path: ['machine', 'loadDumpProtected'], label: 'Guarded against a load dump', kind: 'yesNo' },
      { path: ['machine', 'maxC'], label: 'Hottest the machine’s maker allows', kind: 'temperature', min: 40, max: 250, asked: kind('alternator') },
      { path: ['machine', 'peakW'], label: 'Turbine’s peak', kind: 'number', unit: 'W', min: 1, max: 1e6, asked: kind('turbine') },
      { path: ['machine', 'diversionW'], label: 'Diversion load is rated for', kind: 'number', unit: 'W', min: 1, max: 1e6, asked: kind('turbine') },
      { path: ['machine', 'brakeFailsSafe'], label: 'The brake closes by itself without supply', kind: 'tick', asked: kind('turbine') },
    ],
    feed: [
      { path: ['feed', 'name'], label: 'Bank it draws from', kind: 'text', required: true },
      { path: ['feed', 'volts'], label: 'Nominal', kind: 'number', unit: 'V', step: 12, min: 1, max: 1000, usual: () => 12 },
      { path: ['feed', 'restingV'], label: 'Highest resting volts', kind: 'number', unit: 'V', step: 0.1, min: 1, max: 1000 },
      { path: ['feed', 'dropV'], label: 'Input cable drop at full current', kind: 'number', unit: 'V', step: 0.1, min: 0, max: 20 },
      { path: ['feed', 'engineSignal'], label: 'An engine signal is joined', kind: 'tick' },
    ],
    wiring: [...wire('Cable'), amps(['fuseA'], 'Its fuse', 5), amps(['cableA'], 'Its cable is rated for', 5)],
    more: [
      { path: ['passcodeChanged'], label: 'Its default passcode is changed', kind: 'tick', asked: (card) => card?.defaultPasscode === true },
      {
        path: ['follows'],
        label: 'Takes its figures from',
        kind: 'choice',
        asked: (card) => card?.canFollow === true,
        options: (job, id) => [
          { value: '', words: 'Nobody' },
          ...job.system.chargers.filter((c) => c.id !== id && c.follows === undefined).map((c) => ({ value: c.id, words: c.name })),
        ],
      },
      {
        path: ['shareA'],
        label: 'Agreed share of the ceiling',
        kind: 'number',
        unit: 'A',
        min: 0,
        max: 10_000,
        asked: (_card, job) => job.schools.allocation === 'fixed',
      },
      {
        path: ['dictatedBy'],
        label: 'Its figures come over a data line from',
        kind: 'choice',
        asked: (card) => card?.dictated !== undefined,
        options: (job, id) => [
          unknown,
          { value: 'nobody', words: 'Nobody' },
          { value: 'battery', words: 'The battery' },
          ...[...job.system.chargers, ...job.system.companions].filter((d) => d.id !== id).map((d) => ({ value: `device ${d.id}`, words: d.name })),
        ],
        together: {
          read: (part) => {
            const said = valueAt(part, ['dictatedBy']) as Charger['dictatedBy'];
            return said === undefined ? '' : said.by === 'device' ? `device ${said.device ?? ''}` : said.by;
          },
          write: (part, value) => {
            const { dictatedBy: _before, ...rest } = part as Partial<Charger>;
            const device = /^device (.+)$/.exec(value)?.[1];
            return value === '' ? rest : { ...rest, dictatedBy: device === undefined ? { by: value } : { by: 'device', device } };
          },
        },
      },
      {
        path: ['onRelay'],
        label: 'Joined to its relay',
        kind: 'choice',
        asked: (card) => card !== undefined && parameterFor(card, 'relayRule') !== undefined,
        options: () => [
          unknown,
          { value: 'nothing', words: 'Nothing' },
          { value: 'surplus', words: 'A load for surplus' },
          { value: 'low', words: 'A start or an alarm at low charge' },
        ],
      },
      { path: ['provedFirmware'], label: 'Firmware when last proved', kind: 'text' },
      onWire,
      { path: ['resetSinceProof'], label: 'Reset since it was proved', kind: 'tick' },
      { path: ['besideShunt'], label: 'Its negative goes beside the shunt', kind: 'tick' },
    ],
  },
  companion: {
    name: [name],
    more: [
      onWire,
      { path: ['fullSeen'], label: 'A full charge has been seen', kind: 'tick', asked: kind('monitor') },
      { ...sensorPlace, label: 'Its sensor', asked: kind('thermostat') },
      { path: ['sensor', 'errorC'], label: 'Error of its sensor ±', kind: 'difference', step: 0.1, min: 0, max: 20, required: true, asked: joined },
      { path: ['sensor', 'offsetC'], label: 'Reads warmer than the cell by', kind: 'difference', step: 0.5, min: -20, max: 20, required: true, asked: joined },
    ],
  },
  instrument: {
    all: [
      name,
      { path: ['volts', 'percent'], label: 'Volts, of reading', kind: 'number', unit: '%', step: 0.05, min: 0, max: 20, required: true },
      { path: ['volts', 'digits'], label: 'plus digits', kind: 'number', min: 0, max: 100, required: true },
      { path: ['volts', 'resolution'], label: 'Last digit', kind: 'number', unit: 'V', step: 0.01, min: 0.0001, max: 100, required: true },
      { path: ['amps', 'percent'], label: 'Amps, of reading', kind: 'number', unit: '%', step: 0.1, min: 0, max: 20, required: true },
      { path: ['temperatureErrorC'], label: 'Temperature ±', kind: 'difference', step: 0.1, min: 0, max: 20, required: true },
      { path: ['rangeV'], label: 'Range, volts', kind: 'number', unit: 'V', step: 10, min: 0.1, max: 10_000 },
      { path: ['rangeA'], label: 'Range, amps', kind: 'number', unit: 'A', step: 1, min: 0.01, max: 10_000 },
      { path: ['burdenMilliohm'], label: 'Burden', kind: 'number', unit: 'mΩ', min: 0, max: 100_000 },
      { path: ['calibrationDue'], label: 'Calibration due', kind: 'text', max: 10, refusal: 'Write it as 2027-03.' },
    ],
  },
};

/** How many of some details are entered, of those that may stay empty. */
export function entered(list: readonly Detail[], part: unknown): number {
  return list.filter((d) => !d.required && valueAt(part, d.path) !== undefined).length;
}

/** What a part of the document is taken for when a detail inside it is entered first. */
const blanks: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  firstCharge: { topBalanced: false, stringVolts: [] },
  machine: { name: 'Machine' },
  feed: { name: 'Start bank' },
};

/** The value at a path of a part, or undefined. */
export const valueAt = (part: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((at, key) => (typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[key] : undefined), part);

/** The part with a value of a detail, or without it when there is none. A whole that is new has its name and nothing that nobody said. */
export function withValue<T extends object>(part: T, d: Pick<Detail, 'path' | 'required' | 'together'>, value: unknown): T {
  if (d.together) return d.together.write(part, String(value)) as T;
  const [key, ...rest] = d.path;
  if (key === undefined) return part;
  const none = value === undefined || (value === '' && !d.required);
  const { [key as keyof T]: before, ...others } = part;
  if (rest.length > 0) {
    const inner = withValue<object>(before ?? { ...blanks[key] }, { ...d, path: rest }, value);
    return (Object.keys(inner).length === 0 ? others : { ...others, [key]: inner }) as T;
  }
  return (none ? others : { ...others, [key]: value }) as T;
}
