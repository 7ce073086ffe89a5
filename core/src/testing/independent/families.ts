import { readFileSync } from 'node:fs';
import { readJob, type Job } from '../../job';
import { compensationOf, deriveSettings, type Plan } from '../../settings';
import { keyed } from '../keyed';
import { observe, type Logger, type Observed } from './observe';
import { simulate, type SimCharger, type SimDay, type SimTrace } from './simulate';

/** What is wrong with the charger of a made log; `none` in most. */
type Wrong =
  | 'none'
  | 'absorbHigh'
  | 'absorbLow'
  | 'floatHigh'
  | 'noFloat'
  | 'ignoresCold'
  | 'shortAbsorb'
  | 'rechargeHigh'
  | 'slope'
  | 'equalises'
  | 'opens'
  | 'monitorEarly'
  | 'display'
  | 'lateCut'
  | 'overLimit';

/** Whether a wrong is one of settings: a charger that holds something else, for another time or by another slope than the job has it. */
export const setOtherwise = (wrong: Wrong): boolean => !(['none', 'display', 'opens', 'monitorEarly', 'lateCut'] as readonly Wrong[]).includes(wrong);

/**
 * What is known of the chargers of a made log. `known`: they were set as the job derives it. `sheet`: only the sheet is known, and they hold anything it
 * allows. `net`: the log has the bank’s current and that of the loads, and no charger’s own.
 */
export const modes = ['known', 'sheet', 'net'] as const;
export type Mode = (typeof modes)[number];

export interface Family {
  readonly seed: number;
  readonly mode: Mode;
  readonly job: Job;
  readonly plan: Plan;
  readonly wrong: Wrong;
  readonly trace: SimTrace;
  readonly logger: Logger;
  readonly observed: Observed;
  /** What the day and the log are, in a few words. */
  readonly about: string;
  readonly chargers: readonly string[];
  /** What each charger really does, by id. */
  readonly truly: ReadonlyMap<string, SimCharger>;
  readonly day: SimDay;
}

const load = (name: string): Job => {
  const job = readJob(readFileSync(new URL(`../../../../demo/${name}.job.json`, import.meta.url), 'utf8'));
  if (!job.ok) throw new Error(job.problems[0]?.text ?? name);
  return job.value;
};
const kept = new Map<string, { job: Job; plan: Plan }>();
/** A demo job, with its settings read on the devices or as it comes; with one of its chargers alone where it is named. */
function jobNamed(name: string, read: boolean, alone?: string): { job: Job; plan: Plan } {
  const key = `${name} ${read} ${alone ?? ''}`;
  let found = kept.get(key);
  if (!found) {
    const whole = load(name);
    const some = alone === undefined ? whole : { ...whole, system: { ...whole.system, chargers: whole.system.chargers.filter((c) => c.id === alone) } };
    const job = read ? keyed(some) : some;
    found = { job, plan: deriveSettings(job) };
    kept.set(key, found);
  }
  return found;
}

/** xorshift32: a generator of its own. */
function randomFrom(seed: number): () => number {
  let x = (seed * 2_654_435_761 + 1) >>> 0 || 1;
  const next = (): number => {
    x ^= x << 13;
    x >>>= 0;
    x ^= x >>> 17;
    x ^= x << 5;
    x >>>= 0;
    return x / 4_294_967_296;
  };
  for (let i = 0; i < 8; i++) next();
  return next;
}

/** Banks to charge: chemistry, and where charge and volts meet. */
const banks = [
  { job: 'teasel', chargers: ['fore', 'aft', 'dcdc'], empty: 25.9, full: 26.7, knee: 1.5, wide: 0.02, ohms: 0.006, polar: 0.006 },
  { job: 'teasel', chargers: ['fore', 'aft'], empty: 25.9, full: 26.7, knee: 1.5, wide: 0.02, ohms: 0.006, polar: 0.006 },
  { job: 'teasel', chargers: ['aft'], empty: 25.9, full: 26.7, knee: 1.5, wide: 0.02, ohms: 0.012, polar: 0.012 },
  { job: 'rook-moss', chargers: ['mast'], empty: 11.6, full: 12.6, knee: 1.1, wide: 0.06, ohms: 0.03, polar: 0.035 },
  { job: 'skarrow', chargers: ['leader', 'follower'], empty: 23.4, full: 25.4, knee: 2.2, wide: 0.06, ohms: 0.012, polar: 0.02 },
  { job: 'tumbler', chargers: ['roof'], empty: 46, full: 56.6, knee: 0.5, wide: 0.05, ohms: 0.03, polar: 0.02 },
] as const;

/** A moment within the first absorb of the first charger, s from the start. */
function inAbsorb(trace: SimTrace, random: () => number): number {
  const stage = trace.chargers[0]?.stage ?? [];
  const from = stage.indexOf('absorb');
  const length = stage.slice(Math.max(0, from)).findIndex((x) => x !== 'absorb');
  return from < 0 || length < 2 ? 0 : (trace.t[from + Math.floor(length * 0.6 * random())] ?? 0);
}

