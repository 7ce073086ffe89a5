import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, figure, focused, saved, test } from './keel';

/** Presses Tab until what has the focus is called so; fails when the page has been gone through. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let i = 0; i < 160; i++) {
    await page.keyboard.press('Tab');
    if (name.test(await focused(page))) return;
  }
  throw new Error(`no way by Tab to ${String(name)}`);
}

test('from a new job to the handed-over report by the keyboard alone', async ({ page }, info) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: /^New job/ }).first()).toBeVisible();
  await tabTo(page, /^New job/);
  await page.keyboard.press('Enter');
  await page.keyboard.type('Hut by the keys');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/hut-by-the-keys\/spec/);

  // A figure on the maker's paper.
  await expect(figure(page, 'Absorb voltage')).toBeVisible();
  await figure(page, 'Absorb voltage').focus();
  await page.keyboard.type('14.2 V (14.0–14.4)');
  await page.keyboard.press('Enter');
  await saved(page);
  for (const [station, path] of [
    ['System', 'system'],
    ['Settings', 'settings'],
    ['Hand over', 'hand-over'],
  ] as const) {
    await tabTo(page, new RegExp(`^${station}, `));
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(new RegExp(`${path}(\\?|$)`));
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  }

  // A visit is noted and closed.
  await tabTo(page, /^Visits/);
  await page.keyboard.press('Enter');
  await tabTo(page, /^Begin a visit today/);
  await page.keyboard.press('Enter');
  await tabTo(page, /What for$/);
  await page.keyboard.type('First look');
  await tabTo(page, /Notes$/);
  await page.keyboard.type('By the keys alone.');
  await tabTo(page, /^Close this visit/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('navigation', { name: 'Work stations' })).toContainText('handed over');

  await tabTo(page, /^Report$/);
  await page.keyboard.press('Enter');
  await tabTo(page, /^Save as PDF/);
  const [file] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
  await file.saveAs(info.outputPath('keys.pdf'));
  expect(readFileSync(info.outputPath('keys.pdf')).length).toBeGreaterThan(5000);
  await tabTo(page, /^What is still open/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'What is still open' })).toBeInViewport();
});
