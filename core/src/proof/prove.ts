import { seenBy, type Requirement } from '../requirements';
import type { Plan } from '../settings';
import type { Instrument } from '../system';
import { verdictRank } from './judge';
import { asTold, judges, openRow, type Evidence, type ProofRow } from './judges';
import { explain, type Explanation } from './explain';
import type { Log, LogReport } from './log';
import { signLooksReversed, type LogContext } from './reading';
import { temperatureRead } from './temperature';
import { witnessesOf } from './witness';
import { onAmps, workedOut } from './workedOut';
import { disagreement, findSlope, inferStages, levelsOf, type SlopeFound, type ChargerLevels, type Inferred, type StageSpan } from './inference';

export { asTold, heldMaximum, slopeRatio, type ProofRow, type Witness } from './judges';

/** What the guess of a file’s columns needs of a plan. */
export const logContextOf = (plan: Plan, fileName?: string): LogContext => ({
  chargers: plan.input.system.chargers.map(({ id, name }) => ({ id, name })),
  nominalVolts: plan.input.assumed?.nominalVolts === true || plan.input.assumed?.unitsInSeries === true ? null : plan.facts.nominalVolts,
  ...(fileName === undefined ? {} : { fileName }),
});

/** Everything a log says about a job. */
export interface Proof {
  readonly stages: readonly StageSpan[];
  readonly rows: readonly ProofRow[];
  readonly notes: readonly string[];
  /** What happened and what was odd, in plain words, in the order of time. */
  readonly told: readonly Explanation[];
}

/** Requirements that rest on battery temperature whatever their band. */
const onTemperature: readonly Requirement['code'][] = [
  'noChargeBelowMinimum',
  'noChargeAboveMaximum',
  'currentForTemperature',
  'compensation',
  'slopeAsProgrammed',
];

/** What rests on a temperature of which nobody has said who measured it is settled only when somebody does. */
function bySensor(e: Evidence, row: ProofRow): ProofRow {
  const { code, charger, compensation } = row.requirement;
  const rests = onTemperature.includes(code) || (compensation?.slope ?? 0) !== 0 || (e.levels.get(charger ?? '')?.slope ?? 0) !== 0;
  if (e.temperature.known || !e.log.batteryC || !rests || (row.verdict !== 'pass' && row.verdict !== 'fail')) return row;
  return openRow(
    row,
    'Nobody has said which sensor wrote the battery temperature; in a charger’s case it would be degrees off.',
    'Say beside the log which sensor wrote its temperature.',
  );
}

/** How much flows, or that nothing does, is not settled by a current that was worked out. */
function byAmps({ bankAmps, worked: how }: Evidence, row: ProofRow): ProofRow {
  const { code, charger } = row.requirement;
  // What flows into the bank is the sum of the chargers where its own current is missing.
  const by = charger !== undefined ? how.get(charger) : bankAmps ? undefined : [...how.values()][0];
  if (by === undefined || !onAmps.includes(code) || (row.verdict !== 'pass' && row.verdict !== 'fail')) return row;
  return openRow(row, `Its current was worked out from ${by}, and that does not settle it.`, 'Log the charger’s own current.');
}

/**
 * Judges every requirement of a plan against one log.
 *
 * @param instrument what wrote the log: its accuracy goes into every verdict
 */
export function proveLog(plan: Plan, written: Log, report: LogReport, instrument: Instrument): Proof {
  const { log: read, read: temperature } = temperatureRead(plan, written, instrument);
  const bankAmps = signLooksReversed(read) ? undefined : read.bankAmps;
  const { log, how } = workedOut(plan, read, bankAmps);
  const levels = new Map<string, ChargerLevels>();
  const spans = new Map<string, readonly StageSpan[]>();
  const inferred = new Map<string, Inferred>();
  const slopes = new Map<string, SlopeFound>();
  const notes: string[] = [];
  for (const charger of plan.input.system.chargers) {
    const found = levelsOf(plan, charger.id);
    if (!found) continue;
    levels.set(charger.id, found);
    const own = log.chargers[charger.id]?.amps !== undefined || (plan.input.system.chargers.length === 1 && log.bankAmps !== undefined);
    if (!own) {
      notes.push(`${charger.name}: the log has no column “${charger.id}_A”, so nothing can be said about it alone.`);
      continue;
    }
    const by = how.get(charger.id);
    if (by !== undefined) notes.push(`${charger.name}: the log has no column of its current. It was worked out from ${by}.`);
    const slope = findSlope(log, report, charger.id, found, plan.facts.cells);
    if (slope) slopes.set(charger.id, slope);
    // Where the voltage moves otherwise with temperature than was programmed, its stages are read as it really moves.
    const other =
      slope !== null && Math.abs(slope.slope - found.slope) > Math.max(4 * slope.standardError, (1.2 * plan.facts.cells) / 1000, 0.15 * Math.abs(found.slope));
    const seen = inferStages(log, report, charger.id, other ? { ...found, slope: slope.slope } : found);
    inferred.set(charger.id, seen);
    const stages = seen.spans;
    spans.set(charger.id, stages);
    const differ = disagreement(log, charger.id, stages);
    if (differ !== null && differ > 0.02)
      notes.push(`${charger.name}: the stage it reports and the stage its voltage and current show differ for ${Math.round(differ * 100)} % of the log.`);
  }
  const evidence: Evidence = {
    plan,
    log,
    report,
    instrument,
    temperature,
    witnesses: witnessesOf({ plan, log, report, levels }),
    bankAmps,
    spans,
    levels,
    inferred,
    slopes,
    worked: how,
  };
  const rows = seenBy(plan, 'log').flatMap((requirement) => {
    const row = judges[requirement.code]?.(evidence, requirement);
    return row ? [asTold(plan, byAmps(evidence, bySensor(evidence, row)))] : [];
  });
  return {
    stages: [...spans.values()].flat(),
    rows: [...rows].sort((a, b) => verdictRank(a.verdict) - verdictRank(b.verdict)),
    notes,
    told: explain(evidence, rows),
  };
}
