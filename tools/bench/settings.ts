import { readFileSync } from 'node:fs';
import { editPlan } from '@calm-keel/core/edits';
import { findFindings } from '@calm-keel/core/findings';
import { readJob, type Job } from '@calm-keel/core/job';
import { deriveSettings } from '@calm-keel/core/settings';

/** Settings, findings and edit plans of a job with eight chargers, as while a value is dragged and from nothing. Medians. */
const path = process.argv[2];
const read = readJob(readFileSync(path ?? 'demo/teasel.job.json', 'utf8'));
if (!read.ok) throw new Error('the demo job cannot be read');
const job = read.value;
const eight: Job = {
  ...job,
  system: { ...job.system, chargers: [...job.system.chargers, ...job.system.chargers.map((c) => ({ ...c, id: `${c.id}-2`, name: `${c.name} two` }))] },
};
const today = '2026-06-09';

function median(times: number, work: (i: number) => void): number {
  const list: number[] = [];
  for (let i = 0; i < times + 20; i++) {
    const start = performance.now();
    work(i);
    if (i >= 20) list.push(performance.now() - start);
  }
  return [...list].sort((a, b) => a - b)[list.length >> 1] ?? NaN;
}

const drag = median(300, (i) => {
  const value = 27.9 + 0.05 * (i % 10);
  findFindings(
    deriveSettings({ ...eight, overrides: [{ charger: 'aft', role: 'absorbVoltage', value, reason: 'tried', by: 'technician', date: today }] }),
    today,
  );
});
const whole = median(200, () => {
  findFindings(deriveSettings({ ...eight, system: { ...eight.system } }), today);
});
const plan = deriveSettings(eight);
const edits = median(100, () => {
  for (const c of eight.system.chargers) editPlan(plan, c.id);
});
const show = (name: string, ms: number, goal: string): string => `${name.padEnd(44)}${ms.toFixed(2).padStart(6)} ms   goal ${goal}`;
console.log(
  [
    show('8 chargers: settings + findings, one dragged', drag, '5'),
    show('8 chargers: settings + findings, from nothing', whole, '5 (median)'),
    show('8 chargers: edit plans of all', edits, '50'),
  ].join('\n'),
);
