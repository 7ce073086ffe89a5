import { fromDevice, meansOf, parameterFor, roleInfo, specialAt, type Card, type DeviceSetting, type DeviceValues, type Role } from '../card';
import { formatQuantity, good, type Problem, type Result } from '../quantity';

/**
 * What a charger does, worked out from its card and the values on it: in volts as the charger itself measures them, A, s, °C. Nothing here knows
 * of its display's error: that belongs to what it senses.
 */
export interface ChargerProgram {
  readonly card: Card;
  readonly systemVolts: number;
  /** Regulated in bulk; what the voltage must reach for absorb to begin. The same as absorb where the card has no bulk voltage. */
  readonly bulkV: number;
  readonly absorbV: number;
  /** NaN: no float, the charger rests. */
  readonly floatV: number;
  /** NaN: no voltage starts a new cycle. */
  readonly rechargeV: number;
  /** NaN: it cannot equalise. */
  readonly equaliseV: number;
  readonly equaliseS: number;
  /** Infinity: only when somebody asks. */
  readonly equaliseEveryS: number;
  readonly equaliseEnabled: boolean;
  readonly startHoldS: number;
  /** Infinity: all day. */
  readonly absorbS: number;
  readonly absorbMinS: number;
  /** 0: current does not end absorb. */
  readonly taperA: number;
  readonly floatS: number;
  readonly maxChargeS: number;
  /** Days after which absorb begins again whatever the voltage; Infinity for never. */
  readonly absorbEveryS: number;
  readonly restartsDaily: boolean;
  readonly limitA: number;
  /** V/°C for the bank; 0 without compensation. */
  readonly slope: number;
  readonly referenceC: number;
  readonly compensationMinC: number;
  readonly compensationMaxC: number;
  readonly compensates: { readonly bulk: boolean; readonly absorb: boolean; readonly float: boolean; readonly equalise: boolean };
  /** Battery temperatures, °C; ∓Infinity where there is no such cutoff. */
  readonly coldOffC: number;
  readonly coldOnC: number;
  readonly hotOffC: number;
  readonly hotOnC: number;
  /** Infinity: no alarm, or none that stops it. */
  readonly alarmV: number;
  readonly softStartS: number;
  readonly machineLimitC: number;
  /** What field limit and belt relief leave of the output, 0 to 1. */
  readonly outputPart: number;
  /** DC-DC: volts of the input; NaN on other chargers. */
  readonly inputStartV: number;
  readonly inputStopV: number;
  readonly followsEngineLine: boolean;
  /** Turbine: NaN on other chargers. */
  readonly diversionV: number;
  readonly brakeV: number;
  /** Switched off, or without a power curve: it gives nothing. */
  readonly disabled: boolean;
}

/**
 * Works out a charger's program. The role names on the card decide; what it has not takes the plainest meaning.
 *
 * @param values on the device, as its display shows them
 * @param referenceC where compensation is zero, °C
 * @returns a problem in a sentence where the values make no sense: no absorb voltage, a value that is no number, float above absorb
 */
