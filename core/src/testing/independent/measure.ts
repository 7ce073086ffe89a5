import { proveLog, type ProofRow } from '../../proof';
import type { Stage } from '../../charger';
import { readCsv } from '../logs';
import { makeFamily, type Family } from './families';
import type { TrueStage } from './simulate';

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
  readonly verdicts: Map<string, Agreement>;
  /** Share of charging time rightly staged, log by log, worst first. */
  readonly perLog: { about: string; seed: number; right: number; seconds: number }[];
}

/** What is true of a requirement in a made log: true, false, or null where nobody can tell. */
function truthOf(family: Family, row: ProofRow): boolean | null {
  const { trace } = family;
  const { requirement } = row;
  const own = trace.truth[requirement.charger ?? ''];
  const really = family.truly.get(requirement.charger ?? '');
  /** Whether a value lies in the band; nobody can tell within `by` of its edge, which a cable drops. */
  const inside = (v: number | null, by = 0): boolean | null => {
    if (v === null) return null;
    const { min = -Infinity, max = Infinity } = requirement.band;
    if (v >= min + by - 1e-9 && v <= max - by + 1e-9) return true;
    return v < min - by || v > max + by ? false : null;
  };
  const edge = 0.02 * (family.plan.facts.nominalVolts / 12);
  switch (requirement.code) {
    case 'absorbLevel':
      return own ? inside(own.heldAbsorb) : null;
    case 'neverAboveMaximum':
      return requirement.compensation ? null : trace.highestHeld <= (requirement.band.max ?? Infinity) + 1e-9;
    case 'noChargeBelowMinimum':
      return own ? own.coldestCharging >= (requirement.band.min ?? -Infinity) - 1e-9 : null;
    case 'noEqualise':
      return family.wrong !== 'absorbHigh' ? true : null;
    case 'floatLevel':
    case 'floatAsProgrammed':
      return inside(really?.floatV ?? null, edge);
    case 'absorbAsProgrammed':
      return inside(really?.absorbV ?? null, edge);
    default:
      return null;
  }
}

/** Runs the whole way, from the text of the file to the verdicts, over made logs, and counts what is right. */
export function measureFamilies(seeds: readonly number[]): Outcome {
  const confusion = Object.fromEntries((['off', 'bulk', 'absorb', 'float', 'rest', 'cold'] as const).map((s) => [s, {}])) as Confusion;
  const verdicts: Outcome['verdicts'] = new Map();
  const unread: string[] = [];
  const perLog: Outcome['perLog'] = [];
  for (const seed of seeds) {
    const family = makeFamily(seed);
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
        confusion[stage][said] = (confusion[stage][said] ?? 0) + seconds;
        if (stage === 'bulk' || stage === 'absorb' || stage === 'float') {
          charging += seconds;
          if (said === stage) right += seconds;
        }
      }
    }
    perLog.push({ about: family.about, seed, right: charging > 0 ? right / charging : 1, seconds: charging });
    for (const row of proof.rows) {
      const truth = truthOf(family, row);
      if (truth === null || (row.requirement.charger !== undefined && !family.chargers.includes(row.requirement.charger))) continue;
      const { code } = row.requirement;
      const a = verdicts.get(code) ?? { pass: 0, fail: 0, open: 0, falsePass: [], falseFail: [] };
      verdicts.set(code, a);
      if (row.verdict === 'pass') {
        a.pass++;
        if (!truth) a.falsePass.push(`${seed} ${family.about}: ${row.why}`);
      } else if (row.verdict === 'fail') {
        a.fail++;
        if (truth) a.falseFail.push(`${seed} ${family.about}: ${row.why}`);
      } else a.open++;
    }
  }
  perLog.sort((a, b) => a.right - b.right);
  return { logs: seeds.length, unread, confusion, verdicts, perLog };
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
