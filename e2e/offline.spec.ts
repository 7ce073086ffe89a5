import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bringLog, expect, goTo, repo, saved, test } from './keel';
import { letterHtml, paperRead, photoOf } from './papers';
import { copyOfApplication, ownServer } from './servers';
import { allKept } from './worker';

// Devices and the exchange are the server’s own: asked for while it is stopped, they are not there, and the console says so.
test.use({ serviceWorkers: 'allow', serverStops: true });

test('after one visit the whole journey from Spec to Hand over works with the server stopped', { tag: '@long' }, async ({ page, browser }, info) => {
  const server = await ownServer({});
  await page.goto(server.base);
  await page.getByRole('button', { name: 'Open the demo' }).first().click();
  await expect(page.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();
  await allKept(page);
  await page.reload();
  await server.stop();
  await expect(fetch(server.base)).rejects.toThrow();

  // A page opened anew, deep inside.
  await page.goto(`${server.base}/job/teasel/spec`);
  await page.getByLabel('Absorb voltage, as printed', { exact: true }).click();
  await page.getByLabel('Target').fill('28.2');
  await goTo(page, 'System');
  await expect(page.getByRole('group', { name: 'One-line drawing' })).toBeVisible();
  await goTo(page, 'Settings');
  await expect(page.getByRole('button', { name: /^Solar aft: absorb 28\.20 V/ })).toBeVisible();
  await goTo(page, 'Rehearse');
  await expect(page.getByRole('row', { name: /Never above the maximum/ })).toBeVisible();
  await goTo(page, 'Program');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await goTo(page, 'Prove');
  await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
  await expect(page.getByRole('row', { name: /Fails No charge when cold Solar aft/ })).toBeVisible();
  await expect(page.locator('[data-drawn=true]')).toBeVisible();
  await goTo(page, 'Hand over');
  await expect(page.getByRole('article', { name: /^Hand-over/ })).toContainText('28.2 V (28.0–28.4)');
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as PDF' }).click()]);
  await file.saveAs(info.outputPath('offline.pdf'));
  expect(readFileSync(info.outputPath('offline.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
  await saved(page);
  await page.reload();
  await expect(page.getByRole('article', { name: /^Hand-over/ })).toContainText('28.2 V (28.0–28.4)');
  await page.goto(`${server.base}/library`);
  await expect(page.getByRole('link', { name: /^Tessick D30/ })).toBeVisible();
  // A photo of a paper too: the reader of pictures and what it knows of letters are there.
  await page.goto(`${server.base}/job/teasel/spec`);
  await page.getByLabel('Paper to read').setInputFiles(await photoOf(browser, letterHtml));
  await paperRead(page);
  await expect(page.getByRole('button', { name: /^Absorb voltage 28.0/ })).toBeVisible();
});

test('a newer version announces itself, and is not loaded under anybody’s hands', { tag: '@long' }, async ({ page }) => {
  const { folder, remove } = copyOfApplication();
  const server = await ownServer({ APP_FOLDER: folder });
  await page.goto(server.base);
  await allKept(page);
  // From the second visit on the page comes from what is kept.
  await page.reload();
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('Half typed');
  await page.evaluate(() => Object.assign(window, { sameDocument: true }));

  // The same application, built anew: its index is another one.
  const index = join(folder, 'index.html');
  writeFileSync(index, readFileSync(index, 'utf8').replace('<title>Calm Keel', '<meta name="built" content="2" /><title>Calm Keel'));
  const table = join(folder, 'ngsw.json');
  const worker = JSON.parse(readFileSync(table, 'utf8')) as { timestamp: number; hashTable: Record<string, string> };
  worker.hashTable['/index.html'] = createHash('sha1').update(readFileSync(index)).digest('hex');
  writeFileSync(table, JSON.stringify({ ...worker, timestamp: worker.timestamp + 1 }));
  await page.evaluate(() => window.dispatchEvent(new Event('online')));

  await expect(page.getByText('A newer version is here.')).toBeVisible();
  expect(await page.evaluate(() => (window as { sameDocument?: boolean }).sameDocument)).toBe(true);
  await expect(page.getByLabel('Name of the new job')).toHaveValue('Half typed');
  await page.getByRole('button', { name: 'Load it now' }).click();
  await expect.poll(() => page.evaluate(() => document.querySelector('meta[name=built]') !== null).catch(() => false)).toBe(true);
  await server.stop();
  remove();
});
