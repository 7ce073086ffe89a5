import { requirementKey } from '../requirements';
import { proveLog, writeLog, type Log, type ProofRow, type Verdict } from '../proof';
import {
  evaluateRun,
  runLog,
  scenarioKinds,
  scenarioNamed,
  rehearse,
  variantValues,
  type AllValues,
  type Holding,
  type Run,
  type Scenario,
} from '../rehearsal';
import { deriveSettings, trueOf, type Plan } from '../settings';
import { keyed } from './keyed';
import { ownProbe } from '../system';
import { demoJob, on } from './rehearsals';
import { speak } from '../quantity';
import { seeded } from './fixtures';
import { readCsv } from './logs';

/**
 * Rehearse, export, prove: a rehearsed day knows what was true of it. Whatever is wrong with the devices and however the day was written down, a log
 * of it must not come back Proved where a thing was false.
 */

const jobs = ['teasel', 'rook-moss', 'skarrow', 'tumbler'] as const;

/** What may be wrong with a device on a day. */
const faults = ['none', 'asFound', 'absorbHigh', 'absorbLow', 'shortAbsorb', 'rechargeHigh', 'floatHigh', 'raised', 'snow', 'unplugged', 'bmsOpens'] as const;
export type OracleFault = (typeof faults)[number];

/** One day as it was, and as it was written down. */
export interface OracleDay {
  readonly about: string;
  readonly plan: Plan;
  readonly run: Run;
  readonly rows: readonly ProofRow[];
  readonly truth: ReadonlyMap<string, Holding>;
}

/** The nearest number a device can show to its own plus so many core units. */
function moved(
  plan: Plan,
  values: AllValues,
  id: string,
  role: 'absorbVoltage' | 'bulkVoltage' | 'floatVoltage' | 'rechargeVoltage' | 'absorbTime',
  by: (real: number) => number,
): AllValues {
  const now = values[id]?.[role];
  if (typeof now !== 'number') return values;
  const real = trueOf(plan, id, role, now);
  const next = trueOf(plan, id, role, now + 1);
  if (real === null || next === null || next === real) return values;
  return on(values, id, { [role]: now + (by(real) - real) / (next - real) });
}

function faulty(plan: Plan, values: AllValues, fault: OracleFault, id: string): AllValues {
  const volts = plan.facts.nominalVolts / 12;
  switch (fault) {
    case 'asFound':
      return variantValues(plan, 'asFound');
    case 'absorbHigh':
      return (['absorbVoltage', 'bulkVoltage'] as const).reduce((all, role) => moved(plan, all, id, role, (v) => v + 0.3 * volts), values);
    case 'absorbLow':
      return (['absorbVoltage', 'bulkVoltage'] as const).reduce((all, role) => moved(plan, all, id, role, (v) => v - 0.2 * volts), values);
    case 'shortAbsorb':
      return moved(plan, values, id, 'absorbTime', (s) => s / 5);
    case 'rechargeHigh':
      return moved(plan, values, id, 'rechargeVoltage', (v) => v + 0.25 * volts);
    case 'floatHigh':
      return moved(plan, values, id, 'floatVoltage', (v) => v + 0.25 * volts);
    default:
      return values;
  }
}

/** The log of a run as a logger writes it: every so many samples, in its own steps, by the sensor it has. */
function written(run: Run, unplugged: readonly string[], random: () => number): { log: Log; about: string } {
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)] as T;
  const everyS = pick([10, 10, 60, 300]);
  const stepV = pick([0.01, 0.01, 0.05, 0.1]);
  const whole = runLog(run);
  const every = Math.max(1, Math.round(everyS / run.everyS));
  const take = (column: Float32Array, step: number): Float32Array =>
    Float32Array.from({ length: Math.floor((column.length - 1) / every) + 1 }, (_, i) => Math.round((column[i * every] ?? NaN) / step) * step);
  // A sensor that is unplugged writes no column.
  const owner = pick(run.chargers.filter((c) => !unplugged.includes(c.id)))?.id ?? '';
  const [bank, arrays, stages, warm] = [
    random() < 0.8,
    random() < 0.7,
    random() < 0.4,
    pick(['probe', 'probe', owner === '' ? 'probe' : 'own', 'nobody', 'none'] as const),
  ];
  const sensed = run.chargers.find((c) => c.id === owner)?.sensorC ?? whole.batteryC;
  return {
    about: `every ${everyS} s, ${stepV} V steps, ${bank ? '' : 'no bank current, '}temperature by ${warm === 'own' ? owner : warm}`,
    log: {
      time: Float64Array.from({ length: Math.floor((run.time.length - 1) / every) + 1 }, (_, i) => run.time[i * every] ?? 0),
      offsetMinutes: null,
      bankVolts: take(whole.bankVolts, stepV),
      ...(bank ? { bankAmps: take(whole.bankAmps, 0.1) } : {}),
      ...(warm === 'none' ? {} : { batteryC: take(warm === 'own' || warm === 'nobody' ? sensed : whole.batteryC, 0.1) }),
      ...(warm === 'probe' ? { batterySensor: ownProbe } : warm === 'own' ? { batterySensor: owner } : {}),
      chargers: Object.fromEntries(
        run.chargers.map((c) => [
          c.id,
          {
            amps: take(c.amps, 0.1),
            ...(arrays ? { arrayVolts: take(c.arrayVolts, 0.1) } : {}),
            ...(stages ? { stage: Uint8Array.from({ length: Math.floor((c.stage.length - 1) / every) + 1 }, (_, i) => c.stage[i * every] ?? 255) } : {}),
          },
        ]),
      ),
    },
  };
}

