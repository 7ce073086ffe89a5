import { speak } from '../../quantity';
import { proveLog, type ProofRow } from '../../proof';
import type { Stage } from '../../charger';
import { readCsv } from '../logs';
import { makeFamily, setOtherwise, type Family, type Mode } from './families';
import { highestHeld, type TrueStage } from './simulate';

/** Seconds by true stage and inferred stage. */
export type Confusion = Record<TrueStage, Partial<Record<Stage, number>>>;

interface Agreement {
  pass: number;
  fail: number;
  open: number;
  falsePass: string[];
  falseFail: string[];
}

export interface Outcome {
  readonly logs: number;
  readonly unread: string[];
  readonly confusion: Confusion;
  /** Left out of it: bulk and absorb taken for each other where chargers share a bus, s. */
  readonly shared: number;
  readonly verdicts: Map<string, Agreement>;
  /** Share of charging time rightly staged, log by log, worst first. */
  readonly perLog: { about: string; seed: number; right: number; seconds: number; setOtherwise: boolean }[];
}

/** The highest voltage that was held for half a minute, referred as a requirement moves, V. */
function held({ trace }: Family, { compensation }: ProofRow['requirement']): number {
  const step = (trace.t[1] ?? 1) - (trace.t[0] ?? 0);
  const referred = trace.volts.map((v, i) => v - (compensation ? compensation.slope * ((trace.celsius[i] ?? 25) - compensation.referenceC) : 0));
  return highestHeld(referred, Math.ceil(30 / step) + 1);
}

/** Whether absorb was completed on every day that had something to complete; null where that is a matter of minutes. */
function completed({ trace, logger, day, truly }: Family, { charger, band, taperA, levelV }: ProofRow['requirement']): boolean | null {
  const own = trace.truth[charger ?? ''];
  if (!own || logger.skipS > 0) return null;
  const least = band.min ?? Infinity;
  const step = (trace.t[1] ?? 1) - (trace.t[0] ?? 0);
  /** Filled is a bank whoever held it: its time at the least level on a day. */
  const held = new Map<number, number>();
  const slope = truly.get(charger ?? '')?.slope ?? 0;
  for (let i = 0; i < trace.t.length; i++) {
    const at = (trace.volts[i] ?? 0) - slope * ((trace.celsius[i] ?? 25) - 25);
    const key = Math.floor((day.startHour + (trace.t[i] ?? 0) / 3600) / 24);
    if (at >= (levelV ?? Infinity) - 0.02) held.set(key, (held.get(key) ?? 0) + step);
  }
  let all = true;
  for (const date of own.charged) {
    const endings = own.endings.filter((e) => e.day === date);
    const done = (held.get(date) ?? 0) >= least || endings.some((e) => e.atVoltageS >= least || (taperA !== undefined && e.net <= 0.9 * taperA));
    const nearly = (held.get(date) ?? 0) >= 0.8 * least || endings.some((e) => e.atVoltageS >= 0.8 * least || (taperA !== undefined && e.net <= 1.25 * taperA));
    if (endings.length > 0 && !nearly) return false;
    if (!done) all = false;
  }
  return all && own.charged.size > 0 ? true : null;
}

