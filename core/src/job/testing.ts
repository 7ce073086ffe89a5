import type { TestAnswer, TestCode, TestRecord } from '../fieldtest';
import type { Job } from './job';

/** Most tests a job keeps; the oldest ended one goes first. */
const mostTests = 200;

const withTest = (job: Job, id: string, change: (record: TestRecord) => TestRecord): Job => ({
  ...job,
  tests: job.tests.map((t) => (t.id === id ? change(t) : t)),
});

/** Begins a guided test on a device. */
export function beginTest(
  job: Job,
  { id, code, device, at, by, instrument }: { id: string; code: TestCode; device: string; at: string; by: string; instrument: string },
): Job {
  const record: TestRecord = {
    id,
    code,
    device,
    begunAt: at,
    endedAt: null,
    by,
    instrument,
    grade: code === 'history' ? 'history' : 'measured',
    answers: [],
    series: [],
    note: '',
    photos: [],
  };
  const kept = job.tests.length < mostTests ? job.tests : job.tests.filter((t, i) => t.endedAt === null || i > 0);
  return { ...job, tests: [...kept.slice(-(mostTests - 1)), record] };
}

/** Answers a step; an earlier answer to it is replaced. */
export const answerTest = (job: Job, id: string, answer: TestAnswer): Job =>
  withTest(job, id, (t) => ({ ...t, answers: [...t.answers.filter((a) => a.step !== answer.step), answer] }));

/** Takes the answer of a step back. */
export const undoTestAnswer = (job: Job, id: string, step: string): Job =>
  withTest(job, id, (t) => ({ ...t, answers: t.answers.filter((a) => a.step !== step), endedAt: null }));

/**
 * One more reading of a series, in its place by the time it was taken: readings from an old notebook come after newer ones. Two of the same moment lie
 * a millisecond apart, so that each can be taken out by its time.
 */
export const addReading = (job: Job, id: string, answer: TestAnswer): Job =>
  withTest(job, id, (t) => {
    const taken = new Set(t.series.map((a) => a.at));
    let at = answer.at;
    while (taken.has(at)) at = new Date(Date.parse(at) + 1).toISOString();
    return { ...t, series: [...t.series, { ...answer, at }].sort((a, b) => a.at.localeCompare(b.at)).slice(-400) };
  });

/** Takes a reading of a series out. */
export const dropReading = (job: Job, id: string, at: string): Job => withTest(job, id, (t) => ({ ...t, series: t.series.filter((a) => a.at !== at) }));

/** Changes what is noted beside the readings. */
export const noteTest = (job: Job, id: string, patch: Partial<Pick<TestRecord, 'note' | 'grade' | 'instrument' | 'photos' | 'log'>>): Job =>
  withTest(job, id, (t) => ({ ...t, ...patch }));

/** Ends a test. It ends only when what was taken off is back. */
export const endTest = (job: Job, id: string, at: string): Job => withTest(job, id, (t) => ({ ...t, endedAt: at }));
