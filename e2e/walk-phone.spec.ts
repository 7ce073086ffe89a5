import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, goTo, saved, test } from './keel';
import { answerWell, title, walkTo } from './program';
import { ownServer } from './servers';
import { allKept } from './worker';

test.use({ serviceWorkers: 'allow', serverStops: true });

/** The job of somebody else: the launch with its two solar controllers only, as one file with its logs. */
async function bundleOfAnother(page: Page, path: string): Promise<void> {
  await page.getByRole('button', { name: 'Open the demo' }).first().click();
  await page.getByRole('link', { name: 'Survey launch Teasel' }).click();
  await goTo(page, 'System');
  for (const name of ['DC-DC', 'Alternator']) {
    await page
      .getByRole('group', { name: 'One-line drawing' })
      .getByRole('button', { name: new RegExp(`^${name},`) })
      .click();
    await page.getByRole('button', { name: 'Remove this charger' }).click();
  }
  await saved(page);
  await page.getByRole('button', { name: 'Job file' }).click();
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: /^Save job and logs/ }).click()]);
  await file.saveAs(path);
}

/** Answers a step of a guided test with these readings and words, by the names of their fields. */
async function read(page: Page, step: string, fields: Readonly<Record<string, string>> = {}): Promise<void> {
  await expect(page.getByRole('heading', { name: step })).toBeVisible();
  for (const [name, value] of Object.entries(fields)) {
    const choice = page.getByRole('group', { name, exact: true }).getByRole('button', { name: value, exact: true });
    if ((await choice.count()) > 0) await choice.tap();
    else await page.getByLabel(name, { exact: true }).fill(value);
  }
  await page.getByTestId('test-answer').tap();
}

test('with one thumb: a job of somebody else is programmed and tested, the server stopped half-way', { tag: '@long' }, async ({ page, browser }, info) => {
  const server = await ownServer({});
  const desk = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block', acceptDownloads: true });
  const other = await desk.newPage();
  await other.goto(server.base);
  const bundle = info.outputPath('teasel-two.zip');
  await bundleOfAnother(other, bundle);
  await desk.close();

  await page.goto(server.base);
  await expect(page.getByText('No job on this device yet')).toBeVisible();
  await page.getByLabel('Job file').setInputFiles(bundle);
  await page.getByRole('link', { name: 'Survey launch Teasel' }).tap();
  await allKept(page);
  const shot = async (name: string) => process.env['LOOK'] && (await page.screenshot({ path: `/tmp/${name}.png` }));
  await shot('p1');

  // What stands in the way is dealt with where it stands.
  await goTo(page, 'Program');
  await shot('p2');
  await expect(page.getByText('Do not start: 1 stop is open.')).toBeVisible();
  await page
    .locator('.gate')
    .getByRole('button', { name: /^Stagger/ })
    .tap();
  await expect(page.getByText('No stop is open.')).toBeVisible();
  await page.getByLabel('Initials').fill('KM');
  await shot('p3');
  await page.getByRole('button', { name: 'Begin the run sheet' }).tap();
  await expect(title(page)).toHaveText('The bank can weld a spanner');
  await walkTo(page, /Solar fore.*\| Save$/);
  await shot('p4');

  // Nobody is there any more but the phone.
  await saved(page);
  await server.stop();
  await page.reload();
  await expect(title(page)).toHaveText('Save');
  await walkTo(page, 'Leave it as it should run');
  await answerWell(page);
  await page.getByRole('button', { name: 'End the run sheet' }).tap();
  await expect(page.getByText(/Last run sheet ended .* by KM/)).toBeVisible();
  await shot('p5');

  await page.getByRole('link', { name: /^Next: Prove/ }).tap();
  await page.getByRole('link', { name: 'Guided tests' }).tap();
  await shot('p6');
  // The run sheet left the second one chosen; both are wanted.
  await expect(page.getByLabel('Initials')).toHaveValue('KM');
  await page.getByRole('button', { name: 'All devices' }).tap();
  const begin = async (name: string, device: string): Promise<void> => {
    const line = page.getByRole('article').filter({ hasText: name }).getByRole('listitem').filter({ hasText: device });
    await line.getByRole('button', { name: 'Begin' }).tap();
  };
  await begin('Low-temperature cutoff in a cold bath', 'Solar fore');
  await shot('p7');
  await read(page, 'Where the sensor sits, cold and undisturbed', { 'Cell case': '9.1', 'Charger shows': '9.4' });
  await read(page, 'Switch off what would blur the reading');
  await read(page, 'The battery itself must be warm', { 'Cell case': '16' });
  await read(page, 'Sensor into the ice water', { 'Sensor when it stopped': '6.8', 'Current after it stopped': '0', 'Did it stop': 'yes' });
  await read(page, 'What else went with it', { 'Charger still alive': 'yes', 'Monitor still has its count': 'yes' });
  await read(page, 'Warm it in the hand', { 'Sensor when it resumed': '9.1' });
  await read(page, 'Put back what was taken off');
  await shot('p8');
  await page.getByRole('button', { name: 'End the test' }).tap();
  await expect(page.getByText('Cutoff as programmed', { exact: true })).toBeVisible();
  await shot('p9');
  await page.getByRole('button', { name: 'Back to the guided tests' }).tap();
  await page.getByRole('button', { name: 'All devices' }).tap();

  await begin('Chill the sensor, watch the voltage', 'Solar aft');
  await shot('p10');
  await expect(page.getByText('Highest voltage this pushes the bank to')).toBeVisible();
  await page.getByTestId('test-answer').tap();
  await page.getByLabel('Battery case').fill('16');
  await page.getByTestId('test-answer').tap();
  await page.getByLabel('Voltage at the battery').fill('28.1');
  await page.getByLabel('Its current').fill('12');
  await page.getByTestId('test-answer').tap();
  await expect(page.getByRole('heading', { name: 'Chill, and read as it moves' })).toBeVisible();
  for (const [c, v] of Object.entries({ 20: '28.10', 18: '28.11', 16: '28.10', 14: '28.10', 12: '28.11', 15: '28.10', 19: '28.10' })) {
    await page.getByLabel('Sensor').fill(c);
    await page.getByLabel('Battery', { exact: true }).fill(v);
    await page.getByRole('button', { name: 'Add this reading' }).tap();
    await expect(page.getByLabel('Sensor')).toHaveValue('');
  }
  await page.getByRole('button', { name: '7 readings are enough' }).tap();
  await read(page, 'Put back what was taken off');
  await page.getByRole('button', { name: 'End the test' }).tap();
  await expect(page.getByText('No compensation', { exact: true })).toBeVisible();

  // Handed over from the phone, without anybody there.
  await goTo(page, 'Hand over');
  await expect(page.getByRole('article', { name: /^Hand-over/ })).toContainText('Low-temperature cutoff in a cold bath');
  await expect(page.getByRole('article', { name: /^Hand-over/ })).toContainText('Chill the sensor');
  await shot('p11');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const [pdf] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as PDF' }).tap()]);
  await pdf.saveAs(info.outputPath('report.pdf'));
  expect(readFileSync(info.outputPath('report.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
});
