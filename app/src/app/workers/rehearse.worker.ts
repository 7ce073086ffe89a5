/// <reference lib="webworker" />
import { expose } from 'comlink';
import type { Job } from '@calm-keel/core/job';
import { writeLog, type Log } from '@calm-keel/core/proof';
import type { Problem } from '@calm-keel/core/quantity';
import {
  logEvery,
  rehearse,
  replayOf,
  runLog,
  studyResult,
  studyRuns,
  variantValues,
  withNudges,
  type Rehearsal,
  type Replay,
  type RunInput,
  type StudyRun,
} from '@calm-keel/core/rehearsal';
import { deriveSettings, type Plan } from '@calm-keel/core/settings';
import { viewOf, type RunView } from './run-view';

/** Kept for the export: what the run that is shown was made from. */
let shown: RunInput | null = null;

/** Inputs of variant A or B; null when there is nothing to compare with. */
function inputs(job: Job, rehearsal: Rehearsal, log: Log | null): { plan: Plan; a: RunInput; b: RunInput | null } | { problems: readonly Problem[] } {
  const plan = deriveSettings(job);
  let replay: Replay | undefined;
  if (rehearsal.scenario.replay !== null) {
    if (!log)
      return {
        problems: [
          {
            code: 'replay-missing',
            text: 'The samples of the log that is to be played back are not on this device. Bring the log in again on Prove, or choose a made day.',
          },
        ],
      };
    const made = replayOf(log);
    if (!made.ok) return made;
    replay = made.value;
  }
  const stored = variantValues(plan, 'asFound');
  const common = { plan, scenario: rehearsal.scenario, stored, ...(replay ? { replay } : {}) };
  return {
    plan,
    a: { ...common, values: withNudges(variantValues(plan, 'asSet'), rehearsal.nudges) },
    b: rehearsal.against === 'none' ? null : { ...common, values: variantValues(plan, rehearsal.against) },
  };
}

const api = {
  /**
   * Rehearses A, and B where there is something to compare with.
   *
   * @param progress told now and then how much is done, 0 to 1
   */
  run: (
    job: Job,
    rehearsal: Rehearsal,
    log: Log | null,
    progress: (part: number) => void,
  ): { a: RunView; b: RunView | null; bProblems: readonly Problem[] } | { problems: readonly Problem[] } => {
    const made = inputs(job, rehearsal, log);
    if ('problems' in made) return made;
    let told = 0;
    const tell = (from: number, share: number) => (part: number) => {
      const all = from + share * part;
      if (all - told < 0.02) return;
      told = all;
      progress(all);
    };
    const share = made.b ? 0.5 : 1;
    const a = rehearse(made.a, { progress: tell(0, share) });
    if (!a.ok) return { problems: a.problems };
    shown = made.a;
    const b = made.b && rehearse(made.b, { progress: tell(share, share) });
    return { a: viewOf(made.plan, a.value), b: b?.ok ? viewOf(made.plan, b.value) : null, bProblems: b && !b.ok ? b.problems : [] };
  },
  /** Some of the runs of a study of A. */
  study: (job: Job, rehearsal: Rehearsal, log: Log | null, count: number, from: number, to: number) => {
    const made = inputs(job, rehearsal, log);
    return 'problems' in made ? [] : studyRuns(made.a, count, rehearsal.scenario.seed, from, to);
  },
  /** What the runs of a study come to. */
  result: (job: Job, rehearsal: Rehearsal, runs: readonly StudyRun[]) => studyResult(deriveSettings(job), rehearsal.scenario, runs),
  /** The run that is shown as a standard log, sampled finely enough to be judged like any other. */
  csv: (): string => {
    const run = shown && rehearse(shown, { everyS: logEvery(shown.replay ? (shown.replay.time.at(-1) ?? 0) : shown.scenario.days * 86_400) });
    return run?.ok ? writeLog(runLog(run.value)) : '';
  },
};

/** What the page can ask of this worker. */
export type RehearseWorkerApi = typeof api;

expose(api);
