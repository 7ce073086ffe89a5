import { fnv1a, type Sentence } from '../quantity';
import type { Verdict } from '../proof';
import type { Job } from './job';

/** The verdicts of one log, kept beside the job, with what they rest on. */
export interface KeptVerdicts {
  readonly logId: string;
  /** As proofBasis gave it when the log was judged. */
  readonly basis: string;
  /** By requirement: its code and charger. */
  readonly verdicts: Readonly<Record<string, Verdict>>;
  /** The same with the sentence of each that was tested; missing in what older versions kept. */
  readonly rows?: Readonly<Record<string, { readonly verdict: Verdict; readonly why: Sentence; readonly witness?: Sentence; readonly next?: Sentence }>>;
}

/** Goes up when judging itself changes what a log comes to: what was judged before then is judged again. */
const judging = 6;

/**
 * A fingerprint of everything the verdicts of a log rest on: sheet, system, cards, schools, overrides, accuracy. When it changes, they no longer count.
 */
export function proofBasis(job: Job, logId: string): string {
  const { sheet, system, cards, schools, overrides, tolerance, coverage } = job;
  const text = JSON.stringify([judging, sheet, system, cards, schools, overrides, tolerance, coverage, job.logs.find((log) => log.id === logId)]);
  return fnv1a(text);
}
