import { cardOf, chargersWithCards, compensationOf, referenceC, type Plan } from '../../settings';
import { family } from '../../card';
import { zeroAmps } from '../../requirements';
import type { Stage } from '../../charger';
import { median } from '../statistics';
import type { Log } from '../log';

/** A stretch of time a charger spent in one stage. */
export interface StageSpan {
  readonly charger: string;
  readonly stage: Stage;
  /** Seconds since 1970. */
  readonly from: number;
  readonly to: number;
  /** First and last sample. */
  readonly first: number;
  readonly last: number;
  /** 0 to 1: how well the samples fit the stage. */
  readonly confidence: number;
  /** Seconds at absorb voltage while charging: what an at-voltage timer counts. */
  readonly atVoltageSeconds: number;
}

/** Levels beside absorb, each of which moves with temperature or does not. */
export type LowerLevel = 'floatV' | 'rechargeV' | 'equaliseV';

/** What stage inference knows of one charger. */
export interface ChargerLevels {
  readonly absorbV: number;
  readonly floatV: number | null;
  readonly rechargeV: number | null;
  readonly cutoffC: number | null;
  readonly taperA: number | null;
  readonly absorbSeconds: number | null;
  readonly equaliseV: number | null;
  readonly zeroA: number;
  /** How far from a level a sample may lie and still count as at it, V. */
  readonly toleranceV: number;
  /** By how much absorb moves with battery temperature, V/°C for the bank; 0 without compensation. */
  readonly slope: number;
  readonly referenceC: number;
  /** Outside these it moves no further, °C. */
  readonly coldestC: number;
  readonly hottestC: number;
  /** Levels that stay where they are while absorb moves. */
  readonly fixed: ReadonlySet<LowerLevel>;
  /** Its absorb timer runs by the clock once it has begun, at voltage or not. */
  readonly wallClock: boolean;
  /** Other chargers that have its source: the same sky, the same engine. */
  readonly sisters: readonly string[];
  /** What tells that its source is there, beside its own input. */
  readonly source: 'light' | 'engine' | null;
}

/** How a level moves with battery temperature. */
export type Moves = Pick<ChargerLevels, 'slope' | 'referenceC' | 'coldestC' | 'hottestC'>;

/** The levels of a charger by its settings; null when there is no absorb level to look for. */
export function levelsOf(plan: Plan, charger: string): ChargerLevels | null {
  // What is off is no level of 0 V.
  const value = (role: Parameters<Plan['setting']>[1]): number | null => {
    const setting = plan.setting(charger, role);
    return setting === undefined || setting.off === true ? null : setting.trueValue;
  };
  const absorbV = value('absorbVoltage');
  const inPlace = plan.input.system.chargers.find((c) => c.id === charger);
  const card = inPlace && cardOf(plan.input, inPlace);
  if (absorbV === null || !card) return null;
  const equalises = plan.setting(charger, 'equaliseEnabled');
  const moves = compensationOf(plan, charger);
  const moving = moves?.roles.includes('absorbVoltage') === true ? moves : null;
  const stays = (['floatVoltage', 'rechargeVoltage', 'equaliseVoltage'] as const).filter((role) => moving?.roles.includes(role) === false);
  const kin = family(card.kind);
  return {
    absorbV,
    floatV: value('floatVoltage'),
    rechargeV: value('rechargeVoltage'),
    cutoffC: value('lowTempCutoff'),
    taperA: value('taperCurrent'),
    absorbSeconds: value('absorbTime'),
    equaliseV: equalises?.off === true ? null : value('equaliseVoltage'),
    zeroA: zeroAmps(card),
    toleranceV: Math.max(0.06, absorbV * 0.0025),
    slope: moving?.slope ?? 0,
    referenceC: referenceC(plan),
    coldestC: moving?.coldestC ?? -Infinity,
    hottestC: moving?.hottestC ?? Infinity,
    fixed: new Set(stays.map((role) => levelOf[role])),
    wallClock: card.absorb.timerCounts === 'wallClock',
    sisters: chargersWithCards(plan.input).flatMap((s) => (s.charger.id !== charger && kin !== null && family(s.card.kind) === kin ? [s.charger.id] : [])),
    source: kin === 'solar' ? 'light' : kin === 'driven' ? 'engine' : null,
  };
}

