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
  await tabTo(page, /^Report/);
  await page.keyboard.press('End');
  expect(await focused(page)).toMatch(/^Visits/);
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

  await tabTo(page, /^Visits$/);
  await page.keyboard.press('Home');
  expect(await focused(page)).toBe('Report');
  await page.keyboard.press('Enter');
  await tabTo(page, /^Save as PDF/);
  const [file] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
  await file.saveAs(info.outputPath('keys.pdf'));
  expect(readFileSync(info.outputPath('keys.pdf')).length).toBeGreaterThan(5000);
  await tabTo(page, /^What is still open/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'What is still open' })).toBeInViewport();
});

test('a charger nobody has a card for is surveyed by the keyboard alone, ends and steps included', async ({ page }, info) => {
  let keys = 0;
  const type = async (text: string): Promise<void> => {
    keys += text.length;
    await page.keyboard.type(text);
  };
  const key = async (name: string): Promise<void> => {
    keys++;
    await page.keyboard.press(name);
  };
  await page.goto('/library');
  await expect(page.getByRole('button', { name: 'Make a copy of my own' })).toBeVisible();
  await tabTo(page, /^Make a copy of my own/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Survey it' })).toBeVisible();
  await tabTo(page, /^Survey it/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'What does its plate say?' })).toBeVisible();
  const field = (name: string) => page.getByRole('textbox', { name, exact: true });
  await tabTo(page, /^Your initials/);
  await type('KM');
  await key('Control+Enter');
  await expect(page.getByRole('heading', { name: 'How is it set?' })).toBeVisible();
  await tabTo(page, /^A list and keys/);
  await key('Enter');
  await expect(page.getByRole('button', { name: 'Next: its settings' })).toBeEnabled();
  await key('Control+Enter');
  await expect(field('As the display calls it')).toBeVisible();
  const first = await field('As the display calls it').inputValue();
  // What it shows and where it stops, each by its field, and on from the last of them.
  await key('PageDown');
  await expect(field('As the display calls it')).not.toHaveValue(first);
  await key('PageUp');
  await expect(field('As the display calls it')).toHaveValue(first);
  await expect.poll(() => focused(page)).toBe('As the display calls it');
  await key('Control+Enter');
  await expect(field('As the display calls it')).not.toHaveValue(first);
  await page.getByRole('button', { name: 'List', exact: true }).focus();
  await key('Enter');
  await tabTo(page, /^Add a setting at the end/);
  await key('Enter');
  await expect(field('As the display calls it')).toHaveValue('');
  await type('Tail amps');
  await key('Enter');
  await type('4.0 A');
  await tabTo(page, /^stops below at/);
  await type('1');
  await tabTo(page, /^stops above at/);
  await type('20');
  await tabTo(page, /^one press/);
  await type('0.5');
  await key('Control+Enter');
  await expect(field('As the display calls it')).toHaveValue('');
  await key('PageUp');
  await expect(field('As the display calls it')).toHaveValue('Tail amps');
  await expect(page.getByRole('textbox', { name: 'one press' })).toHaveValue('0.5');
  await expect(page.getByRole('textbox', { name: 'stops above at' })).toHaveValue('20');
  info.annotations.push({ type: 'keys', description: `${keys} keys` });
});

test('a question mark says what the words mean, over any view, and goes away without a trace', async ({ page }) => {
  await page.goto('/');
  const words = page.getByRole('dialog', { name: 'What the words mean' });
  const button = page.getByRole('button', { name: 'What the words mean' });
  await button.focus();
  await page.keyboard.press('?');
  await expect(words).toBeVisible();
  await expect(words.getByLabel('Find a word')).toBeFocused();
  await page.keyboard.type('taper');
  await expect(words.getByRole('term').first()).toHaveText('Taper current');
  await expect(words).toContainText('when the bank takes no more than this, it is full');
  await page.keyboard.press('Escape');
  await expect(words).toHaveCount(0);
  await expect(button).toBeFocused();
  // Where something is typed, it is a question mark.
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('Hut');
  await page.keyboard.type('?');
  await expect(page.getByLabel('Name of the new job')).toHaveValue('Hut?');
  await expect(words).toHaveCount(0);
  await page.keyboard.press('Escape');
  // In a job it is one press away too.
  await button.click();
  await expect(words).toBeVisible();
  await words.getByRole('button', { name: 'Close' }).click();
  await expect(words).toHaveCount(0);
});
