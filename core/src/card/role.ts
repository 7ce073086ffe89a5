import * as z from 'zod';
import { between, shortText } from '../sheet';

/** The unit a role has in the core, at the bank. `choice` roles hold a word. */
export type RoleUnit = 'V' | 'A' | 'Ah' | 's' | 'd' | '°C' | '°C difference' | 'V/°C per cell' | '%' | 'ratio' | 'choice';
/** Of those, the units of numbers. */
export type NumberUnit = Exclude<RoleUnit, 'choice'>;

/** What is true of some roles and not of others. */
export type RoleTrait =
  /** Regulated on the charger's own voltage measurement, so that the error of its display applies. */
  | 'regulated'
  /** The bank is brought up to it. */
  | 'chargingSetpoint'
  /** Found outside its band on the device it harms or short-changes the bank, and no other finding looks at it. */
  | 'bandAsFound'
  /** Reveals or resets other settings, so it is keyed first. */
  | 'resetsOthers'
  /** A follower keeps it for itself: its rating, place or person differ from the leader's. */
  | 'ownOfFollower'
  /** A rehearsal goes otherwise when it is changed. */
  | 'rehearsed';

/** All that the program knows of a role before any device: a new role is a line here and a rule in the settings. */
interface RoleInfo {
  readonly name: string;
  readonly unit: RoleUnit;
  readonly traits: readonly RoleTrait[];
  /** What it is called on the ladder of voltages, for those that stand there. */
  readonly ladder?: string;
}

