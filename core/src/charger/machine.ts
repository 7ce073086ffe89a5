import { isSource } from '../card';
import type { ChargerProgram } from './program';
import type { Stage } from './stage';

/** Why a stage changed. Words are made of it where it is shown. */
export type Cause =
  | 'start'
  | 'sourceOn'
  | 'sourceOff'
  | 'touched'
  | 'held'
  | 'time'
  | 'taper'
  | 'timeAndTaper'
  | 'charge'
  | 'maxTime'
  | 'recharge'
  | 'days'
  | 'floatTime'
  | 'cold'
  | 'warm'
  | 'hot'
  | 'cooled'
  | 'noSensor'
  | 'equaliseDue'
  | 'equaliseAsked'
  | 'equaliseDone'
  | 'alarm'
  | 'alarmOver'
  | 'batteryGone'
  | 'leader'
  | 'restart'
  | 'brake'
  | 'blocked'
  | 'unblocked';

/** What a charger senses at one moment. */
export interface Reading {
  /** Volts at its own terminals, or at its sense leads, as it measures them. */
  volts: number;
  /** Its own output, A, and the bank's net current, A; the latter NaN where nobody tells it. */
  amps: number;
  bankAmps: number;
  /** What its battery sensor says, °C; NaN without a sensor. */
  celsius: number;
  /** Whether its source could give anything. */
  source: boolean;
  /** DC-DC: volts at the input; and whether an engine line says it runs. */
  inputVolts: number;
  engineLine: boolean;
  /** Alternator: temperature of the machine, °C. */
  machineC: number;
  /** State of charge as a monitor tells it, 0 to 1; NaN without one. */
  charge: number;
  /** The battery is there. */
  battery: boolean;
  /** A relay or enable input forbids charging. */
  blocked: boolean;
}

/** A reading with nothing unusual in it. */
export const plainReading = (volts: number): Reading => ({
  volts,
  amps: 0,
  bankAmps: NaN,
  celsius: NaN,
  source: true,
  inputVolts: NaN,
  engineLine: false,
  machineC: NaN,
  charge: NaN,
  battery: true,
  blocked: false,
});

/** Where a charger stands. Mutable, plain numbers only, so that it can be copied in a loop or kept by a simulated device. */
export interface MachineState {
  stage: Stage;
  /** What the charger went to off from, where it comes back to it. */
  resumeTo: 'bulk' | 'float' | 'rest';
  cause: Cause;
  /** Rises with every change of stage. */
  changes: number;
  /** Regulated volts by its own measure; NaN when it gives nothing. */
  targetV: number;
  /** The most it may give now, A. */
  maxA: number;
  /** s in the present stage; that counted for absorb; at the start threshold; at or under the taper; under recharge. */
  inStage: number;
  counted: number;
  touching: number;
  tapering: number;
  low: number;
  /** s of charge since the cycle began, of bulk in it, and since the last absorb and equalise ended. */
  cycle: number;
  bulk: number;
  sinceAbsorb: number;
  sinceEqualise: number;
  sourceFor: number;
  alarmQuiet: number;
  /** Part that heat leaves of the output, 1 down to 0.2. */
  heat: number;
  /** DC-DC: its input is on. Somebody has asked for an equalise. A brake holds the turbine. */
  inputOn: boolean;
  equaliseAsked: boolean;
  braked: boolean;
  /** s above the brake voltage. */
  overBrake: number;
}

/** A charger that has just been powered. */
export const newMachine = (): MachineState => ({
  stage: 'off',
  resumeTo: 'bulk',
  cause: 'start',
  changes: 0,
  targetV: NaN,
  maxA: 0,
  inStage: 0,
  counted: 0,
  touching: 0,
  tapering: 0,
  low: 0,
  cycle: 0,
  bulk: 0,
  sinceAbsorb: 0,
  sinceEqualise: 0,
  sourceFor: 0,
  alarmQuiet: 0,
  heat: 1,
  inputOn: false,
  equaliseAsked: false,
  braked: false,
  overBrake: 0,
});

