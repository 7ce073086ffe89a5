import { isSource, meansOf, parameterFor, type Card, type DeviceValues, type NumberParameter, type Role } from '../../card';
import { optionMeaning, writeValue } from '../../face';
import { tidy } from '../../quantity';
import { cardOf, devicesOf, factoryValues, nearestHeld, trueOf, type Setting } from '../../settings';
import { isLithium } from '../../sheet';
import type { Prepared } from '../prepared';
import { withValue, type FaultKind, type Setup, type Spot } from './fault';

const cardOn = (at: Prepared, { device }: Spot) => {
  const place = devicesOf(at.plan.input).find((d) => d.id === device);
  return place && cardOf(at.plan.input, place);
};

/** How a number on a device is wrong: what it would make at the bank, in the core’s unit; null where this fault cannot be there. */
interface WrongNumber {
  readonly roles: readonly Role[];
  readonly wrong: (right: number, at: Prepared, spot: Spot) => number | null;
}

const lithium = ({ plan }: Prepared): boolean => isLithium(plan.input.sheet.chemistry);
const perCell = (volts: number) => (right: number, at: Prepared) => right + volts * at.plan.facts.cells;

const numbers = {
  absorbHigh: { roles: ['absorbVoltage'], wrong: (right, at) => right + (lithium(at) ? 0.06 : 0.08) * at.plan.facts.cells },
  absorbLow: { roles: ['absorbVoltage'], wrong: (right, at) => right - (lithium(at) ? 0.12 : 0.1) * at.plan.facts.cells },
  floatHigh: { roles: ['floatVoltage'], wrong: perCell(0.08) },
  floatLow: { roles: ['floatVoltage'], wrong: perCell(-0.1) },
  rechargeLow: { roles: ['rechargeVoltage'], wrong: perCell(-0.15) },
  absorbTimeShort: { roles: ['absorbTime'], wrong: (right) => right * 0.25 },
  absorbTimeLong: { roles: ['absorbTime'], wrong: (right) => right * 4 },
  slopeOnLithium: { roles: ['compensationSlope'], wrong: (_, at) => (lithium(at) ? -0.003 : null) },
  slopeNone: { roles: ['compensationSlope'], wrong: (_, at) => (lithium(at) ? null : 0) },
  slopeTwice: { roles: ['compensationSlope'], wrong: (right, at) => (lithium(at) ? null : 2 * right) },
  cutoffLow: { roles: ['lowTempCutoff'], wrong: (right, at) => (lithium(at) ? right - 12 : null) },
  taperHigh: { roles: ['taperCurrent'], wrong: (right) => (right > 0 ? right * 5 : null) },
  taperBelowLoads: { roles: ['taperCurrent'], wrong: (right, at) => (right > at.plan.input.system.loads.minA ? 0.4 * at.plan.input.system.loads.minA : null) },
  limitLow: { roles: ['chargeCurrentLimit'], wrong: (right) => right * 0.2 },
  limitHigh: {
    roles: ['chargeCurrentLimit'],
    wrong: (right, at, spot) => {
      const rating = cardOf(at.plan.input, devicesOf(at.plan.input).find((d) => d.id === spot.device) ?? { card: '' })?.ratings.outputA ?? right;
      return rating >= 1.5 * right ? rating : null;
    },
  },
  fullHigh: { roles: ['fullDetectVoltage'], wrong: perCell(0.08) },
  capacityTwice: { roles: ['capacity'], wrong: (right) => right * 2 },
  disconnectLow: { roles: ['loadDisconnect'], wrong: perCell(-0.15) },
  inputStopLow: { roles: ['inputStopVoltage'], wrong: (right) => right - 0.8 },
  reconnectClose: {
    roles: ['loadReconnect'],
    wrong: (_, at, spot) => {
      const off = at.plan.setting(spot.device ?? '', 'loadDisconnect')?.trueValue;
      return off == null ? null : off + 0.03 * at.plan.facts.cells;
    },
  },
  alarmLow: {
    roles: ['highVoltageAlarm'],
    wrong: (_, at, spot) => {
      const absorb = at.plan.setting(spot.device ?? '', 'absorbVoltage')?.trueValue;
      return absorb == null ? null : absorb - 0.02 * at.plan.facts.cells;
    },
  },
} satisfies Readonly<Record<string, WrongNumber>>;

/** Settings that a fault may sit on: those that are worked out, keyed, and not taken from a leader. */
const settable = ({ plan }: Prepared, roles: readonly Role[]): readonly Setting[] =>
  plan.settings.filter((s) => roles.includes(s.role) && s.value !== null && s.inherited === undefined);

const spotOf = (s: Setting): Spot => ({ device: s.charger, role: s.role });

/** Steps of the device that a number with a band must move, and more than half of what was meant. */
const stepsApart = 3;