/** Wrongs that can be made at random, and those that take something of their own. */
const wrongs = ['absorbHigh', 'absorbLow', 'floatHigh', 'noFloat', 'shortAbsorb', 'rechargeHigh', 'overLimit', 'display', 'opens', 'monitorEarly'] as const;

/** A made log: bank, days, weather, what is wrong, and how it was written down, all from one seed. */
export function makeFamily(seed: number, mode: Mode = 'known'): Family {
  const random = randomFrom(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)] as T;
  const between = (low: number, high: number): number => low + (high - low) * random();
  const bank = pick(mode === 'net' ? banks.filter((b) => b.chargers.length === 1) : banks);
  const { job, plan } = jobNamed(bank.job, mode !== 'sheet', mode === 'net' ? bank.chargers[0] : undefined);
  const { facts } = plan;
  const volts12 = facts.nominalVolts / 12;
  const cold = random() < 0.2;
  const setting = (id: string, role: Parameters<Plan['setting']>[1]) => {
    const found = plan.setting(id, role);
    return found?.off === true ? undefined : found;
  };
  const value = (id: string, role: Parameters<Plan['setting']>[1]): number | null => setting(id, role)?.trueValue ?? null;
  const lead = plan.setting(bank.chargers[0], 'equaliseEnabled')?.off === true ? null : value(bank.chargers[0], 'equaliseVoltage');
  const cutV = value('monitor', 'loadDisconnect');
  const moves = compensationOf(plan, bank.chargers[0]);
  const wrong: Wrong =
    random() < 0.6
      ? 'none'
      : pick([
          ...wrongs,
          ...(cold ? (['ignoresCold'] as const) : []),
          ...(moves ? (['slope', 'slope'] as const) : []),
          ...(lead === null ? (['equalises'] as const) : []),
          ...(cutV === null ? [] : (['lateCut', 'lateCut'] as const)),
        ]);
  const capacityAh = facts.capacityAh ?? NaN;
  const error = between(-0.004, 0.004) * volts12;
  /** Within what the sheet allows, where only that is known. */
  const level = (id: string, role: 'absorbVoltage' | 'floatVoltage'): number | null => {
    const found = setting(id, role);
    const { min, max } = found?.band ?? {};
    if (mode !== 'sheet' || min === undefined || max === undefined) return found?.trueValue ?? null;
    return between(min + 0.03 * volts12, Math.max(min + 0.03 * volts12, max - 0.03 * volts12));
  };
  const sister = pick(bank.chargers);
  const chargers = bank.chargers.map((id): SimCharger => {
    const card = job.cards.find((c) => c.id === job.system.chargers.find((x) => x.id === id)?.card);
    // What is wrong is wrong with one of them, where it makes a difference.
    const mine = wrong === 'absorbHigh' || wrong === 'overLimit' || wrong === 'display' || wrong === 'slope' ? id === sister : true;
    const is = (of: Wrong): boolean => wrong === of && mine;
    const absorbV = (level(id, 'absorbVoltage') ?? 14.4) + error;
    const floatV = (level(id, 'floatVoltage') ?? absorbV - 1) + error;
    const least = value(id, 'lowTempCutoff');
    const told = value(id, 'chargeCurrentLimit');
    const limitA = is('overLimit') && told !== null ? 1.3 * told : Math.min(told ?? Infinity, capacityAh * between(0.12, 0.3));
    const moving = compensationOf(plan, id);
    const slope = moving?.roles.includes('absorbVoltage') ? moving.slope : 0;
    const stays = moving !== null && !moving.roles.includes('rechargeVoltage');
    return {
      id,
      limitA,
      cableOhms: (between(0.005, 0.02) * volts12) / limitA,
      arrayA: wrong === 'overLimit' ? 1.2 * limitA : capacityAh * between(0.1, 0.35),
      absorbV: absorbV + (is('absorbHigh') ? 0.28 * volts12 : is('absorbLow') ? -Math.min(0.28 * volts12, 0.45 * (absorbV - floatV)) : 0),
      floatV: is('noFloat') ? null : floatV + (is('floatHigh') ? Math.min(0.25 * volts12, 0.45 * (absorbV - floatV)) : 0),
      rechargeV:
        (value(id, 'rechargeVoltage') ?? floatV - 0.6) +
        error +
        (mode === 'sheet' ? between(-0.3, 0) * volts12 : 0) +
        (is('rechargeHigh') ? 0.25 * volts12 : 0),
      absorbS: (is('shortAbsorb') ? 0.2 : mode === 'sheet' ? between(1, 1.6) : 1) * Math.max(600, value(id, 'absorbTime') ?? 3600),
      taperA: is('shortAbsorb') ? 0 : Math.max(0.5, (value(id, 'taperCurrent') ?? 0) * 0.9),
      wallClock: mode === 'sheet' ? random() < 0.25 : card?.absorb.timerCounts === 'wallClock',
      slope: is('slope') ? pick([0, -1, 2]) * slope : slope,
      cutoffC: is('ignoresCold') ? null : least,
      resumeC: value(id, 'lowTempResume') ?? (least ?? 0) + 2,
      sensorOffsetC: 0,
      source: card?.kind === 'dcdc' || card?.kind === 'alternator' ? 'engine' : 'sun',
      rechargeStays: stays,
      displayV: is('display') ? pick([-1, 1]) * between(2, 4) * (card?.display.stepV ?? 0.1) : 0,
      ...(cold && bank.job === 'tumbler' ? { relayC: 1 } : {}),
      ...(is('equalises') || (lead !== null && wrong === 'none' && random() < 0.3)
        ? { equalise: { volts: lead ?? absorbV + 0.6 * volts12, seconds: between(2400, 7200) } }
        : {}),
    };
  });
  const cuts = cutV !== null && (wrong === 'lateCut' || random() < 0.25);
  const offV = (cutV ?? 0) - (wrong === 'lateCut' ? 0.35 * volts12 : 0);
  const snow = cold && random() < 0.3;
  const from = between(7, 16);
  const days = pick([1, 1, 1, 2, 3]);
  const day: SimDay = {
    days: wrong === 'slope' ? 4 : days,
    stepS: 1,
    startHour: pick([0, 4, 5, 11, 13]),
    capacityAh,
    ocvEmptyV: cuts ? offV + 0.15 * volts12 : bank.empty,
    ocvFullV: bank.full,
    kneeV: bank.knee,
    kneeWide: bank.wide,
    ohms: bank.ohms * between(0.7, 1.4),
    polarOhms: bank.polar * between(0.6, 1.3),
    polarS: between(400, 2400),
    charge: cuts ? between(0.06, 0.15) : between(0.35, 0.95),
    meanC: cold ? between(-3, 4) : between(8, 26),
    swingC: wrong === 'slope' ? between(5, 9) : between(1, 7),
    cloud: pick([0, 0, 0.2, 0.5, 0.8]),
    loadA: capacityAh * (cuts ? between(0.01, 0.03) : between(0.002, 0.015)),
    loadExtraA: capacityAh * between(0, 0.06),
    ...(snow ? { snowUntilH: between(9, 14) } : {}),
    ...(chargers.some((c) => c.source === 'engine') ? { engineH: { from, to: from + between(1, 5) } } : {}),
    ...(random() < 0.3 ? { surge: { hour: between(13, 17), seconds: between(7, 120), amps: capacityAh * between(0.2, 0.5) } } : {}),
    ...(wrong === 'opens' ? { opens: { hour: between(9, 16), seconds: between(40, 1800) } } : {}),
    ...(cuts ? { cut: { offV, onV: value('monitor', 'loadReconnect') ?? offV + 1, delayS: 30 } } : {}),
    ...(wrong === 'monitorEarly' ? { monitorEarly: true } : {}),
  };
  const everyS = pick([1, 5, 10, 30, 60, 120, 300]);
  const trace = simulate({ ...day, stepS: Math.min(everyS, 5) === 1 ? 2 : 5, days: everyS === 1 ? 1 : day.days }, chargers, random);
  const big = facts.nominalVolts > 40 ? 2 : 1;
  const separator = pick([',', ';', '\t'] as const);
  const rows = mode !== 'net' && random() < 0.12;
  const net = mode === 'net';
  const logger: Logger = {
    everyS: everyS === 1 ? 2 : everyS,
    noiseV: pick([0, 0.005, 0.01, 0.02]) * big,
    stepV: pick([0.01, 0.01, 0.02, 0.05, 0.1]),
    stepA: pick([0.1, 0.1, 0.5]),
    stepC: pick([0.1, 0.5, 1]),
    millivolts: random() < 0.25,
    fahrenheit: random() < 0.2,
    comma: separator !== ',' && random() < 0.5,
    separator,
    times: pick(['iso', 'zone', 'epoch', 'epochMs', 'dayFirst']),
    temperature: random() < 0.85,
    bankAmps: net || random() < 0.7,
    discharge: !net && random() < 0.2,
    arrays: !net && random() < 0.6,
    stages: net ? 'none' : pick(['none', 'words', 'codes']),
    rows,
    netOnly: net,
    loads: net || cuts || random() < 0.3,
    light: !snow && random() < 0.3,
    engine: day.engineH !== undefined && random() < 0.6,
    charge: wrong === 'monitorEarly' || random() < 0.3,
    ownVolts: !net && (wrong === 'display' || random() < 0.25),
    gaps: pick([0, 0, 0.3, 1]),
    doubled: pick([0, 0.5]),
    jumpS: pick([0, 0, 0, 3600, 1200]),
    // Some logs begin in the middle of absorb.
    skipS: random() < 0.3 ? inAbsorb(trace, random) : 0,
  };
  const observed = observe(trace, logger, day.startHour, random);
  return {
    seed,
    mode,
    job,
    plan,
    wrong,
    trace,
    logger,
    observed,
    day,
    chargers: bank.chargers,
    truly: new Map(chargers.map((c) => [c.id, c])),
    about: `${mode}, ${bank.job} ${bank.chargers.join('+')}, ${day.days} d, cloud ${day.cloud}, every ${everyS} s, ${logger.stepV} V steps, ${wrong}`,
  };
}