/** Copies a state into another, for steps that may be taken back. Field by field: it runs in the hot loop. */
export function copyMachine(from: MachineState, to: MachineState): void {
  to.stage = from.stage;
  to.resumeTo = from.resumeTo;
  to.cause = from.cause;
  to.changes = from.changes;
  to.targetV = from.targetV;
  to.maxA = from.maxA;
  to.inStage = from.inStage;
  to.counted = from.counted;
  to.touching = from.touching;
  to.tapering = from.tapering;
  to.low = from.low;
  to.cycle = from.cycle;
  to.bulk = from.bulk;
  to.sinceAbsorb = from.sinceAbsorb;
  to.sinceEqualise = from.sinceEqualise;
  to.sourceFor = from.sourceFor;
  to.alarmQuiet = from.alarmQuiet;
  to.heat = from.heat;
  to.inputOn = from.inputOn;
  to.equaliseAsked = from.equaliseAsked;
  to.braked = from.braked;
  to.overBrake = from.overBrake;
}

/** Current must stay at or under the taper so long, and voltage under recharge so long, before it counts, s. */
const taperHoldS = 30;
const rechargeHoldS = 30;
/** A source must be there so long before a charger starts, s. */
const sourceHoldS = 10;
/** How close to its target a charger counts as at voltage: V per 12 V of system. */
const atVoltsPer12 = 0.05;
/** The alarm lets go this far under it, V per 12 V, after so many seconds. */
const alarmBackPer12 = 0.2;
const alarmHoldS = 60;
/** A brake closes after so many seconds. */
const brakeHoldS = 2;
/** Heat begins to cut this far under the limit, and has cut to a fifth this far above it, °C. */
const heatBelowC = 5;
const heatAboveC = 5;
/** By a monitor, full: what ends absorb by state of charge. */
const fullCharge = 0.99;

/** Whether a charger counts as at its target voltage. */
export const atTarget = (p: ChargerProgram, targetV: number, volts: number): boolean => volts >= targetV - (atVoltsPer12 * p.systemVolts) / 12;

/** The shift of setpoints at a sensor reading, V: slope × (clamped temperature − reference); none without a reading. */
const shiftOf = (p: ChargerProgram, celsius: number): number =>
  p.slope === 0 || Number.isNaN(celsius) ? 0 : p.slope * (Math.min(p.compensationMaxC, Math.max(p.compensationMinC, celsius)) - p.referenceC);

function enter(s: MachineState, stage: Stage, cause: Cause): void {
  if (stage === s.stage) return;
  s.stage = stage;
  s.cause = cause;
  s.changes++;
  s.inStage = 0;
  s.touching = 0;
  s.tapering = 0;
  s.low = 0;
}

/** A new cycle from bulk: all its counters begin again. */
function begin(s: MachineState, cause: Cause): void {
  enter(s, 'bulk', cause);
  s.counted = 0;
  s.cycle = 0;
  s.bulk = 0;
}

const charging = (stage: Stage): boolean => stage === 'bulk' || stage === 'absorb' || stage === 'float' || stage === 'rest' || stage === 'equalise';

/** What absorb is over by, or null while it goes on. */
function absorbOver(p: ChargerProgram, s: MachineState, r: Reading): Cause | null {
  const { end } = p.card.absorb;
  if (s.cycle >= p.maxChargeS) return 'maxTime';
  if (s.counted < p.absorbMinS) return null;
  const time = s.counted >= p.absorbS;
  const taper = s.tapering >= taperHoldS;
  switch (end) {
    case 'time':
      return time ? 'time' : null;
    case 'taper':
      return taper ? 'taper' : null;
    case 'whicheverFirst':
      return taper ? 'taper' : time ? 'time' : null;
    case 'both':
      return taper && time ? 'timeAndTaper' : null;
    case 'adaptive':
      // As long as the bulk before it took, within what the card allows.
      return s.counted >= Math.min(p.absorbS, Math.max(p.absorbMinS, s.bulk)) ? 'time' : null;
    case 'stateOfCharge':
      return r.charge >= fullCharge ? 'charge' : taper ? 'taper' : time ? 'time' : null;
    case 'none':
      return null;
  }
}

