import { readFileSync } from 'node:fs';
import { readJob, type Job } from '../../job';
import { deriveSettings, type Plan } from '../../settings';
import { observe, type Logger, type Observed } from './observe';
import { simulate, type SimCharger, type SimDay, type SimTrace } from './simulate';

/** What is wrong with the charger of a made log; `none` in most. */
type Wrong = 'none' | 'absorbHigh' | 'absorbLow' | 'floatHigh' | 'noFloat' | 'ignoresCold' | 'shortAbsorb';

export interface Family {
  readonly seed: number;
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
}

const load = (name: string): Job => {
  const job = readJob(readFileSync(new URL(`../../../../demo/${name}.job.json`, import.meta.url), 'utf8'));
  if (!job.ok) throw new Error(job.problems[0]?.text ?? name);
  return job.value;
};
const kept = new Map<string, { job: Job; plan: Plan }>();
function jobNamed(name: string): { job: Job; plan: Plan } {
  let found = kept.get(name);
  if (!found) {
    const job = load(name);
    found = { job, plan: deriveSettings(job) };
    kept.set(name, found);
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

/** A made log: bank, days, weather, what is wrong, and how it was written down, all from one seed. */
export function makeFamily(seed: number): Family {
  const random = randomFrom(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)] as T;
  const between = (low: number, high: number): number => low + (high - low) * random();
  const bank = pick(banks);
  const { job, plan } = jobNamed(bank.job);
  const cells = plan.facts.cells;
  const cold = random() < 0.15;
  const wrong: Wrong =
    random() < 0.7 ? 'none' : pick(['absorbHigh', 'absorbLow', 'floatHigh', 'noFloat', 'shortAbsorb', ...(cold ? (['ignoresCold'] as const) : [])]);
  const value = (id: string, role: Parameters<Plan['setting']>[1]): number | null => plan.setting(id, role)?.trueValue ?? null;
  const capacityAh = plan.facts.capacityAh ?? NaN;
  const error = between(-0.004, 0.004) * (plan.facts.nominalVolts / 12);
  const chargers = bank.chargers.map((id): SimCharger => {
    const absorbV = (value(id, 'absorbVoltage') ?? 14.4) + error;
    const floatV = (value(id, 'floatVoltage') ?? absorbV - 1) + error;
    const volts12 = plan.facts.nominalVolts / 12;
    const least = value(id, 'lowTempCutoff');
    const limitA = capacityAh * between(0.12, 0.3);
    return {
      id,
      limitA,
      cableOhms: (between(0.005, 0.02) * volts12) / limitA,
      arrayA: capacityAh * between(0.1, 0.35),
      absorbV: absorbV + (wrong === 'absorbHigh' ? 0.28 * volts12 : wrong === 'absorbLow' ? -Math.min(0.28 * volts12, 0.45 * (absorbV - floatV)) : 0),
      floatV: wrong === 'noFloat' ? null : floatV + (wrong === 'floatHigh' ? Math.min(0.25 * volts12, 0.45 * (absorbV - floatV)) : 0),
      rechargeV: (value(id, 'rechargeVoltage') ?? floatV - 0.6) + error,
      absorbS: (wrong === 'shortAbsorb' ? 0.2 : 1) * Math.max(600, value(id, 'absorbTime') ?? 3600),
      taperA: wrong === 'shortAbsorb' ? 0 : Math.max(0.5, (value(id, 'taperCurrent') ?? 0) * 0.9),
      wallClock: random() < 0.25,
      slope: (value(id, 'compensationSlope') ?? 0) * cells,
      cutoffC: wrong === 'ignoresCold' ? null : least,
      resumeC: value(id, 'lowTempResume') ?? (least ?? 0) + 2,
      sensorOffsetC: 0,
    };
  });
  const day: SimDay = {
    days: pick([1, 1, 1, 2, 3]),
    stepS: 1,
    startHour: pick([0, 4, 5, 11, 13]),
    capacityAh,
    ocvEmptyV: bank.empty,
    ocvFullV: bank.full,
    kneeV: bank.knee,
    kneeWide: bank.wide,
    ohms: bank.ohms * between(0.7, 1.4),
    polarOhms: bank.polar * between(0.6, 1.3),
    polarS: between(400, 2400),
    charge: between(0.35, 0.95),
    meanC: cold ? between(-3, 4) : between(8, 26),
    swingC: between(1, 7),
    cloud: pick([0, 0, 0.2, 0.5, 0.8]),
    loadA: capacityAh * between(0.002, 0.015),
    loadExtraA: capacityAh * between(0, 0.06),
  };
  const everyS = pick([1, 5, 10, 30, 60, 120, 300]);
  const trace = simulate({ ...day, stepS: Math.min(everyS, 5) === 1 ? 2 : 5, days: everyS === 1 ? 1 : day.days }, chargers, random);
  const big = plan.facts.nominalVolts > 40 ? 2 : 1;
  const separator = pick([',', ';', '\t'] as const);
  const rows = random() < 0.12;
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
    bankAmps: random() < 0.7,
    discharge: random() < 0.2,
    arrays: random() < 0.6,
    stages: pick(['none', 'words', 'codes']),
    rows,
    gaps: pick([0, 0, 0.3, 1]),
    doubled: pick([0, 0.5]),
    jumpS: pick([0, 0, 0, 3600, 1200]),
    // Some logs begin in the middle of absorb.
    skipS: random() < 0.3 ? inAbsorb(trace, random) : 0,
  };
  const observed = observe(trace, logger, day.startHour, random);
  return {
    seed,
    job,
    plan,
    wrong,
    trace,
    logger,
    observed,
    chargers: bank.chargers,
    truly: new Map(chargers.map((c) => [c.id, c])),
    about: `${bank.job} ${bank.chargers.join('+')}, ${day.days} d, cloud ${day.cloud}, every ${everyS} s, ${logger.stepV} V steps, ${wrong}`,
  };
}
