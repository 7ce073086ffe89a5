import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { bringLog, chosenValue, expect, figure, goTo, openDemo, repo, saved, test } from './keel';
import { openLaunch } from './jobs';

const run = promisify(execFile);

/** Runs the built shell door; a verdict that is not "all proved" is no error here. */
async function keel(...args: string[]): Promise<Record<string, never>> {
  const { stdout } = await run(process.execPath, [repo('cli/bin/keel.js'), ...args]).catch((error: { stdout: string }) => error);
  return JSON.parse(stdout) as Record<string, never>;
}

test('a newcomer reads why, changes the sheet, proves a log, reloads, and carries the job elsewhere', async ({ page, browser }, info) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Survey launch Teasel' }).click();
  await goTo(page, 'Settings');

  // Why the forward charger gets its absorb value.
  await page.getByRole('button', { name: /^Solar fore: absorb 28\.09 V, key 28\.3/ }).click();
  await expect(chosenValue(page)).toHaveText('28.3V');
  const sum = page.getByRole('table', { name: 'How it is worked out' });
  await expect(sum).toContainText('Display reads 0.21 V high');
  await expect(sum.getByRole('row').filter({ hasText: 'Wanted on the display' })).toContainText('28.31');
  await expect(sum.getByRole('row').filter({ hasText: 'At the terminals' })).toContainText('28.09 ± 0.07');
  await expect(page.getByText('LB-25 charging sheet, rev D, 2026-02, p. 3, t. 3').first()).toBeVisible();

  // A new target on the sheet moves ladder, sum and findings at once.
  await goTo(page, 'Spec');
  await figure(page, 'Absorb voltage').click();
  await page.getByLabel('Target').fill('28,35');
  await goTo(page, 'Settings');
  await expect(page.getByRole('button', { name: /^Solar aft: absorb 28\.30 V/ })).toBeVisible();
  await page.getByRole('button', { name: /^Solar fore: absorb/ }).click();
  await expect(chosenValue(page)).toHaveText('28.5V');
  await expect(sum).toContainText('28.35');
  await expect(page.getByText('Solar fore: absorb is entered as 28.5 V to make 28.29 V').first()).toBeVisible();

  // The freezing dawn.
  await goTo(page, 'Prove');
  await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
  const cold = page.getByRole('row', { name: /Fails No charge when cold Solar aft/ });
  await expect(cold).toContainText('−1.6 ± 0.6');
  await cold.click();
  await expect(page.getByTestId('why')).toContainText(/Solar aft charged at −1\.6\s°C ± 0\.6\s°C at 07:37\. From 07:37 to 08:4\d/);
  await expect(page.getByRole('navigation', { name: 'Work stations' })).toContainText(/Prove\d+ fail/);
  await saved(page);

  // Everything is still there after a reload.
  await page.reload();
  await expect(page.getByRole('row', { name: /Fails No charge when cold Solar aft/ })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link', { name: /teasel-freezing-dawn.csv$/ })).toBeVisible();
  await goTo(page, 'Settings');
  await expect(chosenValue(page)).toHaveText('28.5V');

  // Out as a file, into another profile, and the same there.
  await page.getByRole('button', { name: 'Job file' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save job and logs' }).click()]);
  const file = info.outputPath('teasel.keel.zip');
  await download.saveAs(file);
  const table = async (p: typeof page): Promise<string> => {
    await goTo(p, 'Settings');
    await p.getByRole('tab', { name: 'Table' }).click();
    return p.locator('ck-settings-table table').innerText();
  };
  const here = await table(page);
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await other.goto(page.url().replace(/\/job.*/, '/'));
  await other.getByLabel('Job file').setInputFiles(file);
  await other.getByRole('link', { name: 'Survey launch Teasel' }).click();
  expect(await table(other)).toBe(here);
  await goTo(other, 'Prove');
  await other
    .getByRole('navigation', { name: 'Logs of this job' })
    .getByRole('link', { name: /teasel-freezing-dawn.csv$/ })
    .click();
  await expect(other.getByRole('row', { name: /Fails No charge when cold Solar aft/ })).toContainText('−1.6 ± 0.6');
  await expect(other.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link')).toHaveCount(3);
  await other.context().close();

  // The same through the shell door.
  const settings = (await keel('settings', file))['settings'] as unknown as { charger: string; role: string; value: number }[];
  expect(settings.find((s) => s.charger === 'fore' && s.role === 'absorbVoltage')?.value).toBe(28.5);
  const proof = (await keel('prove', file, repo('demo/logs/teasel-freezing-dawn.csv')))['requirements'] as unknown as {
    code: string;
    charger: string;
    verdict: string;
    measured: number;
  }[];
  const aft = proof.find((r) => r.code === 'noChargeBelowMinimum' && r.charger === 'aft');
  expect(aft?.verdict).toBe('fail');
  expect(aft?.measured).toBeCloseTo(-1.6, 1);
});

test('a new job from nothing: name, sheet, charger, settings', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('No job on this device yet.')).toBeVisible();
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('Shed & <b>barn</b>');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Maker’s sheet' })).toBeVisible();
  await expect(page.locator('.jobname')).toHaveText('Shed & <b>barn</b>');
  await page.getByRole('button', { name: 'Library', exact: true }).click();
  await page.getByRole('button', { name: 'Dunmere T6-210, rev 5' }).click();
  await goTo(page, 'Settings');
  await page.getByRole('link', { name: 'Add a charger on System' }).click();
  await page.getByLabel('Batteries in series').fill('2');
  await page.getByRole('button', { name: 'Varrow P15' }).click();
  await page.getByRole('complementary', { name: 'Chosen charger' }).getByLabel('Name').fill('Roof');
  await goTo(page, 'Settings');
  await expect(page.getByRole('button', { name: /^Roof: absorb 14\.70 V/ })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Roof: absorb 14\.70 V/ })).toBeVisible();
});

