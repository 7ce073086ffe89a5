import { readBundle, type Job } from '@calm-keel/core/job';
import type { Problem } from '@calm-keel/core/quantity';
import { provingMeter } from '@calm-keel/core/settings';
import { readBytes } from './files.js';

/** Exit codes of every command. */
export const exit = { proved: 0, failed: 1, badInput: 2, open: 3 } as const;

/** Where a command writes. Injected, so that tests see exactly what a shell would. */
export interface Out {
  readonly print: (text: string) => void;
  readonly say: (sentence: string) => void;
  readonly today: string;
  /** File that a pool of workers runs; without one, everything is done in this process. */
  readonly worker?: string;
}

/** Says what is wrong, and that the input is bad. */
export function complain(problems: readonly Problem[], out: Out, where?: string): number {
  for (const problem of problems) out.say(`${where ? `${where}: ` : ''}${problem.text}`);
  return exit.badInput;
}

/** Prints a value as JSON, two spaces deep. */
export const json = (value: unknown, out: Out): void => out.print(JSON.stringify(value, null, 2));

/** The job of a job file or a bundle; null once it has been said why not. */
export function readJobFile(path: string | undefined, out: Out): Job | null {
  if (path === undefined) {
    out.say('Name a job file. keel --help tells how.');
    return null;
  }
  const bytes = readBytes(path);
  const bundle = bytes.ok ? readBundle(bytes.value) : bytes;
  if (!bundle.ok) {
    complain(bundle.problems, out, path);
    return null;
  }
  return bundle.value.job;
}

/** What wrote a log: the monitor where the job has one, else the proving meter. */
export const writerOf = (job: Job) => job.system.instruments.find((i) => i.id === 'monitor') ?? provingMeter(job);
