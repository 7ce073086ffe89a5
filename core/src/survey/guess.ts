import { deviceUnitsFor, roleInfo, systemClasses, unitInfo, type CardKind, type DeviceUnit, type Role } from '../card';
import { readShown, typedUnits } from './reading';

/** How a language’s displays and manuals name the settings: by role, the words and the short forms of seven segments. */
export type RoleTerms = Readonly<Partial<Record<Role, readonly string[]>>>;

/** What speaks for a meaning: its name; the size of what it shows; that it comes behind another in most menus. */
export type GuessReason = 'name' | 'value' | 'order';

/** A meaning that an item may have, and what speaks for it. */
export interface MeaningGuess {
  readonly role: Role;
  readonly unit: DeviceUnit | 'choice';
  readonly reasons: readonly GuessReason[];
  /** Higher is likelier; only for ordering. */
  readonly score: number;
}

/** What is known around an item. */
export interface GuessContext {
  readonly kind: CardKind;
  /** System voltages the device is made for; the bank’s alone where it is known. */
  readonly systemVolts: readonly number[];
  /** Meanings that other items have already. */
  readonly taken: readonly Role[];
  /** The meaning of the item before it. */
  readonly before?: Role | undefined;
  readonly terms: RoleTerms;
}

/** What a setting of a 12 V system usually shows, in the core’s unit; volts grow with the system. */
const usual: Readonly<Partial<Record<Role, readonly [least: number, most: number]>>> = {
  absorbVoltage: [13.9, 14.9],
  bulkVoltage: [13.9, 14.9],
  floatVoltage: [13.2, 13.85],
  rechargeVoltage: [12.3, 13.4],
  equaliseVoltage: [14.9, 16.2],
  highVoltageAlarm: [15, 17],
  lowVoltageAlarm: [11, 12.2],
  loadDisconnect: [10.5, 12],
  loadReconnect: [12.2, 13.2],
  diversionVoltage: [14, 15.2],
  brakeVoltage: [15, 20],
  inputStartVoltage: [12.8, 13.9],
  inputStopVoltage: [11.8, 12.9],
  fullDetectVoltage: [13.2, 14.4],
  absorbTime: [600, 21_600],
  equaliseTime: [1800, 14_400],
  equaliseInterval: [14, 120],
  compensationSlope: [-0.007, -0.0005],
  lowTempCutoff: [-25, 10],
  lowTempResume: [-20, 12],
  highTempCutoff: [40, 65],
  highTempResume: [35, 60],
  machineTempLimit: [80, 130],
  chargeCurrentLimit: [5, 400],
  taperCurrent: [0.5, 25],
  capacity: [20, 4000],
};

/** Settings that most chargers have. */
const inMostMenus: readonly Role[] = ['absorbVoltage', 'absorbTime', 'floatVoltage', 'rechargeVoltage', 'loadDisconnect', 'loadReconnect'];

/** Pairs that stand behind one another in most menus. */
const follows: Readonly<Partial<Record<Role, readonly Role[]>>> = {
  absorbVoltage: ['absorbTime', 'floatVoltage'],
  absorbTime: ['floatVoltage', 'taperCurrent'],
  floatVoltage: ['rechargeVoltage', 'equaliseVoltage', 'absorbVoltage'],
  equaliseVoltage: ['equaliseTime', 'equaliseInterval'],
  equaliseTime: ['equaliseInterval'],
  lowTempCutoff: ['lowTempResume', 'highTempCutoff'],
  highTempCutoff: ['highTempResume'],
  loadDisconnect: ['loadReconnect'],
  inputStartVoltage: ['inputStopVoltage'],
  loadTimer: ['loadDawnTimer'],
  relayRule: ['relayOnVoltage'],
  relayOnVoltage: ['relayOffVoltage'],
  compensationSlope: ['lowTempCutoff'],
};

/** Kinds of device that have a setting of such a name at all; the others may be met anywhere. */
const onlyOn: Readonly<Partial<Record<Role, readonly CardKind[]>>> = {
  machineTempLimit: ['alternator'],
  fieldLimit: ['alternator'],
  beltRelief: ['alternator'],
  softStartTime: ['alternator'],
  diversionVoltage: ['turbine'],
  brakeVoltage: ['turbine'],
  powerCurve: ['turbine'],
  inputStartVoltage: ['dcdc', 'turbine'],
  inputStopVoltage: ['dcdc', 'turbine'],
  thermostatSetpoint: ['thermostat'],
  thermostatDifferential: ['thermostat'],
  thermostatDelay: ['thermostat'],
  fullDetectVoltage: ['monitor', 'dcdc'],
  fullDetectCurrent: ['monitor'],
  fullDetectTime: ['monitor'],
  chargeEfficiency: ['monitor'],
  peukertExponent: ['monitor'],
};

const plain = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** How well a label fits a term: 3 the same, 2 all its words, 1 the beginning of a word. */
function fitOf(label: string, term: string): number {
  if (label === '') return 0;
  if (label === term) return 3;
  const words = label.split(' ');
  const wanted = term.split(' ');
  if (wanted.every((w) => words.includes(w))) return 2 + Math.min(0.9, wanted.length / 10);
  return wanted.length === 1 && term.length >= 4 && label.length >= 3 && (words.some((w) => w.length >= 4 && w.startsWith(term)) || term.startsWith(label))
    ? 1
    : 0;
}