test('a remedy does its thing, undo takes it back, and both are remembered after a reload', async ({ page }) => {
  await openLaunch(page, 'settings');
  await expect(page.getByRole('button', { name: /^Solar aft: float as found 27\.60 V, 0\.50 V above/ })).toBeVisible();
  await page.getByRole('button', { name: /Solar aft: float was found at 27\.6/ }).click();
  await page.getByRole('button', { name: 'Record that it now reads 26.9 V' }).click();
  await expect(page.getByRole('button', { name: /as found 27\.60/ })).toHaveCount(0);
  await page.getByRole('button', { name: /Raise every cutoff past 12/ }).click();
  await expect(page.getByText(/Solar fore stops at 14\s°C/)).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByText(/Solar fore stops at 14\s°C/)).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByText(/Solar fore stops at 2\s°C/)).toBeVisible();
  await page.locator('body').press('Control+z');
  await expect(page.getByRole('button', { name: /as found 27\.60/ })).toBeVisible();
  await page.locator('body').press('Control+Shift+z');
  await expect(page.getByRole('button', { name: /as found 27\.60/ })).toHaveCount(0);
});

test('a value is tried with the findings following, let go, or kept with a reason and a second look', async ({ page }) => {
  await openLaunch(page, 'settings');
  await page.getByRole('button', { name: /^Solar aft: absorb 28\.10/ }).click();
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'One device step up' }).click();
  await expect(chosenValue(page)).toHaveText('28.5V');
  const trying = page.getByRole('group', { name: 'Trying a value' });
  await expect(trying).toContainText('Trying 28.5 V instead of 28.1 V');
  await expect(page.getByRole('button', { name: /^Solar aft: absorb 28\.50 V, 0\.10 V above the band, trying/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /Solar aft: absorb is overridden by the technician and comes to 28\.50/ })).toBeVisible();
  // Nothing is kept yet: a reload forgets it, and so does letting go.
  await trying.getByRole('button', { name: 'Drop it' }).click();
  await expect(chosenValue(page)).toHaveText('28.1V');
  await expect(page.getByText(/absorb is overridden by the technician and comes to 28\.50/)).toHaveCount(0);
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'One device step up' }).click();
  await expect(trying.getByRole('button', { name: 'Keep as override' })).toBeDisabled();
  await page.getByLabel('Reason for keeping it').fill('owner asks');
  await trying.getByRole('button', { name: 'Keep as override' }).click();
  await expect(page.getByRole('button', { name: /^Solar aft: absorb 28\.50 V, 0\.10 V above the band, override/ })).toBeVisible();
  await expect(page.getByRole('table', { name: 'How it is worked out' })).toContainText('owner asks');
  await expect(page.getByText('No second person has looked at it yet.')).toBeVisible();
  await page.getByLabel('Seen by a second person (their role)').fill('skipper');
  await expect(page.getByText('Seen by the skipper.')).toBeVisible();
  await saved(page);
  await page.reload();
  // The address comes back to the device that was chosen.
  await expect(chosenValue(page)).toHaveText('28.5V');
  await page.getByRole('button', { name: 'Go back to the derived value' }).first().click();
  await expect(chosenValue(page)).toHaveText('28.1V');
});

