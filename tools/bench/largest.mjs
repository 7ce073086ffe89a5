/** The largest job and log the bench looks at: eight chargers with long names, and thirty days at ten seconds. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '../common.mjs';

/** @typedef {{id: string, name: string, system: {chargers: {id: string, name: string}[]}}} JobFile */

/** A job file with eight chargers. @returns {JobFile} */
function largestJob() {
  const job = /** @type {JobFile} */ (JSON.parse(readFileSync(`${root}demo/teasel.job.json`, 'utf8')));
  job.system.chargers.push(...job.system.chargers.map((c) => ({ ...c, id: `${c.id}-2`, name: `${c.name} of the after locker, port side` })));
  return Object.assign(job, { id: 'largest', name: 'Eight chargers', logs: [] });
}

/** A file with a log of thirty days, made of one: the same day, a little higher or lower. A file, because bytes handed over would be a task of the page. */
export function thirtyDays() {
  const [head, ...rows] = readFileSync(`${root}demo/logs/teasel-clean-day.csv`, 'utf8').trim().split('\n');
  const out = [head];
  for (let d = 0; d < 30; d++) {
    const day = new Date(Date.UTC(2026, 5, 1 + d)).toISOString().slice(0, 10);
    const shift = (((d * 7919) % 13) - 6) / 100;
    for (const row of rows) {
      const [time = '', volts, ...rest] = row.split(',');
      out.push([day + time.slice(10), (Number(volts) + shift).toFixed(2), ...rest].join(','));
    }
  }
  const file = join(mkdtempSync(join(tmpdir(), 'keel-log-')), 'thirty.csv');
  writeFileSync(file, out.join('\n'));
  return file;
}

/** Brings the largest job in, and opens one of its stations. @param {import('@playwright/test').Page} page @param {string} station */
export async function openLargest(page, station) {
  const job = largestJob();
  await page.getByLabel('Job file').setInputFiles({ name: 'largest.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(job)) });
  await page.getByRole('link', { name: job.name }).first().waitFor();
  await page.goto(new URL(`/job/${job.id}/${station}`, page.url()).href);
}