export function programOf(card: Card, values: DeviceValues, at: Omit<DeviceSetting, 'floatVolts'>, referenceC: number, name: string): Result<ChargerProgram> {
  const problems: Problem[] = [];
  const number = (role: Role, floatVolts?: number): number | null => {
    const parameter = parameterFor(card, role);
    const value = values[role];
    if (!parameter || parameter.unit === 'choice' || value === undefined) return null;
    if (typeof value !== 'number' || !Number.isFinite(value)) {
      problems.push({
        code: 'value-no-number',
        text: `${name}: ${roleInfo[role].name} reads “${String(value)}”, which is no number. Enter what its display shows.`,
        place: role,
      });
      return null;
    }
    const special = specialAt(parameter, value);
    if (special?.means === 'off') return null;
    if (special?.means === 'allDay') return Infinity;
    return fromDevice(parameter, value, { ...at, ...(floatVolts === undefined ? {} : { floatVolts }) });
  };
  const means = (role: Role) => meansOf(parameterFor(card, role), values[role]);
  const absorbV = number('absorbVoltage');
  const bulkV = number('bulkVoltage') ?? absorbV;
  const floatV = number('floatVoltage');
  if (absorbV === null || bulkV === null) {
    if (problems.length === 0)
      problems.push({
        code: 'no-absorb',
        text: `${name}: nobody knows its absorb voltage, so it cannot be rehearsed. Enter it on Settings, or read it off the device.`,
        place: 'absorbVoltage',
      });
    return { ok: false, problems };
  }
  const rechargeV = card.recharge.rule === 'none' || card.recharge.rule === 'days' ? null : number('rechargeVoltage', floatV ?? absorbV);
  if (!(absorbV > 0)) problems.push({ code: 'absorb-zero', text: `${name}: absorb is at ${formatQuantity(absorbV, 'V', 1)}.`, place: 'absorbVoltage' });
  if (floatV !== null && floatV > absorbV + 1e-9)
    problems.push({
      code: 'float-above-absorb',
      text: `${name}: float ${formatQuantity(floatV, 'V', 2)} is above absorb ${formatQuantity(absorbV, 'V', 2)}. Lower float, or raise absorb.`,
      place: 'floatVoltage',
    });
  if (rechargeV !== null && rechargeV >= absorbV)
    problems.push({
      code: 'recharge-above-absorb',
      text: `${name}: recharge ${formatQuantity(rechargeV, 'V', 2)} is at or above absorb ${formatQuantity(absorbV, 'V', 2)}: it would begin again for ever. Lower recharge.`,
      place: 'rechargeVoltage',
    });
  if (problems.length > 0) return { ok: false, problems };
  const usesCutoff = card.sensor.usedFor.includes('cutoff');
  const slopePerCell = card.sensor.usedFor.includes('compensation') ? (number('compensationSlope') ?? 0) : 0;
  const coldOffC = usesCutoff ? (number('lowTempCutoff') ?? -Infinity) : -Infinity;
  const hotOffC = usesCutoff ? (number('highTempCutoff') ?? Infinity) : Infinity;
  const days = number('absorbIntervalDays');
  const fieldPart = (number('fieldLimit') ?? 100) / 100;
  const relief = (number('beltRelief') ?? 0) / 100;
  const equaliseV = number('equaliseVoltage');
  const interval = number('equaliseInterval');
  const compensated = (role: Role): boolean => card.compensated.includes(role);
  const start = card.absorb.start;
  return good({
    card,
    systemVolts: at.systemVolts,
    bulkV: Math.max(bulkV, absorbV),
    absorbV,
    floatV: floatV ?? NaN,
    rechargeV: rechargeV ?? NaN,
    equaliseV: equaliseV ?? NaN,
    equaliseS: number('equaliseTime') ?? 3600,
    equaliseEveryS: interval === null ? Infinity : interval * 86_400,
    equaliseEnabled: equaliseV !== null && means('equaliseEnabled') !== 'off',
    startHoldS: number('absorbStartHold') ?? (start.kind === 'held' ? start.seconds : 0),
    absorbS: number('absorbTime') ?? (card.absorb.end === 'taper' || card.absorb.end === 'none' ? Infinity : 0),
    absorbMinS: number('absorbMinTime') ?? 0,
    taperA: number('taperCurrent') ?? 0,
    floatS: number('floatTime') ?? Infinity,
    maxChargeS: number('maxChargeTime') ?? Infinity,
    absorbEveryS: days === null ? (card.recharge.rule === 'days' ? 7 * 86_400 : Infinity) : days * 86_400,
    restartsDaily: means('bulkAtSunrise') === 'on' || (means('bulkAtSunrise') === null && card.recharge.restartsDaily),
    limitA:
      values.chargeCurrentLimit === undefined || !parameterFor(card, 'chargeCurrentLimit')
        ? card.ratings.outputA
        : Math.min(card.ratings.outputA, number('chargeCurrentLimit') ?? 0),
    slope: slopePerCell * at.cellsInSeries,
    referenceC,
    compensationMinC: number('compensationMinTemp') ?? -Infinity,
    compensationMaxC: number('compensationMaxTemp') ?? Infinity,
    compensates: {
      bulk: compensated('bulkVoltage'),
      absorb: compensated('absorbVoltage'),
      float: compensated('floatVoltage'),
      equalise: compensated('equaliseVoltage'),
    },
    coldOffC,
    coldOnC: Math.max(coldOffC, usesCutoff ? (number('lowTempResume') ?? coldOffC + 1) : -Infinity),
    hotOffC,
    hotOnC: Math.min(hotOffC, usesCutoff ? (number('highTempResume') ?? hotOffC - 1) : Infinity),
    alarmV: card.kind === 'alternator' ? (number('highVoltageAlarm') ?? Infinity) : Infinity,
    softStartS: number('softStartTime') ?? 0,
    machineLimitC: number('machineTempLimit') ?? Infinity,
    outputPart: fieldPart * (1 - relief),
    inputStartV: number('inputStartVoltage') ?? NaN,
    inputStopV: number('inputStopVoltage') ?? NaN,
    followsEngineLine: card.kind === 'dcdc' && means('remoteControl') === 'on',
    diversionV: number('diversionVoltage') ?? NaN,
    brakeV: number('brakeVoltage') ?? NaN,
    disabled: card.kind === 'turbine' && (means('outputMode') === 'off' || means('powerCurve') === 'off'),
  });
}

/** What a device holds after its power was cut: everything where the edits were saved, else what was stored before; what it forgets stands at the factory's. */
export function afterPowerCut(card: Card, keyed: DeviceValues, stored: DeviceValues, factory: DeviceValues, saved: boolean): DeviceValues {
  const kept: DeviceValues = saved || card.commit.kind === 'auto' ? keyed : { ...keyed, ...stored };
  const lost = saved ? [] : card.forgets;
  return Object.fromEntries(Object.entries(kept).map(([role, value]) => [role, lost.includes(role as Role) ? (factory[role as Role] ?? value) : value]));
}