const levelOf = { floatVoltage: 'floatV', rechargeVoltage: 'rechargeV', equaliseVoltage: 'equaliseV' } as const;

/** The levels for a question about one of them: without a slope where that one stays where it is. */
export const movesOf = (levels: ChargerLevels, level: LowerLevel): ChargerLevels =>
  levels.fixed.has(level) && levels.slope !== 0 ? { ...levels, slope: 0 } : levels;

/** By how much a level lies away from its value at the reference temperature, V. */
const shift = ({ slope, referenceC: zero, coldestC, hottestC }: Moves, celsius: number): number =>
  slope * (Math.min(hottestC, Math.max(coldestC, celsius)) - zero);

/** Bank voltage with the compensation taken off: what it would be at the reference temperature. */
export function referredVolts(log: Log, levels: Moves, i: number): number {
  const volts = log.bankVolts[i] ?? NaN;
  const celsius = log.batteryC?.[i];
  return levels.slope === 0 || celsius === undefined || Number.isNaN(celsius) ? volts : volts - shift(levels, celsius);
}

/** The same for a whole log at once. */
export function allReferred({ bankVolts, batteryC }: Log, moves: Moves): Float32Array {
  if (moves.slope === 0 || !batteryC) return bankVolts;
  const out = new Float32Array(bankVolts.length);
  for (let i = 0; i < out.length; i++) {
    const celsius = batteryC[i] ?? NaN;
    out[i] = (bankVolts[i] ?? NaN) - (celsius === celsius ? shift(moves, celsius) : 0);
  }
  return out;
}

/** The charger's own current, or the bank's when the log has only that. */
export const chargerAmps = (log: Log, charger: string): Float32Array | undefined => log.chargers[charger]?.amps ?? log.bankAmps;

/** The currents of all other chargers that the log has. */
export const otherAmps = (log: Log, charger: string): readonly Float32Array[] =>
  Object.entries(log.chargers).flatMap(([id, c]) => (id !== charger && c.amps ? [c.amps] : []));

/** Light that moves any charger, W/m². */
export const leastLight = 100;

/** An input that is driven stands so near to the volts at which the charger works, and one that is not falls so far below them. */
export const drivenPart = 0.985;
const idlePart = 0.95;
/** The log shows the input both driven and not for at least so many samples. */
const leastOfEach = 20;

/**
 * The input volts at which a charger on a driven battery gives current: there it has its source. They tell something only where the log shows
 * the input well below them too: an array without load stands higher than one that works, a battery without its alternator lower.
 *
 * @param clearlyA current that is no doubt one, A
 */
export function drivenVolts({ chargers }: Log, charger: string, clearlyA: number): number | null {
  const { arrayVolts, amps } = chargers[charger] ?? {};
  if (!arrayVolts || !amps) return null;
  const at: number[] = [];
  for (let i = 0; i < amps.length; i++) if ((amps[i] ?? 0) > clearlyA && Number.isFinite(arrayVolts[i])) at.push(arrayVolts[i] ?? NaN);
  if (at.length < leastOfEach) return null;
  const works = median(at);
  let idle = 0;
  for (let i = 0; i < amps.length; i++) if (!((amps[i] ?? 0) > clearlyA) && (arrayVolts[i] ?? NaN) < idlePart * works) idle++;
  return idle < leastOfEach ? null : works;
}

/** Whether the source stands far enough above the bank to push current into it, V. */
export const canCharge = (arrayVolts: number | undefined, bankVolts: number): boolean => (arrayVolts ?? 0) > bankVolts + 5;
