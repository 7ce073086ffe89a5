import { createWriteStream, readFileSync } from 'node:fs';
import { once } from 'node:events';
import { bringLog, expect, figure, openDemo, repo, test } from './keel';
import { openLaunch } from './jobs';

const text = (name: string, content: string | Buffer) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(content) });
const job = readFileSync(repo('demo/teasel.job.json'), 'utf8');

const logs: readonly [string, string | Buffer, RegExp][] = [
  ['empty.csv', '', /The file is empty/],
  ['binary.csv', Buffer.from(Array.from({ length: 20_000 }, (_, i) => (i * 7919) % 256)), /not a text file/],
  ['prose.csv', 'hello\nworld\n', /No columns were found/],
  ['one-sample.csv', 'time,bank_V\n2026-06-14T05:00:00Z,26.5\n', /Only one sample could be read/],
  ['one-line.csv', 'x'.repeat(200_000), /no line break/],
  ['job.csv', '{"format":"calm-keel/job"}', /looks like a JSON file/],
];

test('logs that are none are refused in a sentence, and the job stays as it was', async ({ page }) => {
  await openDemo(page, 'prove');
  await expect(page.locator('[data-drawn=true]')).toBeVisible();
  for (const [name, content, words] of logs) {
    await bringLog(page, text(name, content));
    const alert = page.getByRole('alert');
    await expect(alert).toContainText(words);
    await expect(alert).toContainText('Nothing in this job was changed');
    await alert.getByRole('button', { name: 'Close' }).click();
  }
  await expect(page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link')).toHaveCount(2);
});

test('a log with bad lines is read, and the lines are listed', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  const good = readFileSync(repo('demo/logs/teasel-clean-day.csv'), 'utf8').split('\n');
  good.splice(213, 0, ',26.5,1,10,0,0,off,0,0,off');
  good[500] = (good[500] ?? '').replace(/,[\d.]+,/, ',zero,');
  await bringLog(page, text('patchy.csv', good.join('\n')));
  await page.getByText('2 lines could not be read; 5,579 were').click();
  await expect(page.getByText('Line 214 has no time.')).toBeVisible();
  await expect(page.getByText('Line 501 bank voltage “zero” is not a number.')).toBeVisible();
});

test('a log of 200 MB shows its progress, can be stopped, and leaves the page alive', { tag: '@long' }, async ({ page }, info) => {
  const path = info.outputPath('huge.csv');
  const out = createWriteStream(path);
  out.write('time,bank_V,bank_A,battery_degC,fore_A,aft_A\n');
  const start = 1_700_000_000;
  for (let block = 0; block < 2000; block++) {
    let lines = '';
    for (let i = 0; i < 2500; i++) lines += `${start + block * 2500 + i},26.512345,10.123456,12.3456,5.1234,5.1234\n`;
    if (!out.write(lines)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
  await openDemo(page, 'prove');
  await bringLog(page, path);
  await expect(page.getByText(/Reading the log, \d+,\d+ samples, \d+ %/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Reading was stopped. Nothing was saved.');
  // Not stopped, it ends at the row limit with a sentence.
  await bringLog(page, path);
  await expect(page.getByRole('alert')).toContainText('more than 3,000,000 rows');
  await expect(page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link')).toHaveCount(2);
});

test('job files that are none are refused in a sentence, and the jobs stay as they were', async ({ page }) => {
  await openDemo(page);
  const files: readonly [string, string, RegExp][] = [
    ['a.json', 'not json at all', /not readable JSON/],
    ['b.json', '', /empty/],
    ['c.json', '[]', /not a Calm Keel job file/],
    ['d.json', job.replace(/"version": \d+,\n  "id"/, '"version": 10, "id"'), /version 10.*Update the program/],
    ['e.json', job.replace('"note":', '"__proto__": {"x": 1}, "note":'), /__proto__/],
    ['f.json', job.replace(/"unitsInSeries": 1/, '"unitsInSeries": -3'), /unitsInSeries/],
    ['g.zip', 'PK\u0003\u0004broken', /cannot be unpacked/],
  ];
  for (const [name, content, words] of files) {
    await page.getByLabel('Job file').setInputFiles(text(name, content));
    await expect(page.getByRole('alert')).toContainText(words);
  }
  await expect(page.getByRole('listitem').filter({ hasText: 'Carry on' })).toHaveCount(4);
});

test('names are text everywhere, in the page and in the plot', { tag: '@long' }, async ({ page }) => {
  const name = '<img src=x onerror="window.hit=1"><b>Aft</b>';
  const hostile = job
    .replaceAll('"Solar aft"', JSON.stringify(name))
    .replace('"Survey launch Teasel"', JSON.stringify(`${name} job`))
    .replace('"id": "teasel"', '"id": "hostile"');
  await page.goto('/');
  await page.getByLabel('Job file').setInputFiles(text('hostile.json', hostile));
  await page.getByRole('link', { name: `${name} job` }).click();
  await expect(page.locator('.jobname')).toHaveText(`${name} job`);
  await page.goto('/job/hostile/prove');
  await bringLog(page, repo('demo/logs/teasel-clean-day.csv'));
  await expect(page.locator('[data-drawn=true]')).toBeVisible();
  await expect(page.locator('ck-log-picture')).toContainText(name);
  await page.locator('.picture').hover({ position: { x: 300, y: 190 } });
  await expect(page.locator('.plot')).toContainText(name);
  await expect(page.locator('.picture img, .picture b, .roster img, .verdicts img')).toHaveCount(0);
  expect(await page.evaluate(() => (window as unknown as { hit?: number }).hit)).toBeUndefined();
});

test('the same job twice stays two jobs', async ({ page }) => {
  await openDemo(page);
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel.job.json'));
  await page.getByRole('button', { name: 'Keep both beside each other' }).click();
  await expect(page.getByText('was already here; it was brought in beside it as a copy')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Survey launch Teasel' })).toHaveCount(2);
});

test('wrong entries stay as typed with a reason, and change nothing', async ({ page }) => {
  await openLaunch(page, 'spec');
  await figure(page, 'Absorb voltage').click();
  await page.getByLabel('Target').fill('28.1 V per');
  await expect(page.getByText('“V per” does not fit here. This is in V.')).toBeVisible();
  await expect(figure(page, 'Absorb voltage')).toHaveValue(/28\.1/);
  await page.getByLabel('Target').fill('30');
  await expect(page.getByText('least, target and most must rise in that order')).toBeVisible();
  await page.getByLabel('Target').fill('28.2');
  await expect(figure(page, 'Absorb voltage')).toHaveValue(/28\.2/);
  await page.getByLabel('Counted').selectOption('cell');
  await expect(page.getByText(/It would fit as a figure per battery/)).toBeVisible();
  await page.getByRole('button', { name: 'Read it per battery' }).click();
  await expect(page.getByLabel('Counted')).toHaveValue('unit');
});