const record = {
  systemVoltage: { name: 'system voltage', unit: 'V', traits: ['resetsOthers', 'ownOfFollower'] },
  batteryType: { name: 'battery type', unit: 'choice', traits: ['resetsOthers'] },
  capacity: { name: 'capacity', unit: 'Ah', traits: [] },
  chargeCurrentLimit: { name: 'charge current limit', unit: 'A', traits: ['ownOfFollower', 'rehearsed'] },
  bulkVoltage: { name: 'bulk voltage', unit: 'V', traits: ['regulated', 'chargingSetpoint', 'bandAsFound', 'rehearsed'], ladder: 'bulk' },
  absorbVoltage: { name: 'absorb', unit: 'V', traits: ['regulated', 'chargingSetpoint', 'bandAsFound', 'rehearsed'], ladder: 'absorb' },
  absorbStartHold: { name: 'hold before absorb', unit: 's', traits: [] },
  absorbTime: { name: 'absorb time', unit: 's', traits: ['rehearsed'] },
  absorbMinTime: { name: 'least absorb time', unit: 's', traits: [] },
  maxChargeTime: { name: 'longest charge', unit: 's', traits: [] },
  absorbIntervalDays: { name: 'absorb every', unit: 'd', traits: [] },
  taperCurrent: { name: 'taper current', unit: 'A', traits: ['rehearsed'] },
  floatVoltage: { name: 'float', unit: 'V', traits: ['regulated', 'chargingSetpoint', 'bandAsFound', 'rehearsed'], ladder: 'float' },
  floatTime: { name: 'float time', unit: 's', traits: [] },
  rechargeVoltage: { name: 'recharge', unit: 'V', traits: ['regulated', 'bandAsFound', 'rehearsed'], ladder: 'recharge' },
  rechargeRule: { name: 'recharge rule', unit: 'choice', traits: [] },
  bulkAtSunrise: { name: 'bulk at sunrise', unit: 'choice', traits: [] },
  compensationSlope: { name: 'compensation slope', unit: 'V/°C per cell', traits: ['rehearsed'] },
  compensationMinTemp: { name: 'compensation, coldest', unit: '°C', traits: [] },
  compensationMaxTemp: { name: 'compensation, hottest', unit: '°C', traits: [] },
  lowTempCutoff: { name: 'low-temperature cutoff', unit: '°C', traits: ['rehearsed'] },
  lowTempResume: { name: 'low-temperature resume', unit: '°C', traits: ['rehearsed'] },
  highTempCutoff: { name: 'high-temperature cutoff', unit: '°C', traits: [] },
  highTempResume: { name: 'high-temperature resume', unit: '°C', traits: [] },
  equaliseEnabled: { name: 'equalise', unit: 'choice', traits: [] },
  equaliseVoltage: { name: 'equalise voltage', unit: 'V', traits: ['regulated', 'chargingSetpoint'], ladder: 'equalise' },
  equaliseTime: { name: 'equalise time', unit: 's', traits: [] },
  equaliseInterval: { name: 'equalise interval', unit: 'd', traits: [] },
  highVoltageAlarm: { name: 'high-voltage alarm', unit: 'V', traits: ['regulated'], ladder: 'alarm' },
  lowVoltageAlarm: { name: 'low-voltage alarm', unit: 'V', traits: ['regulated'], ladder: 'low alarm' },
  loadDisconnect: { name: 'load disconnect', unit: 'V', traits: ['regulated', 'rehearsed'], ladder: 'disconnect' },
  loadReconnect: { name: 'load reconnect', unit: 'V', traits: ['regulated', 'rehearsed'], ladder: 'reconnect' },
  loadDisconnectDelay: { name: 'load disconnect delay', unit: 's', traits: [] },
  loadReconnectDelay: { name: 'load reconnect delay', unit: 's', traits: [] },
  loadMode: { name: 'load mode', unit: 'choice', traits: [] },
  loadTimer: { name: 'load timer', unit: 's', traits: [] },
  loadDawnTimer: { name: 'load timer before dawn', unit: 's', traits: [] },
  relayRule: { name: 'relay rule', unit: 'choice', traits: [] },
  relayOnVoltage: { name: 'relay on', unit: 'V', traits: ['regulated'], ladder: 'relay on' },
  relayOffVoltage: { name: 'relay off', unit: 'V', traits: ['regulated'], ladder: 'relay off' },
  machineTempLimit: { name: 'machine temperature limit', unit: '°C', traits: ['rehearsed'] },
  fieldLimit: { name: 'field limit', unit: '%', traits: ['rehearsed'] },
  softStartTime: { name: 'soft start', unit: 's', traits: ['rehearsed'] },
  beltRelief: { name: 'belt relief', unit: '%', traits: [] },
  inputStartVoltage: { name: 'input start', unit: 'V', traits: ['rehearsed'] },
  inputStopVoltage: { name: 'input stop', unit: 'V', traits: ['rehearsed'] },
  diversionVoltage: { name: 'diversion', unit: 'V', traits: ['regulated', 'rehearsed'], ladder: 'diversion' },
  inputLimitVoltage: { name: 'input limit', unit: 'V', traits: [] },
  brakeVoltage: { name: 'brake', unit: 'V', traits: ['regulated'], ladder: 'brake' },
  powerCurve: { name: 'power curve', unit: 'choice', traits: [] },
  outputMode: { name: 'output mode', unit: 'choice', traits: [] },
  fullDetectVoltage: { name: 'full-charge voltage', unit: 'V', traits: ['rehearsed'], ladder: 'full' },
  fullDetectCurrent: { name: 'full-charge current', unit: 'A', traits: ['rehearsed'] },
  fullDetectTime: { name: 'full-charge time', unit: 's', traits: [] },
  chargeEfficiency: { name: 'charge efficiency', unit: '%', traits: [] },
  peukertExponent: { name: 'Peukert exponent', unit: 'ratio', traits: [] },
  thermostatSetpoint: { name: 'thermostat setpoint', unit: '°C', traits: [] },
  thermostatDifferential: { name: 'thermostat differential', unit: '°C difference', traits: [] },
  thermostatDelay: { name: 'thermostat delay', unit: 's', traits: [] },
  groundFaultDetection: { name: 'ground-fault detection', unit: 'choice', traits: ['ownOfFollower'] },
  groundingScheme: { name: 'grounding', unit: 'choice', traits: [] },
  follows: { name: 'follows', unit: 'choice', traits: ['resetsOthers', 'ownOfFollower'] },
  remoteControl: { name: 'remote command', unit: 'choice', traits: [] },
  displaySleep: { name: 'display sleep', unit: 's', traits: ['ownOfFollower'] },
  clock: { name: 'clock', unit: 'choice', traits: ['ownOfFollower'] },
} satisfies Readonly<Record<string, RoleInfo>>;

/** What a setting means, whatever the charger's own menu calls it. */
export type Role = keyof typeof record;

/** The record of roles. */
export const roleInfo: Readonly<Record<Role, RoleInfo>> = record;

/** All roles, in the order of the record. */
export const allRoles = Object.keys(record) as [Role, ...Role[]];
export const roleSchema = z.enum(allRoles);

/** Values on a device by role, as its display shows them, at a file's or a request's edge. */
export const deviceValuesSchema = z.partialRecord(roleSchema, z.union([between(-1e5, 1e5), shortText(40)]));

/** Values on a device, as its display shows them. */
export type DeviceValues = Readonly<Partial<Record<Role, number | string>>>;

/** Whether something is true of a role. */
export const hasTrait = (role: Role, trait: RoleTrait): boolean => roleInfo[role].traits.includes(trait);
