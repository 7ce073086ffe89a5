import { readFileSync } from 'node:fs';
import { expect, figure, goTo, openDemo, repo, saved, test, overrideBySteps } from './keel';
import { openLaunch } from './jobs';

/** A two-page sheet as printed: volts per cell, mV/°C per 12 V block. Twenty figures. */
const sheet: readonly (readonly [string, string])[] = [
  ['Absorb voltage', '2.40V/cell 2.38-2.42'],
  ['Float voltage', '2.27V/cell 2.25-2.29'],
  ['Recharge voltage', '2.10V/cell'],
  ['Equalise voltage', 'not permitted'],
  ['Load reconnect', '2.08V/cell'],
  ['Load disconnect', '1.95V/cell'],
  ['Absorb time', '2h'],
  ['Taper current', '0.02C'],
  ['Longest charge', '10h'],
  ['Equalise time', 'not needed'],
  ['Equalise every', 'not needed'],
  ['Most current', '27A'],
  ['Recommended', '0.2C'],
  ['Charging range', '-10-45'],
  ['Fastest cooling', '4'],
  ['Compensation slope', '-24mV/°C per 12V'],
  ['Reference temperature', '25'],
  ['Compensation range', '0-40'],
  ['Storage voltage', '2.15V/cell'],
  ['Storage charge', '80'],
];

test('a printed sheet of twenty figures goes in by the keyboard alone for a 48 V bank, without a calculator', { tag: '@long' }, async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('Relay hut');
  await page.keyboard.press('Enter');
  await page.getByLabel('Chemistry').selectOption('agm');
  await page.getByLabel('Nominal, one battery').fill('12');
  await page.getByLabel('Cells in series in it').fill('6');
  await page.getByLabel('Capacity, one battery').fill('110');
  await goTo(page, 'System');
  await page.getByLabel('Batteries in series').fill('4');
  await goTo(page, 'Spec');

  let presses = 0;
  const press = async (key: string): Promise<void> => {
    presses++;
    await page.keyboard.press(key);
  };
  await figure(page, 'Absorb voltage').focus();
  for (const [name, text] of sheet) {
    // From figure to figure with the arrow; what is typed counts apart from its digits.
    while (!(await figure(page, name).evaluate((field) => field === document.activeElement))) await press('ArrowDown');
    await page.keyboard.type(text);
    presses += text.replace(/[\d.]/g, '').length;
    await page.keyboard.press('Enter');
    presses++;
    // Enter goes on to the next one; the loop begins where it stands.
  }
  await expect(figure(page, 'Compensation slope')).toHaveValue('−24\u00a0mV/°C');
  await saved(page);
  test.info().annotations.push({ type: 'key presses a figure beyond its digits', description: (presses / sheet.length).toFixed(1) });
  expect(presses / sheet.length).toBeLessThanOrEqual(12);

  // 2.40 V × 24 cells, −24 mV × 4 blocks: as worked by hand.
  const row = (name: string) => page.getByRole('row').filter({ has: figure(page, name) });
  await expect(row('Absorb voltage').locator('.bank')).toHaveText('57.60\u00a0V');
  await expect(row('Compensation slope').locator('.bank')).toHaveText('−96\u00a0mV/°C');
  await page.reload();
  await expect(row('Float voltage').locator('.bank')).toHaveText('54.48\u00a0V');
});

test('while typing, the page says what it understands, and what it takes for granted', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'spec');
  await figure(page, 'Release after trip').fill('3,40');
  await expect(page.getByText('Read as 3.40 V per cell; 27.20 V on this bank.')).toBeVisible();
  await expect(page.getByText('Not said what it is counted for; read per cell')).toBeVisible();
  await figure(page, 'Release after trip').fill('27 kV');
  await expect(page.getByText('“kv” is not understood here.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(figure(page, 'Release after trip')).toHaveValue('27 kV');
  await page.keyboard.press('Escape');
  await expect(figure(page, 'Release after trip')).toHaveValue('');
});

test('two revisions: their differences, the older one pinned raises a finding, the remedy pins the newer', async ({ page }) => {
  await openLaunch(page, 'spec');
  await page.getByRole('button', { name: 'See 3 differences' }).first().click();
  await expect(page.getByRole('row', { name: /Absorb time 40 min 60 min 20 min more/ })).toBeVisible();
  await page.getByRole('button', { name: 'Use rev C, 2024-09 instead' }).click();
  await expect(figure(page, 'Absorb voltage')).toHaveValue('28.7\u00a0V (28.4–28.8)');
  await page.getByRole('button', { name: /uses rev C, 2024-09\. Revision D of 2026-02 is in the job too: 3 figures differ/ }).click();
  await page.getByRole('button', { name: 'Use revision D', exact: true }).click();
  await expect(figure(page, 'Absorb voltage')).toHaveValue('28.1\u00a0V (28.0–28.4)');
  await page.getByRole('button', { name: 'Take rev C, 2024-09 out of the job' }).click();
  await expect(page.getByRole('button', { name: /differences/ })).toHaveCount(0);
});

