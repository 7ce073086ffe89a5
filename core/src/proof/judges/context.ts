import { formatDuration, rectangular, type Band, type BudgetLine, type Measured, formatClock } from '../../quantity';
import type { Requirement } from '../../requirements';
import type { Plan } from '../../settings';
import type { Instrument } from '../../system';
import { judge, settle, type Verdict } from '../judge';
import type { Log, LogReport } from '../log';
import type { ChargerLevels, Inferred, SlopeFound, StageSpan } from '../inference';

/** A requirement with its verdict and what it rests on. */
export interface ProofRow {
  readonly requirement: Requirement;
  readonly verdict: Verdict;
  readonly measured: number | null;
  readonly uncertainty: number | null;
  readonly unit: string;
  readonly digits: number;
  readonly budget: readonly BudgetLine[];
  /** The band it was judged against, in `unit`. */
  readonly band: Band;
  /** Seconds since 1970. */
  readonly evidence: { readonly from: number; readonly to: number } | null;
  /** One or two sentences with the numbers in them. */
  readonly why: string;
  /** What would settle an inconclusive row, or test an untested one. */
  readonly next?: string;
}

/** What every judge sees. */
export interface Evidence {
  readonly plan: Plan;
  readonly log: Log;
  readonly report: LogReport;
  readonly instrument: Instrument;
  readonly spans: ReadonlyMap<string, readonly StageSpan[]>;
  readonly levels: ReadonlyMap<string, ChargerLevels>;
  /** What each charger was seen to hold. */
  readonly inferred: ReadonlyMap<string, Inferred>;
  /** How what it holds moves with battery temperature, where the log shows it. */
  readonly slopes: ReadonlyMap<string, SlopeFound>;
}

/** Judges one kind of requirement. */
export type Judge = (evidence: Evidence, requirement: Requirement) => ProofRow;

/** The parts of a row that come from its requirement. */
export const base = (requirement: Requirement) => ({ requirement, unit: requirement.unit, digits: requirement.digits, band: requirement.band });

/** A row without evidence: never a pass from missing data. */
export const notTested = (requirement: Requirement, why: string, next: string): ProofRow => ({
  ...base(requirement),
  verdict: 'notTested',
  measured: null,
  uncertainty: null,
  budget: [],
  evidence: null,
  why,
  next,
});

/** A row judged by the guard-band rule. */
export function judged(requirement: Requirement, measured: Measured, evidence: { from: number; to: number }, why: string): ProofRow {
  const verdict = judge(measured, requirement.band);
  return {
    ...base(requirement),
    verdict,
    measured: measured.value,
    uncertainty: measured.uncertainty,
    budget: measured.budget,
    evidence,
    why,
    ...(verdict === 'inconclusive' ? { next: settle(measured, requirement.band, requirement.unit, requirement.digits) } : {}),
  };
}

/** A moment on the log's own clock. */
export const clock = (e: Evidence, seconds: number): string => formatClock(seconds, e.log.offsetMinutes);
/** A charger's name in words. */
export const nameOf = (e: Evidence, id: string | undefined): string => e.plan.input.system.chargers.find((c) => c.id === id)?.name ?? 'The bank';

/** What the battery temperature's own error does to a compensated voltage. */
export const temperatureLine = (e: Evidence, slope: number): BudgetLine[] =>
  slope === 0
    ? []
    : [
        {
          name: `Battery temperature ± ${e.instrument.temperatureErrorC} °C × slope`,
          halfWidth: Math.abs(slope) * e.instrument.temperatureErrorC,
          divisor: rectangular,
          kind: 'systematic',
        },
      ];

/** A pass that some of the time the log says nothing of could overturn: inconclusive, with what is missing and how to fill it. */
export function blindSpot(row: ProofRow, seconds: number, what: string, next: string): ProofRow {
  if (row.verdict !== 'pass' || seconds <= row.requirement.dwellSeconds) return row;
  return { ...row, verdict: 'inconclusive', why: `${row.why} But for ${formatDuration(seconds)} the log has no ${what}.`, next };
}

/** What a claim about a whole log leaves out: its gaps, in words, or nothing. */
export function gapsLeftOut(e: Evidence): string {
  const seconds = e.report.gaps.reduce((sum, gap) => sum + gap.to - gap.from, 0);
  return seconds === 0 ? '' : ` Nothing is known of ${formatDuration(seconds)} of gaps.`;
}
