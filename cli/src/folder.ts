import { appendFileSync, existsSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { verdictOrder, type Verdict } from '@calm-keel/core/proof';
import { judgeJob, type JobLine, type JobTask } from './judge-job.js';
import { exit, type Out } from './out.js';

/** What a folder is to be judged with. */
export interface FolderOptions {
  readonly results?: string | undefined;
  /** 0: as many as this machine has cores. */
  readonly workers: number;
}

/** Files that may be logs; a bundle is a job with its own. */
const isLog = (name: string): boolean => /\.(csv|tsv|txt|log|jsonl|ndjson|xlsx|xlsm|zip|gz)$/i.test(name) && !name.endsWith('.keel.zip');

/** Files of a folder by name; none where there is no such folder. */
const filesIn = (folder: string): readonly string[] => (existsSync(folder) && statSync(folder).isDirectory() ? readdirSync(folder).sort() : []);

/**
 * Jobs of a folder: bundles (*.keel.zip) with the logs in them; job files (*.job.json) with the logs of the folder of the same name beside them; and
 * folders that hold one job file with its logs.
 */
function jobsIn(folder: string): readonly JobTask[] {
  const tasks: JobTask[] = [];
  for (const name of filesIn(folder)) {
    const path = join(folder, name);
    if (name.endsWith('.keel.zip')) tasks.push({ name, job: path, logs: [] });
    else if (name.endsWith('.job.json')) {
      const beside = path.slice(0, -'.job.json'.length);
      tasks.push({
        name,
        job: path,
        logs: filesIn(beside)
          .filter(isLog)
          .map((f) => join(beside, f)),
      });
    } else if (statSync(path).isDirectory()) {
      const jobs = filesIn(path).filter((f) => f.endsWith('.job.json'));
      if (jobs.length === 1 && jobs[0] !== undefined && !existsSync(`${path}.job.json`))
        tasks.push({
          name: `${name}/${jobs[0]}`,
          job: join(path, jobs[0]),
          logs: filesIn(path)
            .filter(isLog)
            .map((f) => join(path, f)),
        });
    }
  }
  return tasks;
}

/** What tells a job with its logs from one that has changed since: names, sizes and times of its files. */
const stateOf = (task: JobTask): string =>
  [task.job, ...task.logs]
    .map((path) => {
      const { size, mtimeMs } = statSync(path);
      return `${path} ${size} ${Math.round(mtimeMs)}`;
    })
    .join('|');

/** Lines of an earlier run that still hold. */
function earlier(path: string | undefined): ReadonlyMap<string, JobLine> {
  const known = new Map<string, JobLine>();
  if (path === undefined || !existsSync(path)) return known;
  for (const line of readFileSync(path, 'utf8').split('\n')) {
    try {
      const read = JSON.parse(line) as JobLine;
      if (typeof read.state === 'string') known.set(read.state, read);
    } catch {
      // A run that was cut off leaves half a line: that job is judged again.
    }
  }
  return known;
}

/** Judges every job of a folder with its logs, over the cores; prints one line each as it comes, and goes on where an earlier run stopped. */
export async function proveFolder(folder: string, { results, workers }: FolderOptions, out: Out): Promise<number> {
  const tasks = jobsIn(folder);
  if (tasks.length === 0) {
    out.say(`${folder} holds no jobs: no *.keel.zip, no *.job.json, no folder with one in it.`);
    return exit.badInput;
  }
  const known = earlier(results);
  const lines: JobLine[] = [];
  const take = (line: JobLine, fresh: boolean): void => {
    lines.push(line);
    out.print(JSON.stringify(line));
    if (fresh && results !== undefined) appendFileSync(results, `${JSON.stringify(line)}\n`);
  };
  const open = tasks.filter((task) => {
    const kept = known.get(stateOf(task));
    if (kept) take(kept, false);
    return !kept;
  });
  if (open.length < tasks.length) out.say(`${tasks.length - open.length} of ${tasks.length} were judged before and have not changed.`);
  const stated = open.map((task) => ({ ...task, state: stateOf(task) }));
  if (out.worker === undefined || stated.length < 2) for (const task of stated) take(await judgeJob(task), true);
  else {
    // Only a whole folder needs a pool; the shell starts faster without it.
    const { Piscina } = await import('piscina');
    const pool = new Piscina({ filename: out.worker, maxThreads: workers > 0 ? workers : availableParallelism() });
    await Promise.all(stated.map(async (task) => take((await pool.run(task)) as JobLine, true)));
    await pool.destroy();
  }
  const count = (verdict: Verdict | 'bad'): number => lines.filter((l) => l.worst === verdict).length;
  out.say(
    `${lines.length} jobs: ${count('fail')} fail, ${count('inconclusive') + count('notTested')} open, ${count('pass')} proved, ${count('bad')} could not be read.`,
  );
  if (count('fail') > 0) return exit.failed;
  if (count('bad') > 0) return exit.badInput;
  return verdictOrder.some((v) => v !== 'pass' && count(v) > 0) ? exit.open : exit.proved;
}