test('a pasted table is looked over and fills the figures it names', async ({ page }) => {
  await openLaunch(page, 'spec');
  await page.getByRole('button', { name: 'Paste a table' }).click();
  await page.getByLabel(/^Paste a table/).fill('Absorption voltage\t3.52 V/cell (3.50–3.55)\nColour\tblue\nFloat\t26.95 V\nStuff\t27.0 V');
  await expect(page.getByText('This name is not a figure of a sheet.').first()).toBeVisible();
  await page.getByLabel('Figure of line 4').selectOption('bmsRelease');
  await page.getByRole('button', { name: 'Fill 3 figures' }).click();
  await expect(figure(page, 'Absorb voltage')).toHaveValue('3.52\u00a0V (3.50–3.55)');
  await expect(figure(page, 'Release after trip')).toHaveValue('27.0\u00a0V');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(figure(page, 'Absorb voltage')).toHaveValue('28.1\u00a0V (28.0–28.4)');
});

test('what is missing is asked in a letter, and the answer is filed with its source', async ({ page }) => {
  await openLaunch(page, 'spec');
  await expect(page.getByRole('navigation', { name: 'Work stations' })).toContainText('2 missing');
  const [letter] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as text' }).click()]);
  const text = await (await letter.createReadStream()).toArray();
  expect(Buffer.concat(text as Buffer[]).toString()).toContain('1. Release after trip, in V');
  await page.getByRole('button', { name: 'File the answer' }).click();
  await page.getByLabel('The answer: letter or mail, and its date').fill('Mail of 2026-03-02');
  await page.getByLabel('Release after trip', { exact: true }).fill('27.2 V');
  await page.getByRole('button', { name: 'File it' }).click();
  await expect(page.getByRole('navigation', { name: 'Work stations' })).toContainText('1 missing');
  await figure(page, 'Release after trip').focus();
  await expect(page.getByLabel('Rank of the source')).toHaveValue('makerReply');
  await expect(page.getByLabel('From another paper')).toHaveValue('Mail of 2026-03-02');
});

test('the document itself goes with the job file; what is none is refused in a sentence', { tag: '@long' }, async ({ page, browser }, info) => {
  await openLaunch(page, 'spec');
  const file = page.getByLabel('Document file');
  await file.setInputFiles({ name: 'macro.pdf', mimeType: 'application/pdf', buffer: Buffer.from('PK\u0003\u0004 not a pdf') });
  await expect(page.getByText('“macro.pdf” is no PDF, PNG, JPEG or WebP.')).toBeVisible();
  await file.setInputFiles({ name: 'huge.pdf', mimeType: 'application/pdf', buffer: Buffer.concat([Buffer.from('%PDF-1.7'), Buffer.alloc(9_000_000)]) });
  await expect(page.getByText('at most 8.0 MB can be saved with a job')).toBeVisible();
  await file.setInputFiles({ name: 'Sheet D.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.7 the sheet') });
  await expect(page.getByRole('button', { name: 'Sheet D.pdf', exact: true })).toBeVisible();
  await saved(page);
  await page.getByRole('button', { name: 'Job file' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save job and logs' }).click()]);
  const path = info.outputPath('job.keel.zip');
  await download.saveAs(path);
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await other.goto(page.url().replace(/\/job.*/, '/'));
  await other.getByLabel('Job file').setInputFiles(path);
  await other.getByRole('link', { name: 'Survey launch Teasel' }).click();
  await goTo(other, 'Spec');
  await expect(other.getByRole('button', { name: 'Sheet D.pdf', exact: true })).toBeVisible();
  await other.context().close();
});

test('the library moves on without the job: it says so, and the job chooses', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  const next = {
    ...(JSON.parse(readFileSync(repo('library/sheets/pellow-lb-25-rev-d.json'), 'utf8')) as object),
    id: 'pellow-e',
    revision: 'E',
    date: '2026-09',
  };
  await page.goto('/library');
  await page.getByLabel('Card or sheet file').setInputFiles({ name: 'e.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(next)) });
  await expect(page.getByText('“e.json” is in the library.')).toBeVisible();
  await page.goto('/job/teasel/spec');
  await expect(page.getByText('The library has rev E, 2026-09, and this job uses rev D, 2026-02.')).toBeVisible();
  await expect(figure(page, 'Absorb voltage')).toHaveValue('28.1\u00a0V (28.0–28.4)');
  await page.getByRole('button', { name: 'Bring it into this job' }).click();
  await expect(page.getByRole('button', { name: /uses rev D, 2026-02\. Revision E of 2026-09 is in the job too: no figure differs/ })).toBeVisible();
});

test('an override stands on Spec beside the figure it leaves, outside the sheet', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'settings');
  await page.getByRole('button', { name: /^Solar aft: absorb 28\.10/ }).click();
  await overrideBySteps(page, 'up', 4, 'owner asks');
  await goTo(page, 'Spec');
  await expect(page.getByText(/Override: Solar aft is set to 28\.5\sV by the technician instead \(\d{4}-\d\d-\d\d: owner asks\)/)).toBeVisible();
});
