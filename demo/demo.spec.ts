import { readFileSync } from 'node:fs';
import { writeJob } from '@calm-keel/core/job';
import { rookMoss, skarrow, teasel, tumbler } from './jobs.js';
import { days } from './days.js';
import { simulateDay } from './simulate.js';

const shipped = (path: string): string => readFileSync(new URL(path, import.meta.url), 'utf8');

describe('the demo data', () => {
  it('is what its seeded script makes', () => {
    for (const job of [teasel(), rookMoss(), skarrow(), tumbler()]) expect(shipped(`./${job.id}.job.json`)).toBe(writeJob(job));
    for (const [name, day] of Object.entries(days))
      expect(simulateDay(day) === shipped(`./logs/${name}.csv`))
        .withContext(name)
        .toBeTrue();
  });
});
