import { contains, formatClock, formatDuration, rectangular, said, warmthBy, type Band, type BudgetLine, type Measured, type Sentence } from '../../quantity';
import type { Requirement } from '../../requirements';
import { deviceName, type Plan } from '../../settings';
import type { Instrument } from '../../system';
import { judge, settle, verdictRank, type Verdict } from '../judge';
import type { Log, LogReport } from '../log';
import type { TemperatureRead } from '../temperature';
import type { Witnesses } from '../witness';
import type { ChargerLevels, Inferred, SlopeFound, StageSpan } from '../inference';
import { dayOf, dayWords } from './days';

/** A verdict, and for a pass what else the evidence shows, so that it would have looked different had the thing been wrong. */
type Judged = { readonly verdict: 'pass'; readonly witness: Sentence } | { readonly verdict: Exclude<Verdict, 'pass'>; readonly witness?: never };

/** A requirement with its verdict and what it rests on. */
export type ProofRow = RowParts & Judged;

interface RowParts {
  readonly requirement: Requirement;
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
  readonly why: Sentence;
  /** What would settle an inconclusive row, or test an untested one. */
  readonly next?: Sentence;
}

/** What every judge sees. */
export interface Evidence {
  readonly plan: Plan;
  readonly log: Log;
  readonly report: LogReport;
  readonly instrument: Instrument;
  readonly temperature: TemperatureRead;
  readonly witnesses: Witnesses;
  /** Net current into the bank where its sign can be believed. */
  readonly bankAmps: Float32Array | undefined;
  readonly spans: ReadonlyMap<string, readonly StageSpan[]>;
  readonly levels: ReadonlyMap<string, ChargerLevels>;
  /** What each charger was seen to hold. */
  readonly inferred: ReadonlyMap<string, Inferred>;
  /** How what it holds moves with battery temperature, where the log shows it. */
  readonly slopes: ReadonlyMap<string, SlopeFound>;
  /** Chargers whose current was worked out, and from what. */
  readonly worked: ReadonlyMap<string, string>;
}

/** Judges one kind of requirement. */
export type Judge = (evidence: Evidence, requirement: Requirement) => ProofRow;

/** The parts of a row that come from its requirement. */
export const base = (requirement: Requirement) => ({ requirement, unit: requirement.unit, digits: requirement.digits, band: requirement.band });

/** Whose the band of a requirement is, as a sentence ends: the maker’s, what was read on the device, or what was worked out while nobody has read it. */
export const whose = ({ question, notRead }: Requirement): string => (question === 'specified' ? 'asked' : notRead ? 'worked out' : 'programmed');

/** A row without evidence: never a pass from missing data. */
export const notTested = (requirement: Requirement, why: Sentence, next: Sentence): ProofRow => ({
  ...base(requirement),
  verdict: 'notTested',
  measured: null,
  uncertainty: null,
  budget: [],
  evidence: null,
  why,
  next,
});

/** What a pass rests on besides its number; or what is missing, and what would be a witness. */
export type Witness = { readonly words: Sentence } | { readonly missing: Sentence; readonly next: Sentence };

/** A row judged by the guard-band rule. Within its band and without a witness it is inconclusive, and says what would be one. */
export function judged(requirement: Requirement, measured: Measured, evidence: { from: number; to: number }, why: Sentence, witness: Witness): ProofRow {
  const verdict = judge(measured, requirement.band);
  const parts = {
    ...base(requirement),
    measured: measured.value,
    uncertainty: measured.uncertainty,
    budget: measured.budget,
    evidence,
    why,
  };
  if (verdict === 'pass')
    return 'words' in witness
      ? { ...parts, verdict, witness: witness.words }
      : { ...parts, verdict: 'inconclusive', why: said`${why} ${witness.missing}`, next: witness.next };
  return { ...parts, verdict, ...(verdict === 'inconclusive' ? { next: settle(measured, requirement.band, requirement.unit, requirement.digits) } : {}) };
}

/** A verdict that may not stand: what keeps it open, and what would settle it. Not tested where its value put nothing to the test. */
export function openRow({ witness: _w, ...row }: ProofRow, why: Sentence, next: Sentence, verdict: 'inconclusive' | 'notTested' = 'inconclusive'): ProofRow {
  return { ...row, verdict, why: said`${row.why} ${why}`, next };
}

/**
 * A verdict on “as programmed” where what the device was told is in question: nobody has read it, or it showed another value than the one that is kept.
 * Such a verdict stays open.
 */
export function asTold(plan: Plan, row: ProofRow): ProofRow {
  const { notRead, targetBand, charger = '' } = row.requirement;
  if (row.verdict === 'inconclusive' || row.verdict === 'notTested') return row;
  if (notRead)
    return openRow(
      row,
      `Nobody has read what ${deviceName(plan.input, charger)} is set to.`,
      'Read the setting on the device and enter it under “as found”, or key it by the run sheet.',
    );
  const asWorkedOut = targetBand && row.measured !== null && contains(targetBand, row.measured);
  return row.verdict === 'fail' && asWorkedOut
    ? openRow(
        row,
        'That is the value worked out, and the device showed another when it was read: it was set since, or it does not do what it shows.',
        'Read the setting on the device again.',
      )
    : row;
}