/** The wrong number as the device shows it; null where it cannot hold one that is far enough from the right one. */
function wrongNumber(at: Prepared, spot: Spot, { wrong }: WrongNumber): number | null {
  const { plan } = at;
  const setting = plan.setting(spot.device ?? '', spot.role ?? 'absorbVoltage');
  const device = devicesOf(plan.input).find((d) => d.id === spot.device);
  const card = device && cardOf(plan.input, device);
  const p = card && spot.role !== null ? parameterFor(card, spot.role) : undefined;
  if (!setting || !card || !p || p.unit === 'choice' || typeof setting.value !== 'number' || spot.device === null || spot.role === null) return null;
  const right = trueOf(plan, spot.device, spot.role, setting.value);
  const wanted = right === null ? null : wrong(right, at, spot);
  if (right === null || wanted === null) return null;
  const held = nearestHeld(plan, spot.device, spot.role, wanted);
  if (!held || !farEnough(p, held.device, setting.value, setting.band !== null) || Math.abs(held.real - right) < 0.5 * Math.abs(wanted - right)) return null;
  return entered(at, { card, device: spot.device }, at.right[spot.device] ?? {}, spot.role, held.device) ? held.device : null;
}

/**
 * The values of a device after somebody has entered one: where a rule with another setting was in the way, that one was moved as far as it
 * had to be. Null where the device cannot hold them.
 */
function entered(at: Prepared, { card, device }: { card: Card; device: string }, inUse: DeviceValues, role: Role, value: number | string): DeviceValues | null {
  const rules = { card, factory: factoryValues(at.plan, device), systemVolts: at.plan.facts.systemVolts ?? at.plan.facts.nominalVolts };
  const written = writeValue(rules, { inUse, stored: inUse }, role, value);
  if (written.ok) return written.memory.inUse;
  if (written.why !== 'rule' || typeof value !== 'number') return null;
  const { parameter, relation, other, gap } = written.rule;
  // Only equalise, which is off, is in nobody’s way.
  const moves = parameter === role ? other : parameter;
  if (moves !== 'equaliseVoltage' || meansOf(parameterFor(card, 'equaliseEnabled'), inUse.equaliseEnabled) !== 'off') return null;
  const by = (relation === 'atLeast' ? 1 : -1) * gap;
  const first = writeValue(rules, { inUse, stored: inUse }, moves, tidy(parameter === moves ? value + by : value - by));
  const second = first.ok ? writeValue(rules, first.memory, role, value) : first;
  return second.ok ? second.memory.inUse : null;
}
/** A setup whose device holds such values, in use and stored. */
const holding = (setup: Setup, device: string, values: DeviceValues): Setup => ({
  ...setup,
  inUse: { ...setup.inUse, [device]: values },
  stored: { ...setup.stored, [device]: values },
});

/** Whether anybody could call a number wrong: without a band one step is enough. */
const farEnough = (p: NumberParameter, a: number, b: number, banded: boolean): boolean => Math.abs(a - b) >= (banded ? stepsApart : 1) * p.step - 1e-9;

const readOff = ({ device, role }: Spot): string => `value:${device ?? ''}:${role ?? ''}`;
const byReading = (spot: Spot) => [{ keys: [readOff(spot)] }];

const ofNumber = (kind: WrongNumber): FaultKind => ({
  touches: 'value',
  remedy: 'value',
  spots: (at) =>
    settable(at, kind.roles)
      .map(spotOf)
      .filter((spot) => wrongNumber(at, spot, kind) !== null),
  plant(setup, spot, at) {
    const value = wrongNumber(at, spot, kind);
    const card = cardOn(at, spot);
    if (value === null || !card || spot.device === null || spot.role === null) return setup;
    const values = entered(at, { card, device: spot.device }, setup.inUse[spot.device] ?? {}, spot.role, value);
    return values ? holding(setup, spot.device, values) : setup;
  },
  proofs: byReading,
});

/** A fault in a choice: the option that stands there instead. */
function ofChoice(roles: readonly Role[], wrong: (at: Prepared, spot: Spot) => string | undefined): FaultKind {
  const found = (at: Prepared, spot: Spot): string | undefined => {
    const option = wrong(at, spot);
    return option === at.right[spot.device ?? '']?.[spot.role ?? 'batteryType'] ? undefined : option;
  };
  return {
    touches: 'value',
    remedy: 'value',
    spots: (at) =>
      settable(at, roles)
        .map(spotOf)
        .filter((spot) => found(at, spot) !== undefined),
    plant(setup, spot, at) {
      const option = found(at, spot);
      const card = cardOn(at, spot);
      if (option === undefined || !card || spot.device === null || spot.role === null) return setup;
      // A battery type brings its own levels with it, as it does on the device.
      const inUse = setup.inUse[spot.device] ?? {};
      return holding(setup, spot.device, entered(at, { card, device: spot.device }, inUse, spot.role, option) ?? { ...inUse, [spot.role]: option });
    },
    proofs: byReading,
  };
}

