import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { expect, type Page } from '@playwright/test';
import type { Answer, SheetStep } from '@calm-keel/core/runsheet';
import { coreBundle } from './core-bundle';
import type * as Core from './core-door';
import type { Station } from './keel';
import { repo } from './repo';

/** When everything in a job made here was done: long enough ago for no clock to mind. */
const date = '2026-06-09';
const doing = { at: `${date}T08:00:00.000Z`, by: 'KM', way: 'display' } as const;

/** A job of the demo. */
type DemoName = 'teasel' | 'rook-moss' | 'skarrow' | 'tumbler';
const demoText = (name: DemoName): string => readFileSync(repo(`demo/${name}.job.json`), 'utf8');

/** The core, as one file made once a run: loaded only where a job has to be worked out. */
const core = (): Promise<typeof Core> => import(pathToFileURL(coreBundle).href) as Promise<typeof Core>;

/** What somebody answers for whom all goes well. */
function wellAnswered({ kind, value, looks, device }: SheetStep): Omit<Answer, 'step' | 'at' | 'by' | 'way'> {
  switch (kind) {
    case 'readOff':
      return { state: 'skipped', reason: 'read off last week' };
    case 'identify':
      return { state: 'done', reading: '3.1' };
    case 'compare':
      return { state: 'done', meterV: 26.6, displayV: device === 'fore' ? 26.81 : 26.6 };
    case 'persist':
      return { state: 'done', values: Object.fromEntries((looks ?? []).flatMap((look) => (look.want === null ? [] : [[look.role, look.want]]))) };
    default:
      return { state: 'done', ...(value ? { reading: value.to } : {}) };
  }
}

/** The text of the launch’s job with its stops answered for and its run sheet begun, and answered up to the step with this title, or “device | title”. */
export async function begunJob(wanted: string | RegExp): Promise<string> {
  const { accept, answerStep, beginProgramming, deriveSettings, devicesOf, findFindings, nextOpen, readJob, sheetOf, stopsThatStay, writeJob } = await core();
  const read = readJob(demoText('teasel'));
  if (!read.ok) throw new Error(read.problems[0]?.text);
  const from = read.value;
  const plan = deriveSettings(from);
  const open = stopsThatStay(from, plan, findFindings(plan, date), date);
  const answered = open.reduce((job, stop) => accept(job, stop, { by: 'technician', reason: 'the engine stays off below 12 °C', date }), from);
  let job = beginProgramming(answered, doing, 'meter');
  for (let i = 0; i < 300; i++) {
    const { programming } = job;
    if (!programming) break;
    const sheet = sheetOf(job);
    const at = programming.at ?? nextOpen(sheet, programming, '');
    const step = sheet.steps.find(({ id }) => id === at);
    if (!step) break;
    const name = devicesOf(job).find(({ id }) => id === step.device)?.name ?? '';
    const here = typeof wanted === 'string' ? step.title === wanted : wanted.test(`${name} | ${step.title}`);
    if (here) return writeJob({ ...job, programming: { ...programming, at: step.id } });
    job = answerStep(job, step.id, doing, wellAnswered(step));
  }
  throw new Error(`no step ${String(wanted)}`);
}

/** Brings one job in on an empty device and opens a station of it: what most journeys need, without reading the logs of the whole demo. */
export async function openJob(page: Page, name: DemoName, station: Station, text: string = demoText(name)): Promise<void> {
  await page.goto('/');
  await page.getByLabel('Job file').setInputFiles({ name: `${name}.job.json`, mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(page.locator('li.job')).toHaveCount(1);
  await page.goto(`/job/${name}/${station}`);
}

/** The launch on an empty device, at one of its stations. */
export const openLaunch = (page: Page, station: Station): Promise<void> => openJob(page, 'teasel', station);