/** Whether cold, heat, a missing sensor or a relay keeps it from charging, and why it may go on again. */
function held(p: ChargerProgram, s: MachineState, r: Reading): { stage: Stage; cause: Cause } | null {
  if (r.blocked) return { stage: 'cold', cause: 'blocked' };
  const cutoff = p.coldOffC > -Infinity || p.hotOffC < Infinity;
  if (!cutoff) return null;
  if (Number.isNaN(r.celsius)) return p.card.sensor.withoutSensor === 'stopsCharging' ? { stage: 'fault', cause: 'noSensor' } : null;
  if (r.celsius <= p.coldOffC || (s.stage === 'cold' && s.cause !== 'blocked' && r.celsius < p.coldOnC)) return { stage: 'cold', cause: 'cold' };
  if (r.celsius >= p.hotOffC || (s.stage === 'hot' && r.celsius > p.hotOnC)) return { stage: 'hot', cause: 'hot' };
  return null;
}

/** DC-DC chargers start and stop by their input; everything else by whether its source gives anything. */
function sourceThere(p: ChargerProgram, s: MachineState, r: Reading): boolean {
  if (p.followsEngineLine) return r.engineLine;
  if (p.card.kind !== 'dcdc' || Number.isNaN(p.inputStartV)) return r.source && !p.disabled;
  if (r.inputVolts >= p.inputStartV) s.inputOn = true;
  else if (r.inputVolts < p.inputStopV) s.inputOn = false;
  return s.inputOn;
}

/**
 * Moves a charger on by `dt` seconds. The one stage machine: rehearsal and simulated devices run it; clock, step and sensors come from outside.
 * It never regulates: it says which volts it wants at its own terminals and how much it may give.
 *
 * @param leader the state of the charger it follows, if it follows one
 */
export function advance(p: ChargerProgram, s: MachineState, r: Reading, dt: number, leader?: MachineState): void {
  if (!isSource(p.card.kind)) return;
  s.inStage += dt;
  s.sinceAbsorb += dt;
  s.sinceEqualise += dt;
  const shift = shiftOf(p, r.celsius);
  const there = sourceThere(p, s, r);
  s.sourceFor = there ? s.sourceFor + dt : 0;

  if (!Number.isNaN(p.brakeV)) {
    s.overBrake = r.volts >= p.brakeV ? s.overBrake + dt : 0;
    if (s.overBrake >= brakeHoldS && !s.braked) {
      s.braked = true;
      enter(s, 'fault', 'brake');
    }
  }
  if (!r.battery && !p.card.survivesBatteryLoss && p.card.kind !== 'turbine' && s.sourceFor > 0) enter(s, 'fault', 'batteryGone');
  if (r.volts >= p.alarmV && charging(s.stage)) {
    enter(s, 'fault', 'alarm');
    s.alarmQuiet = 0;
  }
  if (s.stage === 'fault' && s.cause === 'alarm') {
    s.alarmQuiet = r.volts < p.alarmV - (alarmBackPer12 * p.systemVolts) / 12 ? s.alarmQuiet + dt : 0;
    if (s.alarmQuiet >= alarmHoldS) begin(s, 'alarmOver');
  }

  if (!there) {
    // A machine that has stopped may start again after a lost battery; a brake stays.
    if (s.stage !== 'off' && !(s.stage === 'fault' && s.cause === 'brake')) {
      s.resumeTo = s.stage === 'float' || s.stage === 'rest' ? s.stage : 'bulk';
      enter(s, 'off', 'sourceOff');
    }
    s.heat = 1;
  } else if (s.stage === 'off' && s.sourceFor >= sourceHoldS) {
    const again = p.restartsDaily || s.resumeTo === 'bulk' || (r.volts < p.rechargeV && p.rechargeV === p.rechargeV);
    if (again) begin(s, 'sourceOn');
    else enter(s, s.resumeTo, 'sourceOn');
  }

  if (there && s.stage !== 'off' && !(s.stage === 'fault' && s.cause !== 'noSensor')) {
    const hold = held(p, s, r);
    if (hold) {
      enter(s, hold.stage, hold.cause);
      s.cause = hold.cause;
    } else if (s.stage === 'cold' || s.stage === 'hot' || s.stage === 'fault')
      begin(s, s.stage === 'hot' ? 'cooled' : s.cause === 'blocked' ? 'unblocked' : 'warm');
    else if (leader) {
      if (charging(leader.stage)) enter(s, leader.stage, 'leader');
    } else cycle(p, s, r, dt, shift);
  }
  output(p, s, r, dt, shift);
}