test('°C and °F: screens change, files and settings do not', async ({ page }) => {
  await openLaunch(page, 'settings');
  await page.getByRole('button', { name: '°F', exact: true }).click();
  await expect(page.getByText('Solar fore stops at 36 °F, resumes at 39 °F.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('Solar fore stops at 36 °F')).toBeVisible();
  await page.getByLabel('Setting', { exact: true }).selectOption('lowTempCutoff');
  await expect(chosenValue(page)).toHaveText('2°C');
  // A test says, takes and gives back °F; the cutoff stays as it is keyed.
  await goTo(page, 'Prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  const cold = page.getByRole('article').filter({ hasText: 'Low-temperature cutoff' });
  await cold.getByRole('button', { name: /^Begin: .*Solar fore/ }).click();
  await page.getByLabel('Cell case').fill('41');
  await page.getByLabel('Charger shows').fill('5 °C');
  await expect(page.locator('.field').filter({ hasText: 'Cell case' }).getByText('°F')).toBeVisible();
  await page.getByTestId('test-answer').click();
  await page.getByRole('button', { name: 'Where the sensor sits, cold and undisturbed' }).click();
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Cell case')).toHaveValue('41');
  await expect(page.getByLabel('Charger shows')).toHaveValue('41');
  await expect(page.getByText('Cutoff 36 °F, sensor ±', { exact: false })).toBeVisible();
  await expect(page.getByText('°C', { exact: false }).filter({ visible: true })).toHaveCount(1);
});

test('a deleted job can be brought back', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'More for Rook Moss weather mast' }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByRole('link', { name: 'Rook Moss weather mast' })).toHaveCount(0);
  await page.reload();
  await page.getByRole('button', { name: 'Undo: bring it back' }).click();
  await expect(page.getByRole('link', { name: 'Rook Moss weather mast' })).toBeVisible();
});

test('two tabs of one job agree', async ({ page, context }) => {
  await openLaunch(page, 'spec');
  const second = await context.newPage();
  await second.goto('/job/teasel/settings');
  await expect(second.getByRole('button', { name: /^Solar aft: absorb 28\.10/ })).toBeVisible();
  await figure(page, 'Absorb voltage').click();
  await page.getByLabel('Target').fill('28.2');
  await expect(second.getByRole('button', { name: /^Solar aft: absorb 28\.20/ })).toBeVisible();
  await second.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByLabel('Target')).toHaveValue('28.1');
});

test('clicking a verdict’s time zooms the log to its evidence, and back', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await expect(page.locator('[data-drawn=true]')).toBeVisible();
  await page
    .getByRole('row', { name: /Proved Absorb completed Solar aft/ })
    .getByRole('button')
    .last()
    .click();
  await expect(page.getByRole('button', { name: 'Whole log' })).toBeVisible();
  await expect(page.getByTestId('why')).toContainText('at voltage between');
  await page.getByRole('button', { name: 'Whole log' }).click();
  await expect(page.getByRole('button', { name: 'Whole log' })).toHaveCount(0);
});
