import { tidy } from '../quantity';
import { chemistrySchema } from '../sheet';
import { cardSchema, type Card, type CardKind, type CardUnknown } from './card';
import { roleInfo, type Role } from './role';

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
const unknown: readonly CardUnknown[] = ['settings', 'saving', 'absorb', 'recharge', 'sensor', 'display', 'batteryLoss', 'passcode'];

/**
 * A card from the plate alone: a device of its kind with the settings that such a device usually has. Every range, step and habit is marked as not known;
 * the numbers that stand in their place are wide and fine enough never to move a value.
 *
 * @throws when the plate itself makes no card, such as one without a system voltage
 */
export function quickCard({ id, maker, model, kind, outputA, systemVolts, inputVoltsMax }: Plate): Card {
  const most = Math.max(...systemVolts);
  const volts = { unit: 'V', min: 1, max: tidy(most * 1.8), step: 0.01 } as const;
  const range = (role: Role): { readonly unit: string; readonly min: number; readonly max: number; readonly step: number } => {
    switch (roleInfo[role].unit) {
      case 'V':
        return role === 'inputStartVoltage' || role === 'inputStopVoltage' ? { ...volts, max: Math.max(60, inputVoltsMax ?? 0) } : volts;
      case 's':
        return { unit: 'min', min: 0, max: 1440, step: 1 };
      case 'A':
        return { unit: 'A', min: 0, max: outputA, step: 0.1 };
      case '°C':
        return { unit: '°C', min: 40, max: 250, step: 1 };
      default:
        return { unit: 'mV/°C/cell', min: -10, max: 0, step: 0.1 };
    }
  };
  const solar = kind === 'solarMppt' || kind === 'solarPwm';
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
    parameters: usual[kind].map((role) => ({
      role,
      label: roleInfo[role].name,
      menu: [],
      ...range(role),
      // No slope at all is off on any device.
      ...(role === 'compensationSlope' ? { special: [{ value: 0, means: 'off' }] } : {}),
      notKnown: ['range', 'step'],
    })),
    constraints: [],
    commit: {
      kind: 'keyPress',
      how: 'How it saves is not known: see its manual',
      proof: 'Leave the menu, go in again, and look',
    },
    absorb: { start: { kind: 'touch' }, end: 'time', timerCounts: 'atVoltage', currentSeen: 'ownOutput' },
    sensor: { reads: 'wired', usedFor: [], withoutSensor: 'ignoresCutoff' },
    display: { calibratable: false, stepV: 0.1 },
    regulationPercent: 1,
    survivesBatteryLoss: false,
    defaultPasscode: false,
    programming: { powered: 'not known: see its manual', disconnected: [] },
    keys: [],
    notKnown: [...unknown, ...(solar && inputVoltsMax === undefined ? (['input'] as const) : [])],
  });
}
