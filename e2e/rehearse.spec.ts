import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import type { Page } from '@playwright/test';
import type { rehearsedFor } from './engine';
import { bringLog, expect, goTo, openDemo, repo, saved, test } from './keel';
import { openLaunch } from './jobs';

const row = (page: Page, name: string) => page.getByRole('row', { name: new RegExp(name) });
const day = (page: Page, name: string) => page.getByLabel('Kind of day').selectOption(name);
const drawn = (page: Page) => expect(page.getByRole('slider', { name: 'Moment of the rehearsed day' })).toBeVisible();
const moment = (page: Page) => page.getByTestId('moment');

test('the launch under engine on a cold morning: what breaks is said with its numbers, beside what was found; the day is kept', async ({ page }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  await expect(row(page, 'Never above the maximum')).toContainText('Holds');
  await day(page, 'motoring');
  await expect(row(page, 'Current for its temperature')).toContainText('Breaks');
  await row(page, 'Current for its temperature').getByRole('button').click();
  const inspector = page.getByRole('complementary', { name: 'Chosen requirement' });
  await expect(inspector).toContainText(/the bank took 1\d\d.A at \d+\.\d.°C; the sheet allows 92.A/);
  await expect(page.getByText(/Alternator begins, as on every start, in bulk/).first()).toBeAttached();
  await expect(page.getByRole('navigation', { name: 'Work stations' }).getByRole('link', { name: /Rehearse/ })).toContainText(/\d break/);
  // Two hours become half an hour of engine by the ruler; undo brings them back.
  await page.getByRole('slider', { name: /Engine/ }).fill('0.5');
  await expect(page.getByRole('slider', { name: /Engine/ })).toHaveAttribute('aria-valuetext', /0\.5 h/);
  await saved(page);
  await page.locator('body').press('Control+z');
  await expect(page.getByRole('slider', { name: /Engine/ })).toHaveAttribute('aria-valuetext', /2\.0 h/);
  await page.reload();
  await drawn(page);
  await expect(page.getByLabel('Kind of day')).toHaveValue('motoring');
  await expect(row(page, 'Current for its temperature')).toContainText('Breaks');
});

test('the moment is moved by keys, from event to event too, and read out with every stage', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  const plot = page.getByRole('slider', { name: 'Moment of the rehearsed day' });
  await plot.focus();
  await plot.press('Home');
  await expect(moment(page)).toContainText('04:00');
  await plot.press('PageDown');
  await expect(plot).toHaveAttribute('aria-valuetext', /At 04:00 the bank is at 26\.\d\d.V\. Solar fore bulk, Solar aft bulk/);
  await plot.press('Shift+ArrowRight');
  const there = await moment(page).innerText();
  await plot.press('ArrowLeft');
  await expect(moment(page)).not.toHaveText(there);
  await plot.press('End');
  await expect(moment(page)).toContainText('04:00');
  await page.getByRole('list', { name: 'What happens around this moment' }).getByRole('button').first().click();
  await expect(moment(page)).not.toContainText('04:00');
});

test('a value is tried, seen against what stands without it, and kept on Settings with a reason', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  for (let i = 0; i < 6; i++) await page.getByRole('button', { name: 'One device step up' }).click();
  await expect(page.getByTestId('tried-value')).toContainText('28.9');
  await expect(page.getByLabel('Compare with')).toHaveValue('asSet');
  await expect(row(page, 'Never above the maximum')).toContainText(/Breaks\s*28\.\d\d\sV\s*Holds/);
  await expect(page.getByRole('button', { name: 'Keep as overrides' })).toBeDisabled();
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'One device step down' }).click();
  await expect(row(page, 'Never above the maximum')).toContainText(/Holds\s*28\.\d\d\sV\s*Holds/);
  await page.getByLabel('Reason for keeping them on Settings').fill('the maker’s letter of May');
  await page.getByRole('button', { name: 'Keep as overrides' }).click();
  await expect(page.getByLabel('Compare with')).toHaveValue('asFound');
  await goTo(page, 'Settings');
  await page
    .getByRole('button', { name: /^Solar fore: absorb/ })
    .first()
    .click();
  await expect(page.getByLabel('Reason', { exact: true })).toHaveValue('the maker’s letter of May');
});