const plans = new Map<string, Plan>();

/** A day, a fault and a log of it, all from one seed; null where the job has no such day. */
export function oracleDay(seed: number): OracleDay | null {
  const random = seeded(seed * 7919 + 13);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)] as T;
  const name = pick(jobs);
  const plan = plans.get(name) ?? deriveSettings(keyed(demoJob(name)));
  plans.set(name, plan);
  const kind = pick(scenarioKinds.filter((k) => k.suits(plan) && k.name !== 'year'));
  const fault = pick(faults);
  const id = pick(plan.input.system.chargers).id;
  const named = scenarioNamed(plan, kind.name);
  if (!named) return null;
  const scenario: Scenario = {
    ...named,
    days: kind.name === 'week' ? 3 : pick([1, 1, 2]),
    seed: Math.floor(random() * 1e6),
    charge: fault === 'none' ? named.charge : pick([0.3, 0.6, 0.85, 0.95]),
    ...(fault === 'snow' ? { snow: pick([0.5, 0.97, 1]) } : {}),
    ...(fault === 'unplugged' ? { unplugged: [id] } : {}),
    ...(fault === 'raised' ? { raised: { charger: id, volts: pick([-0.6, 0.3, 0.8]) } } : {}),
    ...(fault === 'bmsOpens' ? { bmsOpens: { hour: 8 + random() * 8, minutes: pick([2, 10, 60]) } } : {}),
  };
  const values = faulty(plan, variantValues(plan, 'asSet'), fault, id);
  const made = rehearse({ plan, scenario, values, stored: values }, { stepS: 5, longestS: 30, everyS: 10 });
  if (!made.ok) return null;
  const run = made.value;
  const { log, about } = written(run, scenario.unplugged, random);
  const names = Object.fromEntries(plan.input.system.chargers.map((c) => [c.id, c.name]));
  const read = readCsv(writeLog(log), Object.keys(names), { names, nominalVolts: plan.facts.nominalVolts });
  if (!read.ok) return null;
  const instrument = plan.input.system.instruments[0];
  if (!instrument) return null;
  const { rows } = proveLog(plan, read.value.log, read.value.report, instrument);
  const outcomes = evaluateRun(plan, run);
  const truth = new Map(outcomes.map((o) => [requirementKey(o), o.holding]));
  // A rehearsal asks how absorb ended; filled is a bank also when the sun went after it had stood at voltage for long enough.
  for (const { requirement, holding } of outcomes)
    if (requirement.code === 'absorbCompleted' && holding === 'cannotTell') {
      const trace = run.chargers.find((c) => c.id === requirement.charger);
      const least = requirement.band.min ?? Infinity;
      if ((trace?.totals.atVoltage ?? 0) >= least) truth.set(requirementKey({ requirement }), 'holds');
    }
  // What a scenario itself did to the BMS is no doing of the chargers, and an opening all the same.
  if (run.events.some((e) => e.kind === 'bmsOpen')) truth.set('noDisconnect/', 'breaks');
  return { about: `seed ${seed}: ${name}, ${kind.name}, ${scenario.days} d, ${fault} ${id}, ${about}`, plan, run, rows, truth };
}

/** Requirements of which a rehearsal that cannot tell says that the day never put them to the test. */
const putToTest: readonly string[] = ['noChargeBelowMinimum', 'rechargeLevel'];

/** What verdicts came to, by requirement. */
export interface OracleCount {
  readonly verdicts: Record<Verdict, number>;
  readonly wronglyProved: string[];
  readonly wronglyFailed: string[];
  /** Put to the test by the day, and told one way or the other. */
  tested: number;
  told: number;
}

/** Counts verdicts against what was true over many seeds. */
export function oracleCounts(seeds: readonly number[]): { days: number; counts: ReadonlyMap<string, OracleCount> } {
  const counts = new Map<string, OracleCount>();
  let days = 0;
  for (const seed of seeds) {
    const day = oracleDay(seed);
    if (!day) continue;
    days++;
    for (const row of day.rows) {
      const { code } = row.requirement;
      const truth = day.truth.get(requirementKey(row));
      if (truth === undefined) continue;
      let count = counts.get(code);
      if (!count)
        counts.set(
          code,
          (count = { verdicts: { pass: 0, fail: 0, inconclusive: 0, notTested: 0, stated: 0 }, wronglyProved: [], wronglyFailed: [], tested: 0, told: 0 }),
        );
      count.verdicts[row.verdict]++;
      if (truth !== 'cannotTell') {
        count.tested++;
        if (row.verdict === 'pass' || row.verdict === 'fail') count.told++;
      }
      if (row.verdict === 'pass' && (truth === 'breaks' || (truth === 'cannotTell' && putToTest.includes(code))))
        count.wronglyProved.push(`${day.about}: ${truth}. ${speak(row.why, 'C')}`);
      if (row.verdict === 'fail' && truth === 'holds') count.wronglyFailed.push(`${day.about}. ${speak(row.why, 'C')}`);
    }
  }
  return { days, counts };
}