/** Whether a value in a unit is of the usual size for a role on one of these systems. */
function isUsual(role: Role, value: number, unit: DeviceUnit, systemVolts: readonly number[]): boolean {
  const range = usual[role];
  if (!range) return false;
  const { core } = unitInfo[unit];
  // An input has the volts of its source, whatever the bank’s.
  const ofSource = role.startsWith('input');
  if (ofSource && unit !== 'V') return false;
  return (ofSource ? systemClasses : systemVolts).some((volts) => {
    const factor = core === 'V' ? volts / 12 : 1;
    const real = unitInfo[unit].toCore(value, { systemVolts: volts, cellsInSeries: volts / 2, ratingA: 100, floatVolts: 13.5 * (volts / 12) }, 1);
    const is = core === 'V/°C per cell' ? -Math.abs(real) : real;
    return is >= range[0] * factor - 1e-9 && is <= range[1] * factor + 1e-9;
  });
}

/** Units in which a value of such a role would be of the usual size, the likeliest first; the plain one where it would be in none. */
function unitsFor(role: Role, value: number, typed: DeviceUnit | undefined, systemVolts: readonly number[]): readonly DeviceUnit[] {
  const { unit } = roleInfo[role];
  if (unit === 'choice') return [];
  const all = typedUnits(unit, typed);
  const fits = all.filter((u) => isUsual(role, value, u, systemVolts));
  return fits.length > 0 ? fits : all.slice(0, 1);
}

/**
 * What an item may mean, the likeliest first: by what its display calls it, by the size and unit of what it shows, by what came before it. Nothing is taken
 * without a yes.
 *
 * @returns at most six, none for an item of which nothing speaks
 */
export function meaningsOf(item: { readonly label: string; readonly shown: string }, context: GuessContext): readonly MeaningGuess[] {
  const label = plain(item.label);
  const shown = readShown(item.shown);
  const typed = shown.kind === 'number' ? shown.unit : undefined;
  const list = (Object.keys(roleInfo) as Role[]).flatMap((role): MeaningGuess[] => {
    if (context.taken.includes(role)) return [];
    const wanted = roleInfo[role].unit;
    if (shown.kind === 'word' ? wanted !== 'choice' : shown.kind === 'number' && wanted === 'choice') return [];
    if (onlyOn[role] && !onlyOn[role].includes(context.kind)) return [];
    const named = Math.max(0, ...[roleInfo[role].name, ...(context.terms[role] ?? [])].map((term) => fitOf(label, plain(term))));
    const [unit] = shown.kind === 'number' ? unitsFor(role, shown.value, typed, context.systemVolts) : [];
    if (shown.kind === 'number' && unit === undefined) return [];
    // Times, days and capacities are shown without decimals; a bare number with one is mostly volts.
    const point = shown.kind === 'number' && shown.decimals > 0;
    const odd = point && (wanted === 's' || wanted === 'd' || wanted === 'Ah');
    const fits = shown.kind === 'number' && unit !== undefined && !odd && isUsual(role, shown.value, unit, context.systemVolts);
    if (named === 0 && !fits) return [];
    const next = context.before !== undefined && follows[context.before]?.includes(role) === true;
    const reasons: GuessReason[] = [...(named > 0 ? (['name'] as const) : []), ...(fits ? (['value'] as const) : []), ...(next ? (['order'] as const) : [])];
    // A value that is usual for many roles says little by itself: what most menus have stands first.
    const score =
      named * 3 +
      (fits ? 2 : shown.kind === 'number' && usual[role] ? -1 : 0) +
      (next ? 1 : 0) +
      (point && wanted === 'V' ? 0.6 : 0) +
      (inMostMenus.includes(role) ? 0.5 : 0);
    return [{ role, unit: wanted === 'choice' ? 'choice' : (unit ?? deviceUnitsFor(wanted)[0]!), reasons, score }];
  });
  return list
    .filter((g) => g.score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, 6);
}

/** Roles that somebody may mean by plain words, the best first; all of them where nothing was typed. */
export function searchRoles(text: string, terms: RoleTerms): readonly Role[] {
  const words = plain(text)
    .split(' ')
    .filter((w) => w !== '');
  // Our own name counts before what others call it.
  const fit = (name: string): number => (words.every((w) => name.split(' ').some((n) => n.startsWith(w))) ? (name.startsWith(words.join(' ')) ? 2 : 1) : 0);
  return (Object.keys(roleInfo) as Role[])
    .map((role) => {
      const own = fit(plain(roleInfo[role].name));
      const best = Math.max(own === 0 ? 0 : own + 0.5, ...(terms[role] ?? []).map((term) => fit(plain(term))));
      return { role, best: words.length === 0 ? 1 : best };
    })
    .filter(({ best }) => best > 0)
    .sort((a, b) => b.best - a.best)
    .map(({ role }) => role);
}
