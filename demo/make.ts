/** Writes the demo jobs and their logs. Seeded: the same files every time. Run with `npm run make-demo`. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { writeJob } from '@calm-keel/core/job';
import { days } from './days.js';
import { rookMoss, skarrow, teasel, tumbler } from './jobs.js';
import { aYearOn } from './year.js';
import { simulateDay } from './simulate.js';

const folder = new URL('./logs/', import.meta.url);
mkdirSync(folder, { recursive: true });
for (const [name, day] of Object.entries(days)) writeFileSync(new URL(`${name}.csv`, folder), simulateDay(day));
for (const job of [teasel(), rookMoss(), skarrow(), tumbler(), aYearOn(teasel())])
  writeFileSync(new URL(`./${job.id}.job.json`, import.meta.url), writeJob(job));