test('what makes no sense gets a sentence and loses nothing', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  await page.getByLabel('Setting', { exact: true }).selectOption('float');
  for (let i = 0; i < 14; i++) await page.getByRole('button', { name: 'One device step up' }).click();
  await expect(page.getByRole('alert').filter({ hasText: /float 28\.50.V is above absorb 28\.30.V/ })).toBeVisible();
  await drawn(page);
  await page.getByRole('button', { name: 'Let all go' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  // A number that is none stays as typed, with what is wrong below it.
  await page.getByText('More of this day').click();
  await page.getByLabel('Days', { exact: true }).fill('many');
  await expect(page.getByRole('alert')).toBeVisible();
  await page.getByLabel('Days', { exact: true }).fill('900');
  await expect(page.getByText('At most 400 d.')).toBeVisible();
  await page.getByLabel('Days', { exact: true }).fill('2');
  await expect(moment(page)).toContainText(/1[56] Jun \d\d:\d\d/);
});

test('a year says how far it is, and can be stopped; the page goes on', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  await day(page, 'year');
  await expect(page.getByText(/Rehearsing a whole year, \d+.%\./)).toBeVisible();
  await page.getByRole('button', { name: 'Stop the run' }).click();
  await expect(page.getByText('Stopped. What is drawn is the day before the last change.')).toBeVisible();
  await day(page, 'overcast');
  await expect(row(page, 'Absorb level')).toContainText('Cannot tell');
  await expect(page.getByText('Stopped.')).toHaveCount(0);
});

test('a study counts breaks and ranks what drives them, while the page answers', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  await day(page, 'motoring');
  await row(page, 'Current for its temperature').getByRole('button').click();
  await page.getByRole('button', { name: 'Vary the day' }).click();
  await expect(page.getByText(/\d+ of 100 days\./)).toBeVisible();
  await page.getByRole('slider', { name: 'Moment of the rehearsed day' }).press('Home');
  await expect(moment(page)).toContainText('04:00');
  await page.getByRole('button', { name: 'Stop varying' }).click();
  await expect(page.getByRole('button', { name: 'Vary the day' })).toBeVisible();
  await page.getByRole('button', { name: 'Vary the day' }).click();
  await expect(page.getByText('100 varied days of A')).toBeVisible();
  await expect(page.getByText(/Current for its temperature breaks in \d+ of 100 days\./)).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'A breaks in' })).toBeVisible();
  // Another day: what was counted no longer counts.
  await day(page, 'clear-day');
  await expect(page.getByRole('columnheader', { name: 'A breaks in' })).toHaveCount(0);
});

test('the run is saved as a log that Prove judges, as a drawing and as a picture', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  const save = async (name: string): Promise<Buffer> => {
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name }).click();
    return readFileSync(await (await waiting).path());
  };
  const svg = (await save('Save the drawing (SVG)')).toString();
  expect(svg).toContain('<pattern');
  expect(svg).not.toContain('_ngcontent-ng-c0 ');
  const png = await save('Save the drawing (PNG)');
  expect([...png.subarray(0, 4)]).toEqual([0x89, 0x50, 0x4e, 0x47]);
  expect(png.length).toBeGreaterThan(20_000);
  const csv = await save('Save as a log (CSV)');
  expect(csv.toString().split('\n')[0]).toContain('time,bank_V,bank_A,battery_probe_degC,fore_A,fore_array_V,fore_stage');
  await goTo(page, 'Prove');
  await bringLog(page, { name: 'rehearsed.csv', mimeType: 'text/csv', buffer: csv });
  await expect(page.getByRole('row', { name: /Proved Float level Solar fore/ })).toBeVisible();
});

test('yesterday is played back with today’s settings', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'rehearse');
  await drawn(page);
  await page.getByText('More of this day').click();
  await page.getByLabel('Played back from').selectOption({ label: 'Broken cloud, 14 June' });
  await expect(page.getByLabel('Month')).toHaveCount(0);
  await expect(page.getByRole('slider', { name: 'Moment of the rehearsed day' })).toHaveAttribute(
    'aria-valuemax',
    String(Date.UTC(2026, 5, 14, 20, 29, 50) / 1000),
  );
  await expect(row(page, 'Absorb level')).toContainText('Holds');
});

