import type { Card, Job } from '@calm-keel/core';

/** What a detail belongs to. */
export type DetailPlace = 'bank' | 'site' | 'loads' | 'charger' | 'companion';

/** One more thing to enter about a part of the system. Empty means "not known". */
export interface Detail {
  /** Where it stands in the part, outermost first. */
  readonly path: readonly string[];
  readonly label: string;
  readonly kind: 'number' | 'temperature' | 'tick' | 'choice' | 'text' | 'numbers';
  readonly unit?: string;
  readonly min?: number;
  readonly max?: number;
  readonly options?: (job: Job, id: string) => readonly { readonly value: string; readonly words: string }[];
  /** Whether it is asked of this part at all. */
  readonly asked?: (card: Card | undefined, job: Job) => boolean;
}

const kind =
  (...kinds: readonly Card['kind'][]) =>
  (card: Card | undefined): boolean =>
    card !== undefined && kinds.includes(card.kind);
const unknown = { value: '', words: 'Not known' } as const;

/** The name under which the server’s list has the device; only where its card tells of registers. */
const onWire: Detail = { path: ['link'], label: 'On the wire as', kind: 'text', asked: (card) => card?.telemetry !== undefined };

/** What is asked of each part beyond its first fields. */
export const details: Readonly<Record<DetailPlace, readonly Detail[]>> = {
  bank: [
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
  site: [
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
  loads: [{ path: ['besideShunt'], label: 'A load’s negative goes beside the shunt', kind: 'tick' }],
  charger: [
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
    { path: ['machine', 'maxC'], label: 'Hottest the machine’s maker allows', kind: 'temperature', min: 40, max: 250, asked: kind('alternator') },
    { path: ['machine', 'peakW'], label: 'Turbine’s peak', kind: 'number', unit: 'W', min: 1, max: 1e6, asked: kind('turbine') },
    { path: ['machine', 'diversionW'], label: 'Diversion load bears', kind: 'number', unit: 'W', min: 1, max: 1e6, asked: kind('turbine') },
    { path: ['machine', 'brakeFailsSafe'], label: 'The brake closes by itself without supply', kind: 'tick', asked: kind('turbine') },
    { path: ['feed', 'restingV'], label: 'Highest resting volts', kind: 'number', unit: 'V', min: 1, max: 1000, asked: kind('dcdc') },
    { path: ['feed', 'dropV'], label: 'Input cable drop at full current', kind: 'number', unit: 'V', min: 0, max: 20, asked: kind('dcdc') },
    { path: ['feed', 'engineSignal'], label: 'An engine signal is joined', kind: 'tick', asked: kind('dcdc') },
    { path: ['provedFirmware'], label: 'Firmware when last proved', kind: 'text' },
    onWire,
    { path: ['resetSinceProof'], label: 'Reset since it was proved', kind: 'tick' },
    { path: ['besideShunt'], label: 'Its negative goes beside the shunt', kind: 'tick' },
  ],
  companion: [
    onWire,
    { path: ['fullSeen'], label: 'A full charge has been seen', kind: 'tick', asked: kind('monitor') },
    { path: ['sensor', 'errorC'], label: 'Error of its sensor, ± °C', kind: 'number', unit: '°C', min: 0, max: 20, asked: kind('thermostat') },
    { path: ['sensor', 'offsetC'], label: 'Reads warmer than the cell by, °C', kind: 'number', unit: '°C', min: -20, max: 20, asked: kind('thermostat') },
  ],
};

/** What a part of the document is taken for when a detail inside it is entered first. */
const blanks: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  firstCharge: { topBalanced: false, stringVolts: [] },
  machine: { name: 'Machine', ratedA: 10, loadDumpProtected: false },
  feed: { name: 'Start bank', volts: 12 },
  sensor: { fitted: true, place: 'batteryCase', errorC: 1, offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
};

/** The value at a path of a part, or undefined. */
export const valueAt = (part: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((at, key) => (typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[key] : undefined), part);

/** The part with a value at a path, or without it when there is none. */
export function withValue<T extends object>(part: T, path: readonly string[], value: unknown): T {
  const [key, ...rest] = path;
  if (key === undefined) return part;
  if (rest.length > 0) {
    const inner = (part as Record<string, unknown>)[key] ?? blanks[key] ?? {};
    return { ...part, [key]: withValue(inner, rest, value) };
  }
  const { [key as keyof T]: _before, ...others } = part;
  return (value === undefined || value === '' ? others : { ...others, [key]: value }) as T;
}