const choices = {
  equaliseOn: ofChoice(['equaliseEnabled'], (at, spot) => {
    const card = cardOn(at, spot);
    const now = at.right[spot.device ?? '']?.equaliseEnabled;
    return card && meansOf(parameterFor(card, 'equaliseEnabled'), now) === 'off' ? optionMeaning(card, 'equaliseEnabled', 'on') : undefined;
  }),
  /** A ready-made battery type in place of own figures; it moves the levels. */
  typeChosen: ofChoice(['batteryType'], (at, spot) => {
    const card = cardOn(at, spot);
    return card?.presets.find((preset) => preset.sets.absorbVoltage !== undefined)?.name;
  }),
  followsNobody: ofChoice(['follows'], (at, spot) => {
    const card = cardOn(at, spot);
    const follows = at.plan.input.system.chargers.find((c) => c.id === spot.device)?.follows !== undefined;
    const p = card && parameterFor(card, 'follows');
    return follows && p?.unit === 'choice' ? p.options.find((o) => o.means === 'off' || o.means === 'other')?.value : undefined;
  }),
};

/** The setpoint of a thermostat that counts in °F, typed as if it were in °C. */
const wrongScale: FaultKind = {
  touches: 'value',
  remedy: 'value',
  spots: (at) =>
    settable(at, ['thermostatSetpoint'])
      .map(spotOf)
      .filter((spot) => {
        const card = cardOn(at, spot);
        return card !== undefined && parameterFor(card, 'thermostatSetpoint')?.unit === '°F';
      }),
  plant(setup, spot, at) {
    const right = at.right[spot.device ?? '']?.thermostatSetpoint;
    return typeof right === 'number' ? withValue(setup, spot, Math.round(((right - 32) * 5) / 9)) : setup;
  },
  proofs: byReading,
};

/** One of two chargers of a kind has a lower absorb than its sister: it is done first and leaves the work to the other. */
const sistersApart: FaultKind = {
  touches: 'value',
  remedy: 'value',
  spots: (at) =>
    settable(at, ['absorbVoltage'])
      .map(spotOf)
      .filter((spot) => sisterOf(at, spot) !== undefined && apartValue(at, spot) !== null),
  plant: (setup, spot, at) => withValue(setup, spot, apartValue(at, spot) ?? 0),
  proofs: (spot, at) => [{ keys: [readOff(spot), `value:${sisterOf(at, spot) ?? ''}:absorbVoltage`] }],
};
const sisterOf = ({ plan }: Prepared, { device }: Spot): string | undefined => {
  const own = plan.input.system.chargers.find((c) => c.id === device);
  return plan.input.system.chargers.find((c) => c.id !== device && c.card === own?.card && c.follows === undefined && own?.follows === undefined)?.id;
};
const apartValue = (at: Prepared, spot: Spot): number | null => wrongNumber(at, spot, { roles: [], wrong: perCell(-0.05) });

/** The value in use is right and was never saved: the next power cut brings back another. */
const notSaved: FaultKind = {
  touches: 'value',
  remedy: 'value',
  spots: (at) =>
    settable(at, ['absorbVoltage', 'floatVoltage'])
      .map(spotOf)
      .filter((spot) => {
        const card = cardOn(at, spot);
        return card !== undefined && isSource(card.kind) && card.commit.kind !== 'auto' && unsavedValue(at, spot) !== null;
      }),
  plant: (setup, spot, at) => withValue(setup, spot, unsavedValue(at, spot) ?? 0, 'stored'),
  proofs: (spot) => [{ keys: [readOff(spot), `cut:${spot.device ?? ''}`] }],
};
const unsavedValue = (at: Prepared, spot: Spot): number | null => wrongNumber(at, spot, { roles: [], wrong: perCell(-0.12) });

/** Faults that sit in what a device holds. */
export const valueFaults = {
  absorbHigh: ofNumber(numbers.absorbHigh),
  absorbLow: ofNumber(numbers.absorbLow),
  floatHigh: ofNumber(numbers.floatHigh),
  floatLow: ofNumber(numbers.floatLow),
  rechargeLow: ofNumber(numbers.rechargeLow),
  absorbTimeShort: ofNumber(numbers.absorbTimeShort),
  absorbTimeLong: ofNumber(numbers.absorbTimeLong),
  slopeOnLithium: ofNumber(numbers.slopeOnLithium),
  slopeNone: ofNumber(numbers.slopeNone),
  slopeTwice: ofNumber(numbers.slopeTwice),
  cutoffLow: ofNumber(numbers.cutoffLow),
  taperHigh: ofNumber(numbers.taperHigh),
  taperBelowLoads: ofNumber(numbers.taperBelowLoads),
  limitLow: ofNumber(numbers.limitLow),
  limitHigh: ofNumber(numbers.limitHigh),
  fullHigh: ofNumber(numbers.fullHigh),
  capacityTwice: ofNumber(numbers.capacityTwice),
  disconnectLow: ofNumber(numbers.disconnectLow),
  inputStopLow: ofNumber(numbers.inputStopLow),
  reconnectClose: ofNumber(numbers.reconnectClose),
  alarmLow: ofNumber(numbers.alarmLow),
  equaliseOn: choices.equaliseOn,
  typeChosen: choices.typeChosen,
  followsNobody: choices.followsNobody,
  wrongScale,
  sistersApart,
  notSaved,
} satisfies Readonly<Record<string, FaultKind>>;
