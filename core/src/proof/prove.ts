import { requirementsOf } from '../requirements';
import type { Plan } from '../settings';
import type { Instrument } from '../system';
import { verdictOrder } from './judge';
import { judges, type Evidence, type ProofRow } from './judges';
import type { Log, LogReport } from './log';
import { disagreement, inferStages, levelsOf, regulatedLevel, type ChargerLevels, type StageSpan } from './stages';

export { heldMaximum, type ProofRow } from './judges';

/** Everything a log says about a job. */
export interface Proof {
  readonly stages: readonly StageSpan[];
  readonly rows: readonly ProofRow[];
  readonly notes: readonly string[];
}

/**
 * Judges every requirement of a plan against one log.
 *
 * @param instrument what wrote the log: its accuracy goes into every verdict
 */
export function proveLog(plan: Plan, log: Log, report: LogReport, instrument: Instrument): Proof {
  const levels = new Map<string, ChargerLevels>();
  const spans = new Map<string, readonly StageSpan[]>();
  const regulated = new Map<string, number>();
  const notes: string[] = [];
  for (const charger of plan.input.system.chargers) {
    const found = levelsOf(plan, charger.id);
    if (!found) continue;
    levels.set(charger.id, found);
    const own = log.chargers[charger.id]?.amps !== undefined || (plan.input.system.chargers.length === 1 && log.bankAmps !== undefined);
    if (!own) {
      notes.push(`${charger.name}: the log has no column “${charger.id}_A”, so nothing can be told about it alone.`);
      continue;
    }
    const level = regulatedLevel(log, report, charger.id, found);
    regulated.set(charger.id, level);
    const stages = inferStages(log, report, charger.id, found, level);
    spans.set(charger.id, stages);
    const differ = disagreement(log, charger.id, stages);
    if (differ !== null && differ > 0.02)
      notes.push(`${charger.name}: the stage it reports and the stage its voltage and current show differ for ${Math.round(differ * 100)} % of the log.`);
  }
  const evidence: Evidence = { plan, log, report, instrument, spans, levels, regulated };
  const rows = requirementsOf(plan).map((requirement) => judges[requirement.code](evidence, requirement));
  return { stages: [...spans.values()].flat(), rows: [...rows].sort((a, b) => verdictOrder.indexOf(a.verdict) - verdictOrder.indexOf(b.verdict)), notes };
}