/** Bulk, absorb, float, rest and equalise. */
function cycle(p: ChargerProgram, s: MachineState, r: Reading, dt: number, shift: number): void {
  const absorbTarget = p.absorbV + (p.compensates.absorb ? shift : 0);
  const bulkTarget = p.bulkV + (p.compensates.bulk ? shift : 0);
  if (s.stage === 'bulk' || s.stage === 'absorb') s.cycle += dt;
  if (s.stage === 'bulk') {
    s.bulk += dt;
    if (r.volts >= bulkTarget - 0.002) {
      s.touching += dt;
      if (s.touching >= p.startHoldS) enter(s, 'absorb', p.startHoldS > 0 ? 'held' : 'touched');
    } else {
      s.touching = 0;
      if (s.cycle >= p.maxChargeS) finish(p, s, 'maxTime');
    }
  } else if (s.stage === 'absorb') {
    const at = atTarget(p, absorbTarget, r.volts);
    if (at || p.card.absorb.timerCounts === 'wallClock') s.counted += dt;
    const seen = p.card.absorb.currentSeen === 'bank' && r.bankAmps === r.bankAmps ? r.bankAmps : r.amps;
    s.tapering = p.taperA > 0 && at && seen <= p.taperA ? s.tapering + dt : 0;
    const over = absorbOver(p, s, r);
    if (over) finish(p, s, over);
  } else if (s.stage === 'equalise') {
    if (atTarget(p, p.equaliseV + (p.compensates.equalise ? shift : 0), r.volts)) s.counted += dt;
    if (s.counted >= p.equaliseS) {
      s.sinceEqualise = 0;
      enter(s, p.floatV === p.floatV ? 'float' : 'rest', 'equaliseDone');
    }
  } else {
    s.low = r.volts < p.rechargeV ? s.low + dt : 0;
    if (s.low >= rechargeHoldS) begin(s, 'recharge');
    else if (s.sinceAbsorb >= p.absorbEveryS) begin(s, 'days');
    else if (s.stage === 'float' && s.inStage >= p.floatS) enter(s, 'rest', 'floatTime');
  }
  if (s.equaliseAsked && p.equaliseEnabled && s.stage !== 'equalise') {
    s.equaliseAsked = false;
    s.counted = 0;
    enter(s, 'equalise', 'equaliseAsked');
  }
}

/** The end of absorb: equalise where it is due, else float, else rest. */
function finish(p: ChargerProgram, s: MachineState, cause: Cause): void {
  s.sinceAbsorb = 0;
  if (p.equaliseEnabled && s.sinceEqualise >= p.equaliseEveryS) {
    s.counted = 0;
    enter(s, 'equalise', 'equaliseDue');
  } else enter(s, p.floatV === p.floatV ? 'float' : 'rest', cause);
}

/** Which volts it wants and how much it may give. */
function output(p: ChargerProgram, s: MachineState, r: Reading, dt: number, shift: number): void {
  const { compensates: c } = p;
  s.targetV =
    s.stage === 'bulk'
      ? p.bulkV + (c.bulk ? shift : 0)
      : s.stage === 'absorb'
        ? p.absorbV + (c.absorb ? shift : 0)
        : s.stage === 'float'
          ? p.floatV + (c.float ? shift : 0)
          : s.stage === 'equalise'
            ? p.equaliseV + (c.equalise ? shift : 0)
            : NaN;
  if (s.targetV !== s.targetV) {
    s.maxA = 0;
    return;
  }
  if (r.machineC === r.machineC && p.machineLimitC < Infinity) {
    const wanted = Math.max(0.2, Math.min(1, 0.2 + (0.8 * (p.machineLimitC + heatAboveC - r.machineC)) / (heatBelowC + heatAboveC)));
    // The field follows in some seconds.
    s.heat += (wanted - s.heat) * Math.min(1, dt / 10);
  }
  const ramp = p.softStartS > 0 ? Math.min(1, s.sourceFor / p.softStartS) : 1;
  s.maxA = p.limitA * p.outputPart * s.heat * ramp;
}