test('a second tab follows the day', { tag: '@long' }, async ({ page, context }) => {
  await openLaunch(page, 'rehearse');
  await drawn(page);
  const other = await context.newPage();
  await other.goto('/job/teasel/rehearse');
  await drawn(other);
  await day(page, 'freezing-dawn');
  await expect(other.getByLabel('Kind of day')).toHaveValue('freezing-dawn');
  await expect(row(other, 'No charge when cold')).toContainText(/Holds.*Breaks/);
});

test('a job without chargers, and one whose charger has no card, say what to do', { tag: '@long' }, async ({ page }) => {
  const job = JSON.parse(readFileSync(repo('demo/teasel.job.json'), 'utf8')) as { id: string; name: string; cards: unknown[]; system: { chargers: unknown[] } };
  const bring = async (change: Partial<typeof job>): Promise<void> => {
    await page.goto('/');
    await page
      .getByLabel('Job file')
      .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify({ ...job, ...change })) });
    await page.getByRole('link', { name: change.name ?? job.name }).click();
    await page.waitForURL(/job/);
    await page.goto(page.url().replace(/(\/job\/[^/]+).*/, '$1/rehearse'));
  };
  await bring({ id: 'bare', name: 'Bare', system: { ...job.system, chargers: [] } });
  await expect(page.getByText('No charger yet, so there is nothing to rehearse.')).toBeVisible();
  await bring({ id: 'cardless', name: 'Cardless', cards: [] });
  await expect(page.getByRole('alert').first()).toContainText('the job carries no card for it');
});

test('a worker in the browser and Node come to the same events and the same numbers', { tag: '@long' }, async ({ page }, info) => {
  const folder = info.outputPath('engine');
  const bundle = async (format: 'esm' | 'iife'): Promise<string> => {
    const outfile = join(folder, format === 'esm' ? 'engine.mjs' : 'engine.js');
    await build({ entryPoints: [repo('e2e/engine.ts')], bundle: true, format, globalName: 'engine', outfile, logLevel: 'error' });
    return outfile;
  };
  const node = (await import(pathToFileURL(await bundle('esm')).href)) as { rehearsedFor: typeof rehearsedFor };
  const code = readFileSync(await bundle('iife'), 'utf8');
  await page.goto('about:blank');
  for (const [name, scenario] of [
    ['teasel', 'motoring'],
    ['skarrow', 'broken-cloud'],
  ] as const) {
    const job = readFileSync(repo(`demo/${name}.job.json`), 'utf8');
    const here = node.rehearsedFor(job, scenario);
    const there = await page.evaluate(
      ([source, text, day]) => {
        const body = `${source}\nonmessage = (e) => postMessage(engine.rehearsedFor(e.data[0], e.data[1]));`;
        const worker = new Worker(URL.createObjectURL(new Blob([body], { type: 'text/javascript' })));
        return new Promise<ReturnType<typeof rehearsedFor>>((resolve, reject) => {
          worker.onmessage = (e) => {
            resolve(e.data as ReturnType<typeof rehearsedFor>);
          };
          worker.onerror = (e) => {
            reject(new Error(e.message));
          };
          worker.postMessage([text, day]);
        });
      },
      [code, job, scenario] as const,
    );
    expect(there.events).toEqual(here.events);
    expect(here.events.length).toBeGreaterThan(8);
    const near = (a: readonly number[], b: readonly number[], most: number): void => {
      expect(a.length).toBe(b.length);
      const worst = a.reduce((w, x, i) => Math.max(w, Math.abs(x - (b[i] ?? NaN)) / Math.max(1, Math.abs(x))), 0);
      expect(worst).toBeLessThanOrEqual(most);
    };
    near(here.moments, there.moments, 1e-9);
    near(here.totals, there.totals, 1e-9);
    // Traces are kept in 32 bits: one step of those is about 1e-7 of the value.
    here.traces.forEach((trace, i) => {
      near(trace, there.traces[i] ?? [], 2.4e-7);
    });
  }
});
