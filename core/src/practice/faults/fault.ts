import type { Role } from '../../card';
import type { AllValues, Scenario } from '../../rehearsal';
import type { SettingsInput } from '../../settings';
import type { Prepared } from '../prepared';

/** Where something is wrong: a device, one of its settings, or the place as a whole. */
export interface Spot {
  readonly device: string | null;
  readonly role: Role | null;
}

/** What the bench is put together from: the installation as it really is, and what its devices hold. */
export interface Setup {
  readonly truth: SettingsInput;
  readonly inUse: AllValues;
  readonly stored: AllValues;
  readonly scenario: Scenario;
  /** Light that reaches the arrays, as a part of the day’s own. */
  readonly light: number;
  /** Added to the loads, A. */
  readonly loadA: number;
  readonly unplugged: readonly string[];
  /** Sources whose isolator stands open. */
  readonly isolated: readonly string[];
  /** The two thin leads of the monitor’s shunt are on each other’s screws: it counts backwards. */
  readonly shuntReversed: boolean;
  /** The sheet that hangs on the wall, where it is not the right one. */
  readonly wallSheet: string | null;
}

/** What somebody does with the hands. */
export const handCodes = [
  'plugSensor',
  'moveSensor',
  'remakeJoint',
  'clearArray',
  'joinString',
  'closeIsolator',
  'moveNegative',
  'swapShuntLeads',
  'moveRelay',
  'switchOffLoad',
  'balanceCells',
  'replaceBattery',
  'replaceCharger',
] as const;
export type Hand = (typeof handCodes)[number];

/** Those that are done on one device, by what it is; the others are done on the place. */
export const deviceHands = {
  charger: ['plugSensor', 'moveSensor', 'remakeJoint', 'closeIsolator', 'moveNegative', 'joinString', 'replaceCharger'],
  monitor: ['swapShuntLeads'],
  relay: ['moveRelay'],
} as const satisfies Readonly<Record<string, readonly Hand[]>>;

/** How a fault is put right: the value on the device, a work of the hands, or nothing at all. */
export type Cure = 'value' | 'nothing' | Hand;

/**
 * What shows a fault: things measured or read, each by the key of its line in the list of what was done. Every inner list is enough by
 * itself; all of its keys are needed.
 */
export interface Showing {
  readonly keys: readonly string[];
  /** How far the numbers of the first two must lie apart to show anything, in their unit. */
  readonly apart?: number;
  /** The number of the first must be at least, or at most, so much. */
  readonly atLeast?: number;
  readonly atMost?: number;
  /** The first must show nothing where a number belongs. */
  readonly blank?: true;
}

/** One kind of fault. */
export interface FaultKind {
  readonly spots: (at: Prepared) => readonly Spot[];
  readonly plant: (setup: Setup, spot: Spot, at: Prepared) => Setup;
  readonly proofs: (spot: Spot, at: Prepared) => readonly Showing[];
  readonly remedy: Cure;
  /** Faults that hide one another when they are planted together. */
  readonly touches: 'value' | 'sensor' | 'source' | 'wire' | 'load' | 'all';
}

/** A setup with one value on a device, in use and stored. */
export const withValue = (setup: Setup, { device, role }: Spot, value: number | string, where: 'both' | 'stored' = 'both'): Setup => {
  if (device === null || role === null) return setup;
  const put = (all: AllValues): AllValues => ({ ...all, [device]: { ...all[device], [role]: value } });
  return { ...setup, inUse: where === 'both' ? put(setup.inUse) : setup.inUse, stored: put(setup.stored) };
};

/** A setup with one charger changed, as it really is. */
export const withCharger = (setup: Setup, id: string | null, change: Partial<SettingsInput['system']['chargers'][number]>): Setup => ({
  ...setup,
  truth: {
    ...setup.truth,
    system: { ...setup.truth.system, chargers: setup.truth.system.chargers.map((c) => (c.id === id ? { ...c, ...change } : c)) },
  },
});
