import type { Page } from '@playwright/test';
import { expect, openDemo, saved, test } from './keel';

/** Gives the launch’s monitor another name on the wire. */
async function listen(page: Page, name: string): Promise<void> {
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  const field = page.getByLabel('On the wire as').first();
  await expect(field).toHaveAttribute('list', /./);
  await field.fill(name);
  await field.blur();
  await saved(page);
}

test('what a broker says is told what it means once, and is recorded into a log that is judged', async ({ page }) => {
  await openDemo(page, 'system');
  await listen(page, 'teasel-broker');
  await page.goto('/job/teasel/program');
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  const panel = page.locator('ck-fields-panel');
  await expect(panel).toContainText('nothing can be asked of it or written to it');
  await expect(page.getByLabel('Meaning of bank.volts')).toHaveValue('bankVolts');
  await expect(page.getByLabel('Meaning of fore.amps')).toHaveValue('amps');
  await expect(page.getByLabel('Charger of fore.amps')).toHaveValue('fore');
  await expect(page.getByRole('button', { name: 'Read in what stands on it' })).toHaveCount(0);
  await page.getByLabel('Sensor that wrote bank.celsius').selectOption('a probe on the battery');
  await expect(panel).toContainText('Remembered under this name');
  await page.reload();
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  await expect(page.getByLabel('Sensor that wrote bank.celsius')).toHaveValue('probe');
  await page.goto('/job/teasel/prove');
  await page.getByRole('button', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('article').filter({ hasText: 'Absorb, reached and held' }).getByRole('button', { name: 'Begin' }).nth(1).click();
  await page.getByRole('button', { name: 'Record from the devices while you test' }).click();
  await expect.poll(async () => Number(/(\d+)\s*samples\./.exec(await page.locator('body').innerText())?.[1])).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Prove', exact: true }).first().click();
  await page.getByRole('button', { name: 'Logs', exact: true }).click();
  await expect(page.getByText('Recorded from what “teasel-broker” said.')).toBeVisible();
});
