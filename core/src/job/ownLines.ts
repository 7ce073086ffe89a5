import { linePrefix, type SheetStep } from '../runsheet';
import type { Job } from './job';
import { showStep } from './programming';

/** The job with a line of one’s own before a step of its run sheet; it is the next to be done. */
export function withLine(job: Job, before: Pick<SheetStep, 'id'>, says: string): Job {
  const lines = job.system.lines ?? [];
  let n = lines.length + 1;
  while (lines.some((line) => line.id === `line-${n}`)) n++;
  return showStep({ ...job, system: { ...job.system, lines: [...lines, { id: `line-${n}`, before: before.id, says }] } }, `${linePrefix}line-${n}`);
}

/** The job without a line of one’s own, its answer with it; the step behind it is the next to be done. One that is no line leaves it as it is. */
export function withoutLine(job: Job, step: Pick<SheetStep, 'id'>): Job {
  const { lines = [], ...system } = job.system;
  const line = lines.find(({ id }) => `${linePrefix}${id}` === step.id);
  if (!line) return job;
  const left = lines.filter((l) => l !== line);
  const { programming } = job;
  const next: Job = {
    ...job,
    system: left.length > 0 ? { ...system, lines: left } : system,
    programming: programming && { ...programming, answers: programming.answers.filter((a) => a.step !== step.id) },
  };
  return showStep(next, line.before);
}
