import { verdictOrder, type ProofRow, type Verdict } from '../proof';
import type { Job } from './job';

/** The verdicts of one log, kept beside the job, with what they rest on. */
export interface KeptVerdicts {
  readonly logId: string;
  /** As proofBasis gave it when the log was judged. */
  readonly basis: string;
  /** By requirement: its code and charger. */
  readonly verdicts: Readonly<Record<string, Verdict>>;
}

/** What identifies a requirement across logs and recalculations. */
export const requirementKey = ({ requirement }: Pick<ProofRow, 'requirement'>): string => `${requirement.code}/${requirement.charger ?? ''}`;

/**
 * A fingerprint of everything the verdicts of a log rest on: sheet, system, cards, schools, overrides, accuracy. When it changes, they no longer count.
 * FNV-1a, 32 bits: a change goes unseen once in four thousand million.
 */
export function proofBasis(job: Job, logId: string): string {
  const { sheet, system, cards, schools, overrides, tolerance, coverage } = job;
  const text = JSON.stringify([sheet, system, cards, schools, overrides, tolerance, coverage, job.logs.find((log) => log.id === logId)]);
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return (hash >>> 0).toString(16);
}

/**
 * How a job stands by all its logs: requirements counted by verdict. One that fails in any log fails; else one that is proved in any is proved.
 *
 * @returns null without logs, or while a log has not been judged as the job is now
 */
export function proofStanding(job: Job, kept: readonly KeptVerdicts[]): Readonly<Record<Verdict, number>> | null {
  const current = job.logs.map((log) => kept.find((k) => k.logId === log.id && k.basis === proofBasis(job, log.id)));
  if (current.length === 0 || current.includes(undefined)) return null;
  const strength: readonly Verdict[] = ['fail', 'pass', 'inconclusive', 'notTested'];
  const best = new Map<string, Verdict>();
  for (const [key, verdict] of current.flatMap((k) => Object.entries(k?.verdicts ?? {}))) {
    const before = best.get(key);
    if (before === undefined || strength.indexOf(verdict) < strength.indexOf(before)) best.set(key, verdict);
  }
  const counted = [...best.values()];
  return Object.fromEntries(verdictOrder.map((v) => [v, counted.filter((x) => x === v).length])) as Record<Verdict, number>;
}
