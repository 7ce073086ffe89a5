import { tidy } from '../quantity';
import { chemistrySchema } from '../sheet';
import {
  cardSchema,
  endFields,
  rangeEnds,
  isKnown,
  type Card,
  type CardKind,
  type CardUnknown,
  type RangeEnd,
  type NumberParameter,
  type Parameter,
} from './card';
import { family } from './family';
import { roleInfo, type Role } from './role';
import { deviceUnitsFor, type DeviceUnit } from './unit';

/** What is known of a charger before anybody has looked into its menu: its plate. */
export interface Plate {
  readonly id: string;
  readonly maker: string;
  readonly model: string;
  readonly kind: QuickKind;
  /** Rated output, A. */
  readonly outputA: number;
  /** System voltages it is made for. */
  readonly systemVolts: readonly number[];
  /** Solar: most the input takes, V; others: most of the range of their input. Missing where the plate is silent. */
  readonly inputVoltsMax?: number | undefined;
}

/** System voltages that plates name. */
export const systemClasses = [12, 24, 36, 48] as const;

/** Kinds of which there is a quick card: those that charge. */
export const quickKinds = ['solarMppt', 'solarPwm', 'dcdc', 'alternator', 'turbine', 'inverterCharger'] as const satisfies readonly CardKind[];
export type QuickKind = (typeof quickKinds)[number];

const common: readonly Role[] = ['absorbVoltage', 'absorbTime', 'floatVoltage'];
/** The settings that a device of a kind usually has, in the order of most menus. Whether this one has them is not known. */
const usual: Readonly<Record<QuickKind, readonly Role[]>> = {
  solarMppt: [...common, 'rechargeVoltage', 'equaliseVoltage', 'compensationSlope', 'chargeCurrentLimit'],
  solarPwm: [...common, 'equaliseVoltage', 'compensationSlope'],
  dcdc: [...common, 'inputStartVoltage', 'inputStopVoltage', 'chargeCurrentLimit'],
  alternator: [...common, 'compensationSlope', 'machineTempLimit'],
  turbine: [...common, 'diversionVoltage', 'equaliseVoltage'],
  inverterCharger: [...common, 'rechargeVoltage', 'equaliseVoltage', 'compensationSlope', 'chargeCurrentLimit'],
};

/** What nobody knows of such a device until it is asked or tried. */
const unknown: readonly CardUnknown[] = ['settings', 'saving', 'absorb', 'recharge', 'sensor', 'display', 'sense', 'powerCut', 'batteryLoss', 'passcode'];

/** What is counted with where nobody knows: the usual device of its kind, and of two possibilities the one that protects less. */
export const carefulHabits: Pick<
  Card,
  'commit' | 'absorb' | 'recharge' | 'sensor' | 'display' | 'regulationPercent' | 'remoteSense' | 'forgets' | 'survivesBatteryLoss' | 'defaultPasscode'
> = {
  commit: { kind: 'keyPress', how: 'How it saves is not known: see its manual', proof: 'Leave the menu, go in again, and look' },
  absorb: { start: { kind: 'touch' }, end: 'time', timerCounts: 'atVoltage', currentSeen: 'ownOutput' },
  recharge: { rule: 'voltage', restartsDaily: false },
  sensor: { reads: 'wired', usedFor: [], withoutSensor: 'ignoresCutoff' },
  display: { calibratable: false, stepV: 0.1 },
  regulationPercent: 1,
  remoteSense: false,
  forgets: [],
  survivesBatteryLoss: false,
  defaultPasscode: false,
};

/** What a range that nobody knows is made as wide as: rated output, A; system voltages; most input volts. */
interface PlateNumbers {
  readonly outputA: number;
  readonly systemVolts: readonly number[];
  readonly inputVolts?: number | undefined;
}

/** The numbers on the plate of a card. */
const plateOf = ({ ratings: { outputA, systemVolts, inputVolts } }: Card): PlateNumbers => ({ outputA, systemVolts, inputVolts: inputVolts?.max });

interface WideRange {
  readonly min: number;
  readonly max: number;
  readonly step: number;
}

/**
 * What stands in the place of a range that nobody knows: wider than any device’s and finer than its steps, so that it never moves a value.
 *
 * @param plate rated output, A; system voltages; most input volts where they are known
 */