/** What is true of a requirement in a made log: true, false, or null where nobody can tell. */
function truthOf(family: Family, row: ProofRow): boolean | null {
  const { trace, plan, day } = family;
  const { requirement } = row;
  const { charger = '', band } = requirement;
  const own = trace.truth[charger];
  const really = family.truly.get(charger);
  /** Whether a value lies in the band; nobody can tell within `by` of its edge, which a cable drops. */
  const inside = (v: number | null, by = 0): boolean | null => {
    if (v === null) return null;
    const { min = -Infinity, max = Infinity } = band;
    if (v >= min + by - 1e-9 && v <= max - by + 1e-9) return true;
    return v < min - by || v > max + by ? false : null;
  };
  const edge = 0.02 * (plan.facts.nominalVolts / 12);
  // What equalises besides, or moves otherwise with temperature, holds no one level.
  const holds = family.wrong !== 'slope' && !really?.equalise;
  switch (requirement.code) {
    case 'absorbLevel':
      return own && holds ? inside(own.heldAbsorb) : null;
    case 'neverAboveMaximum':
      return inside(held(family, requirement), edge / 4);
    case 'noChargeBelowMinimum': {
      if (!own || !really) return null;
      if (own.coldestCharging < (band.min ?? -Infinity) - 1e-9) return false;
      // One that would have charged had it had its source is not proved by not having it.
      return really.cutoffC !== null || really.relayC !== undefined || (band.min ?? -Infinity) <= -20;
    }
    case 'noEqualise':
      return own ? inside(own.highestGiven, edge) : null;
    case 'floatLevel':
    case 'floatAsProgrammed':
      return holds ? inside(really?.floatV ?? null, edge) : null;
    case 'absorbAsProgrammed':
      return holds ? inside(really?.absorbV ?? null, edge) : null;
    case 'absorbCompleted':
      return family.wrong === 'slope' ? null : completed(family, requirement);
    case 'noDisconnect':
      return trace.openS > 20 ? false : trace.openS === 0;
    case 'monitorFull':
      return trace.fulls.length === 0 ? null : trace.fulls.every((f) => f.rightly);
    case 'loadDisconnect':
      return day.cut && trace.cuts > 0 ? inside(day.cut.offV, edge) : null;
    case 'loadReconnect':
      return day.cut && trace.returns > 0 ? inside(day.cut.onV, edge) : null;
    case 'displayAgrees':
      return really ? inside(really.displayV ?? 0, edge / 4) : null;
    case 'currentAsProgrammed':
      return inside(Math.max(0, ...(trace.chargers.find((c) => c.id === charger)?.amps ?? [])), 0.02 * (band.max ?? 0));
    case 'rechargeLevel':
    case 'rechargeAsProgrammed':
      return inside(really?.rechargeV ?? null, edge);
    case 'chargersAgree': {
      const levels = [...family.truly.values()].map((c) => c.absorbV);
      return holds ? inside(Math.max(...levels) - Math.min(...levels), edge) : null;
    }
    case 'compensation':
    case 'slopeAsProgrammed':
      return really ? inside((really.slope / plan.facts.cells) * 1000, 0.3) : null;
    default:
      return null;
  }
}

