import { readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import { readJob, type Job } from '@calm-keel/core/job';
import { rehearse, scenarioNamed, studyRuns, variantValues, type RunOptions, type Scenario } from '@calm-keel/core/rehearsal';
import { deriveSettings } from '@calm-keel/core/settings';

/** How long a rehearsed day, a year and a study take. Three chargers: the launch without its DC-DC charger. */
const read = readJob(readFileSync(process.argv[2] ?? 'demo/teasel.job.json', 'utf8'));
if (!read.ok) throw new Error('the demo job cannot be read');
const job: Job = { ...read.value, system: { ...read.value.system, chargers: read.value.system.chargers.filter((c) => c.id !== 'dcdc') } };
const plan = deriveSettings(job);
const values = variantValues(plan, 'asSet');
const day = (name: string, change: Partial<Scenario> = {}): Scenario => ({ ...scenarioNamed(plan, name)!, ...change });

const row = (name: string, ms: number, goal: string): string => `${name.padEnd(58)}${ms.toFixed(ms < 100 ? 1 : 0).padStart(8)} ms   goal ${goal}`;

function run(scenario: Scenario, options: RunOptions = {}): { ms: number; steps: number } {
  const start = performance.now();
  const made = rehearse({ plan, scenario, values }, options);
  if (!made.ok) throw new Error(made.problems[0]?.text);
  return { ms: performance.now() - start, steps: made.value.steps };
}
const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1] ?? NaN;
const motoring = day('motoring');
// Warm: as in a worker that has rehearsed before.
for (let i = 0; i < 6; i++) run(motoring);
const growing = Array.from({ length: 15 }, () => run(motoring));
const even = Array.from({ length: 7 }, () => run(motoring, { longestS: 1 }));
const heap = (): number => process.memoryUsage().heapUsed / 1e6;
const before = heap();
const year = run(day('year'));
const after = heap();
const three = day('broken-cloud', { days: 3 });
studyRuns({ plan, scenario: three, values }, 1000, 1, 0, 40);
const runs = 60;
const start = performance.now();
studyRuns({ plan, scenario: three, values }, 1000, 1, 40, 40 + runs);
const each = (performance.now() - start) / runs;

console.log(
  [
    row('A day at 1 s, three chargers, steps that grow when it is quiet', median(growing.map((r) => r.ms)), '50'),
    row('The same in even steps of 1 s', median(even.map((r) => r.ms)), '(none)'),
    row('A year at 1 s, three chargers', year.ms, '10,000'),
    row('A run of a study, three days at 5 s', each, '24 (1,000 on two workers in 12 s)'),
    `Steps: ${growing[0]?.steps} of a day, ${even[0]?.steps} even ones; heap ${(after - before).toFixed(0)} MB more after the year.`,
  ].join('\n'),
);