/** A moment on the log's own clock: with its day where the log covers more than one. */
export const clock = (e: Evidence, seconds: number): string => {
  const { time } = e.log;
  const several = dayOf(e.log, time[0] ?? 0) !== dayOf(e.log, time.at(-1) ?? 0);
  return `${several ? `${dayWords(dayOf(e.log, seconds))} ` : ''}${formatClock(seconds, e.log.offsetMinutes)}`;
};
/** A charger's name in words. */
export const nameOf = (e: Evidence, id: string | undefined): string => e.plan.input.system.chargers.find((c) => c.id === id)?.name ?? 'The bank';

/** What the battery temperature's own error does to a compensated voltage. */
export const temperatureLine = (e: Evidence, slope: number): BudgetLine[] =>
  slope === 0
    ? []
    : [
        {
          name: said`Battery temperature ± ${warmthBy(e.temperature.errorC)} × slope`,
          halfWidth: Math.abs(slope) * e.temperature.errorC,
          divisor: rectangular,
          kind: 'systematic',
        },
      ];

/** A pass that some of the time the log says nothing of could overturn: inconclusive, with what is missing and how to fill it. */
export function blindSpot(row: ProofRow, seconds: number, what: string, next: string): ProofRow {
  if (row.verdict !== 'pass' || seconds <= row.requirement.dwellSeconds) return row;
  return openRow(row, `But for ${formatDuration(seconds)} the log has no ${what}.`, next);
}

/** A gap shorter than this hides no more than coarse samples do, s. */
const riskyGapS = 600;

/** Time in gaps beside which something charged: what is asked may have happened in them, s. */
function riskyGaps(e: Evidence): number {
  const { time, bankAmps, chargers } = e.log;
  const all = [...(bankAmps ? [bankAmps] : []), ...Object.values(chargers).flatMap((c) => (c.amps ? [c.amps] : []))];
  let seconds = 0;
  let i = 0;
  for (const gap of e.report.gaps) {
    while (i < time.length && (time[i] ?? 0) < gap.to) i++;
    const charging = all.some((amps) => (amps[i - 1] ?? 0) > 1 || (amps[i] ?? 0) > 1);
    if (gap.to - gap.from > riskyGapS && charging) seconds += gap.to - gap.from;
  }
  return seconds;
}

/** A pass that gaps in the charging could overturn: inconclusive. */
export function notOverGaps(e: Evidence, row: ProofRow): ProofRow {
  const seconds = row.verdict === 'pass' ? riskyGaps(e) : 0;
  return seconds === 0
    ? row
    : openRow(row, `It was charging on either side of gaps of ${formatDuration(seconds)}.`, 'A log without those gaps would settle it.');
}

/** The worst of several rows; the first of equals, null of none. */
export const worstOf = (rows: readonly ProofRow[]): ProofRow | null =>
  rows.reduce<ProofRow | null>((a, b) => (a === null || verdictRank(b.verdict) < verdictRank(a.verdict) ? b : a), null);

/** A fail by a voltage that a load may have moved between two coarse samples: inconclusive. */
export function notFromCoarse(e: Evidence, row: ProofRow, finestS: number, may: string): ProofRow {
  if (row.verdict !== 'fail' || e.report.intervalSeconds <= finestS) return row;
  return openRow(
    row,
    `Its samples are ${formatDuration(e.report.intervalSeconds)} apart: a load that came and went between two of them may have ${may}.`,
    `A log with a sample every ${formatDuration(finestS)} or more often would settle it.`,
  );
}

/** A pass of samples too far apart for what may have flowed between them: inconclusive. Engines start and a BMS closes within seconds. */
export function notBetweenSamples(e: Evidence, row: ProofRow): ProofRow {
  const { dwellSeconds } = row.requirement;
  if (row.verdict !== 'pass' || e.report.intervalSeconds <= dwellSeconds) return row;
  return openRow(
    row,
    `Its samples are ${formatDuration(e.report.intervalSeconds)} apart: what flowed between two of them does not show.`,
    `A log with a sample every ${formatDuration(dwellSeconds)} or more often would settle it.`,
  );
}

/** All gaps of a log together, s. */
export const gapSeconds = (e: Evidence): number => e.report.gaps.reduce((sum, gap) => sum + gap.to - gap.from, 0);

/** What a claim about a whole log leaves out: its gaps, in words, or nothing. */
export function gapsLeftOut(e: Evidence): string {
  const seconds = gapSeconds(e);
  return seconds === 0 ? '' : ` Nothing is known of ${formatDuration(seconds)} of gaps.`;
}

/** Why nothing can be said of the bank's current. */
export const bankCurrentMissing = (e: Evidence): string =>
  e.log.bankAmps ? 'The bank’s current falls when the chargers give more: its sign looks reversed.' : 'The log has no current of the bank.';
/** And what mends it. */
export const bankCurrentMended = (e: Evidence): string =>
  e.log.bankAmps ? 'Turn its sign round at the log’s columns.' : 'Log the bank’s current, or that of every charger.';

/** The shortest time at a value that a log can show, s: nothing shorter than two of its intervals is claimed. */
export const dwellOf = (e: Evidence, requirement: Requirement): number => Math.max(requirement.dwellSeconds, 2 * e.report.intervalSeconds);

/** For a row that can only fail or stay open: what is beyond a limit needs no witness. */
export const noWitness: Witness = { missing: 'Nothing else in the log speaks for it.', next: 'A longer log would show more.' };
