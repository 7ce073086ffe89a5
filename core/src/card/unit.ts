import { celsiusDifferenceToFahrenheit, celsiusToFahrenheit, fahrenheitToCelsius } from '../quantity';
import type { NumberUnit } from './role';

/** What is needed to turn a value on a charger's display into a quantity at the bank, and back. */
export interface DeviceSetting {
  /** Nominal system voltage: 12, 24, 48. */
  readonly systemVolts: number;
  readonly cellsInSeries: number;
  /** Rated output in amps. */
  readonly ratingA: number;
  /** Float at the bank in volts, for chargers that want an offset from it. */
  readonly floatVolts?: number;
}

/** Mistakes of scale that happen in a unit: a slipped decimal point, another system voltage, a cell for six, sixty for one, a lost milli. */
export type Slip = 'decimal' | 'system' | 'cells' | 'sixty' | 'milli';

/** One way in which displays count, and all that the program knows of it. */
interface UnitInfo {
  /** The core's unit of what it measures. */
  readonly core: NumberUnit;
  /** From the display's number to the core's unit. `sign` is −1 where the display wants a slope without its minus. */
  readonly toCore: (value: number, at: DeviceSetting, sign: 1 | -1) => number;
  /** Its inverse, not yet on the device's step. */
  readonly toDevice: (value: number, at: DeviceSetting, sign: 1 | -1) => number;
  /** Written behind the number; the unit’s own name where nothing is said. */
  readonly label?: string;
  /** The unit in which somebody types what the display shows; the unit’s own name where nothing is said. */
  readonly typed?: string;
  /** Behind a number where there is little room; a space and the label where nothing is said. */
  readonly brief?: string;
  /** Said of a setting that counts so, after the name of the setting; nothing where it is what anybody expects. */
  readonly quirk?: string;
  /** Counted from another setting: it is no voltage by itself, and the error of the display falls out of it. */
  readonly offset?: true;
  readonly slips: readonly Slip[];
  /** The scale that a device may have been switched to instead. */
  readonly twin?: string;
}

const same = (core: NumberUnit, slips: readonly Slip[] = ['decimal']): UnitInfo => ({
  core,
  toCore: (value) => value,
  toDevice: (value) => value,
  slips,
});
const volts = ['decimal', 'system', 'cells', 'milli'] as const;
const time = ['decimal', 'sixty'] as const;

function float({ floatVolts }: DeviceSetting): number {
  if (floatVolts === undefined) throw new RangeError('an offset below float needs a float voltage');
  return floatVolts;
}

