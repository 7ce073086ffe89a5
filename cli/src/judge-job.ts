import { requirementKey } from '@calm-keel/core/requirements';
import { asEntered, readBundle } from '@calm-keel/core/job';
import { logContextOf, proveLog, verdictOrder, type Log, type LogReport, type Verdict } from '@calm-keel/core/proof';
import type { Result } from '@calm-keel/core/quantity';
import { deriveSettings } from '@calm-keel/core/settings';
import { readBytes, readLogFile, readLogText } from './files.js';
import { writerOf } from './out.js';

/** A job and the logs to judge it by. */
export interface JobTask {
  readonly name: string;
  readonly job: string;
  readonly logs: readonly string[];
  readonly state?: string;
}

/** One job in one line. */
export interface JobLine {
  readonly job: string;
  readonly name: string;
  readonly worst: Verdict | 'bad';
  readonly logs: number;
  readonly pass: number;
  readonly fail: number;
  readonly inconclusive: number;
  readonly notTested: number;
  /** Requirements that fail, by code and charger. */
  readonly fails: readonly string[];
  readonly problems: readonly string[];
  /** What the job and its logs were when they were judged. */
  readonly state: string;
}

/** Judges a job by all its logs: one that fails in any fails, else one that is proved in any is proved. */
export async function judgeJob(task: JobTask): Promise<JobLine> {
  const bad = (problems: readonly string[]): JobLine => ({
    job: task.name,
    name: '',
    worst: 'bad',
    logs: 0,
    pass: 0,
    fail: 0,
    inconclusive: 0,
    notTested: 0,
    fails: [],
    problems,
    state: task.state ?? '',
  });
  const bytes = readBytes(task.job);
  const bundle = bytes.ok ? readBundle(bytes.value) : bytes;
  if (!bundle.ok) return bad(bundle.problems.map((p) => p.text));
  const { job, logs } = bundle.value;
  const plan = deriveSettings(job);
  const context = logContextOf(plan);
  const problems: string[] = [];
  const best = new Map<string, Verdict>();
  let count = 0;
  const judge = (name: string, read: Result<{ log: Log; report: LogReport }>): void => {
    if (!read.ok) {
      problems.push(`${name}: ${read.problems[0]?.text ?? ''}`);
      return;
    }
    count++;
    const strength: readonly Verdict[] = ['fail', 'pass', 'stated', 'inconclusive', 'notTested'];
    for (const row of proveLog(plan, read.value.log, read.value.report, writerOf(job)).rows) {
      const key = requirementKey(row);
      const before = best.get(key);
      if (before === undefined || strength.indexOf(row.verdict) < strength.indexOf(before)) best.set(key, row.verdict);
    }
  };
  for (const [id, text] of Object.entries(logs)) {
    const read = readLogText(text, context);
    const entry = job.logs.find((l) => l.id === id);
    judge(id, read.ok && entry ? { ...read, value: { ...read.value, log: asEntered(read.value.log, entry) } } : read);
  }
  for (const path of task.logs) judge(path, await readLogFile(path, context));
  const of = (verdict: Verdict): number => [...best.values()].filter((v) => v === verdict).length;
  const worst = verdictOrder.find((v) => of(v) > 0) ?? 'notTested';
  return {
    job: task.name,
    name: job.name,
    worst: problems.length > 0 && count === 0 ? 'bad' : worst,
    logs: count,
    pass: of('pass'),
    fail: of('fail'),
    inconclusive: of('inconclusive'),
    notTested: of('notTested'),
    fails: [...best].filter(([, v]) => v === 'fail').map(([key]) => key),
    problems,
    state: task.state ?? '',
  };
}