/** Runs the whole way, from the text of the file to the verdicts, over made logs, and counts what is right. */
export function measureFamilies(seeds: readonly number[], mode: Mode = 'known'): Outcome {
  const confusion = Object.fromEntries((['off', 'bulk', 'absorb', 'float', 'rest', 'cold', 'equalise'] as const).map((s) => [s, {}])) as Confusion;
  const verdicts: Outcome['verdicts'] = new Map();
  const unread: string[] = [];
  const perLog: Outcome['perLog'] = [];
  let shared = 0;
  for (const seed of seeds) {
    const family = makeFamily(seed, mode);
    const names = Object.fromEntries(family.job.system.chargers.map((c) => [c.id, c.name]));
    const read = readCsv(
      family.observed.text,
      family.job.system.chargers.map((c) => c.id),
      {
        names,
        nominalVolts: family.plan.facts.nominalVolts,
      },
    );
    if (!read.ok) {
      unread.push(`${seed} ${family.about}: ${read.problems[0]?.text ?? ''}`);
      continue;
    }
    const { log, report } = read.value;
    const instrument = family.job.system.instruments[0];
    if (!instrument) throw new Error('no instrument');
    const proof = proveLog(family.plan, log, report, {
      ...instrument,
      volts: { percent: 0.1, digits: 1, resolution: family.logger.stepV },
      temperatureErrorC: Math.max(0.3, family.logger.stepC / 2),
    });
    let right = 0;
    let charging = 0;
    for (const id of family.chargers) {
      const spans = proof.stages.filter((s) => s.charger === id);
      let k = 0;
      for (const { time, stage, seconds } of family.observed.truth.get(id) ?? []) {
        while (k < spans.length - 1 && time > (log.time[spans[k]?.last ?? 0] ?? 0)) k++;
        const said = spans[k]?.stage ?? 'off';
        // Without the array’s voltage, or for the cold without a temperature, nobody can tell a source that is held from one that has no light.
        if (
          (stage === 'cold' || stage === 'rest') &&
          (said === 'off' || said === 'float') &&
          (!family.logger.arrays || !family.logger.temperature || family.logger.rows)
        )
          continue;
        // Of chargers on one bus, one that gives all it can and one that holds the voltage look alike: counted apart.
        if (family.chargers.length > 1 && ((stage === 'bulk' && said === 'absorb') || (stage === 'absorb' && said === 'bulk'))) {
          shared += seconds;
          continue;
        }
        confusion[stage][said] = (confusion[stage][said] ?? 0) + seconds;
        if (stage === 'bulk' || stage === 'absorb' || stage === 'float') {
          charging += seconds;
          if (said === stage) right += seconds;
        }
      }
    }
    perLog.push({ about: family.about, seed, right: charging > 0 ? right / charging : 1, seconds: charging, setOtherwise: setOtherwise(family.wrong) });
    for (const row of proof.rows) {
      const truth = truthOf(family, row);
      const { charger } = row.requirement;
      const unseen = family.job.system.chargers.some((c) => c.id === charger) && !family.chargers.includes(charger ?? '');
      if (truth === null || unseen) continue;
      const { code } = row.requirement;
      const a = verdicts.get(code) ?? { pass: 0, fail: 0, open: 0, falsePass: [], falseFail: [] };
      verdicts.set(code, a);
      if (row.verdict === 'pass') {
        a.pass++;
        if (!truth) a.falsePass.push(`${seed} ${family.about}: ${speak(row.why, 'C')}`);
      } else if (row.verdict === 'fail') {
        a.fail++;
        if (truth) a.falseFail.push(`${seed} ${family.about}: ${speak(row.why, 'C')}`);
      } else a.open++;
    }
  }
  perLog.sort((a, b) => a.right - b.right);
  return { logs: seeds.length, unread, confusion, shared, verdicts, perLog };
}

/** Recall of each true stage, and the share of charging time rightly staged. */
export function scores(confusion: Confusion): { charging: number; recall: Partial<Record<TrueStage, number>> } {
  const recall: Partial<Record<TrueStage, number>> = {};
  let right = 0;
  let all = 0;
  for (const [stage, row] of Object.entries(confusion) as [TrueStage, Partial<Record<Stage, number>>][]) {
    const total = Object.values(row).reduce((a, b) => a + b, 0);
    // A source without power and a full bank without charge look alike where nobody sees the array.
    const hit = (row[stage] ?? 0) + (stage === 'off' ? (row.rest ?? 0) : stage === 'rest' ? (row.off ?? 0) : 0);
    if (total > 0) recall[stage] = hit / total;
    if (stage === 'bulk' || stage === 'absorb' || stage === 'float') {
      right += row[stage] ?? 0;
      all += total;
    }
  }
  return { charging: right / all, recall };
}

/** Upper end of the 95 % interval of a rate, `k` of `n` (Clopper and Pearson 1934; for k = 0 the rule 1 − 0.05^(1/n), one-sided). */
export function upperBound(k: number, n: number): number {
  if (n === 0) return 1;
  let low = k / n;
  let high = 1;
  for (let i = 0; i < 60; i++) {
    const p = (low + high) / 2;
    let sum = 0;
    let term = Math.pow(1 - p, n);
    for (let j = 0; j <= k; j++) {
      sum += term;
      term *= (((n - j) / (j + 1)) * p) / (1 - p);
    }
    if (sum > 0.05) low = p;
    else high = p;
  }
  return high;
}