/** Of those that measure the same, the usual one stands first. */
const record = {
  /** Volts at the bank. */
  V: same('V', volts),
  /** Volts of a 12 V block. */
  'V/12V': {
    core: 'V',
    toCore: (value, at) => (value * at.systemVolts) / 12,
    toDevice: (value, at) => (value * 12) / at.systemVolts,
    label: 'V per 12 V',
    brief: '/12V',
    typed: 'V',
    quirk: 'is in volts of a 12 V block, whatever the system',
    slips: volts,
  },
  /** Volts of one cell. */
  'V/cell': {
    core: 'V',
    toCore: (value, at) => value * at.cellsInSeries,
    toDevice: (value, at) => value / at.cellsInSeries,
    label: 'V per cell',
    brief: '/cell',
    typed: 'V',
    quirk: 'is in volts of one cell',
    slips: volts,
  },
  /** An offset from float, downwards. */
  'V below float': {
    core: 'V',
    toCore: (value, at) => float(at) - value,
    toDevice: (value, at) => float(at) - value,
    brief: ' below',
    typed: 'V',
    quirk: 'is counted in volts below float',
    offset: true,
    slips: volts,
  },
  /** Slope for one cell. */
  'mV/°C/cell': {
    core: 'V/°C per cell',
    toCore: (value, _, sign) => (sign * value) / 1000,
    toDevice: (value, _, sign) => sign * value * 1000,
    slips: volts,
  },
  /** Slope for six cells. */
  'mV/°C/12V': {
    core: 'V/°C per cell',
    toCore: (value, at, sign) => (sign * value * at.systemVolts) / 12 / 1000 / at.cellsInSeries,
    toDevice: (value, at, sign) => (sign * value * 1000 * at.cellsInSeries * 12) / at.systemVolts,
    label: 'mV/°C per 6 cells',
    slips: volts,
  },
  /** Slope for the bank. */
  'mV/°C': {
    core: 'V/°C per cell',
    toCore: (value, at, sign) => (sign * value) / 1000 / at.cellsInSeries,
    toDevice: (value, at, sign) => sign * value * 1000 * at.cellsInSeries,
    slips: volts,
  },
  min: { core: 's', toCore: (value) => value * 60, toDevice: (value) => value / 60, slips: time },
  s: same('s', time),
  h: { core: 's', toCore: (value) => value * 3600, toDevice: (value) => value / 3600, slips: time },
  d: same('d'),
  A: same('A'),
  '% of rating': {
    core: 'A',
    toCore: (value, at) => (value / 100) * at.ratingA,
    toDevice: (value, at) => (value / at.ratingA) * 100,
    quirk: 'is in percent of its rating',
    slips: ['decimal'],
  },
  '°C': { ...same('°C'), twin: '°F' },
  '°F': { core: '°C', toCore: fahrenheitToCelsius, toDevice: celsiusToFahrenheit, quirk: 'is in °F', slips: ['decimal'], twin: '°C' },
  '°C difference': { ...same('°C difference'), label: '°C' },
  '°F difference': {
    core: '°C difference',
    toCore: (value) => (value * 5) / 9,
    toDevice: celsiusDifferenceToFahrenheit,
    label: '°F',
    quirk: 'is in °F',
    slips: ['decimal'],
  },
  Ah: same('Ah'),
  '%': same('%'),
  ratio: { ...same('ratio'), label: '', typed: '' },
} satisfies Readonly<Record<string, UnitInfo>>;

/** The form in which a charger wants a value. A new one is an entry in the record above, and nothing else. */
export type DeviceUnit = keyof typeof record;

/** All of them, in the order in which they are offered. */
export const deviceUnits = Object.keys(record) as [DeviceUnit, ...DeviceUnit[]];

/** What the program knows of each unit, with what goes without saying. Made once: it is asked a thousand times for every frame of a drag. */
export const unitInfo = Object.fromEntries(
  Object.entries<UnitInfo>(record).map(([unit, known]) => {
    const label = known.label ?? unit;
    return [unit, { ...known, label, brief: known.brief ?? ` ${label}`, typed: known.typed ?? unit }];
  }),
) as Readonly<Record<DeviceUnit, UnitInfo & Required<Pick<UnitInfo, 'label' | 'brief' | 'typed'>>>>;

/** Whether a value in it is a voltage by itself, which stands at the bank once it is turned into the core's unit. */
export const isVoltage = (unit: DeviceUnit): boolean => unitInfo[unit].core === 'V' && unitInfo[unit].offset !== true;

/** Units that measure this, the usual one first. */
export const deviceUnitsFor = (core: NumberUnit): readonly DeviceUnit[] => deviceUnits.filter((unit) => unitInfo[unit].core === core);

/** How a number in the core's unit is written for people: in which unit, what one of it is in the core's, and with how many decimals. */
export const shownIn: Readonly<Record<NumberUnit, { readonly unit: string; readonly scale: number; readonly digits: number }>> = {
  V: { unit: 'V', scale: 1, digits: 2 },
  A: { unit: 'A', scale: 1, digits: 1 },
  Ah: { unit: 'Ah', scale: 1, digits: 0 },
  s: { unit: 'min', scale: 60, digits: 0 },
  d: { unit: 'd', scale: 1, digits: 0 },
  '°C': { unit: '°C', scale: 1, digits: 1 },
  '°C difference': { unit: '°C', scale: 1, digits: 1 },
  'V/°C per cell': { unit: 'mV/°C per cell', scale: 0.001, digits: 1 },
  '%': { unit: '%', scale: 1, digits: 0 },
  ratio: { unit: '', scale: 1, digits: 2 },
};