export function wideRange(role: Role, unit: DeviceUnit, plate: PlateNumbers): WideRange {
  const most = Math.max(...plate.systemVolts);
  switch (unit) {
    case 'V':
      return { min: 1, max: role.startsWith('input') ? Math.max(60, plate.inputVolts ?? 0) : tidy(most * 1.8), step: 0.01 };
    case 'V/12V':
      return { min: 1, max: 21.6, step: 0.01 };
    case 'V/cell':
      return { min: 0.1, max: 5, step: 0.001 };
    case 'V below float':
      return { min: 0, max: tidy(most * 0.4), step: 0.01 };
    case 'mV/°C/cell':
      return { min: -10, max: 0, step: 0.1 };
    case 'mV/°C/12V':
      return { min: -60, max: 0, step: 0.1 };
    case 'mV/°C':
      return { min: -5 * most, max: 0, step: 0.1 };
    case 'min':
      return { min: 0, max: 1440, step: 1 };
    case 's':
      return { min: 0, max: 86_400, step: 1 };
    case 'h':
      return { min: 0, max: 72, step: 0.1 };
    case 'd':
      return { min: 0, max: 400, step: 1 };
    case 'A':
      return { min: 0, max: plate.outputA > 0 ? plate.outputA : 1000, step: 0.1 };
    case '% of rating':
    case '%':
      return { min: 0, max: 100, step: 0.1 };
    case '°C':
      return role === 'machineTempLimit' ? { min: 40, max: 250, step: 1 } : { min: -60, max: 120, step: 0.1 };
    case '°F':
      return role === 'machineTempLimit' ? { min: 104, max: 482, step: 1 } : { min: -76, max: 248, step: 0.1 };
    case '°C difference':
      return { min: 0, max: 60, step: 0.1 };
    case '°F difference':
      return { min: 0, max: 108, step: 0.1 };
    case 'Ah':
      return { min: 1, max: 20_000, step: 1 };
    case 'ratio':
      return { min: 0.5, max: 10, step: 0.01 };
  }
}

/** A setting of which only its meaning is known: in the unit that most menus have, its ends and its step wide and fine enough never to move a value. */
function supposed(role: Role, plate: PlateNumbers): Parameter {
  const { name: label, unit: core } = roleInfo[role];
  const common = { role, label, menu: [], keys: [], access: 'basic' as const };
  if (core === 'choice')
    return {
      ...common,
      unit: 'choice',
      options: [
        { value: 'on', means: 'on' },
        { value: 'off', means: 'off' },
      ],
    };
  // Minutes, as most menus count them.
  const unit = core === 's' ? 'min' : (deviceUnitsFor(core)[0] ?? 'ratio');
  return {
    ...common,
    unit,
    ...wideRange(role, unit, plate),
    per12V: false,
    wraps: false,
    // No slope at all is off on any device.
    special: role === 'compensationSlope' ? [{ value: 0, means: 'off' }] : [],
    notKnown: ['range', 'step'],
  };
}

/** A card with one more setting, of which only its meaning is known. */
export const withSupposed = (card: Card, role: Role): Card => ({ ...card, parameters: [...card.parameters, supposed(role, plateOf(card))] });

/**
 * A number on a card with one of its ends, or its step, as somebody has seen it.
 *
 * @param value in the unit of the device; null: it is not known after all
 */
export function withEnd(card: Card, p: NumberParameter, what: RangeEnd, value: number | null): NumberParameter {
  const { notKnown: _before, ...rest } = p;
  const open = rangeEnds.filter((end) => (end === what ? value === null : !isKnown(p, end)));
  const wide = wideRange(p.role, p.unit, plateOf(card));
  const unseen = { least: wide.min, most: wide.max, step: Number.isFinite(p.step) ? Math.min(wide.step, p.step) : wide.step }[what];
  return { ...rest, [endFields[what]]: value ?? unseen, ...(open.length > 0 ? { notKnown: open } : {}) };
}

/** A card whose unknowns say of its input what its plate does: a solar charger’s volts are known or they are not; others’ are no question. */
export function withInputAsked(card: Card): Card {
  const others = (card.notKnown ?? []).filter((what) => what !== 'input');
  const open = family(card.kind) === 'solar' && card.ratings.arrayVoltsMax === undefined;
  return { ...card, notKnown: open ? [...others, 'input'] : others };
}

/**
 * A card from the plate alone: a device of its kind with the settings that such a device usually has. Every range, step and habit is marked as not known;
 * the numbers that stand in their place are wide and fine enough never to move a value.
 *
 * @throws when the plate itself makes no card, such as one without a system voltage
 */
export function quickCard({ id, maker, model, kind, outputA, systemVolts, inputVoltsMax }: Plate): Card {
  const solar = family(kind) === 'solar';
  return cardSchema.parse({
    format: 'calm-keel/card',
    version: 1,
    id,
    maker,
    model,
    kind,
    describes: { firmware: '', menuRevision: '' },
    ratings: {
      outputA,
      systemVolts: [...systemVolts],
      ...(solar && inputVoltsMax !== undefined ? { arrayVoltsMax: inputVoltsMax } : {}),
      ...(!solar && inputVoltsMax !== undefined ? { inputVolts: { min: 0, max: inputVoltsMax } } : {}),
      // Nobody has said which it is not made for.
      chemistries: chemistrySchema.options,
    },
    parameters: usual[kind].map((role) => supposed(role, { outputA, systemVolts, inputVolts: inputVoltsMax })),
    constraints: [],
    ...carefulHabits,
    programming: { powered: 'not known: see its manual', disconnected: [] },
    keys: [],
    notKnown: [...unknown, ...(solar && inputVoltsMax === undefined ? (['input'] as const) : [])],
  });
}
