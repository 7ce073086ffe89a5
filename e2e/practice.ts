import type { Page } from '@playwright/test';
import { expect } from './keel';

/** Makes every draw the same: absorb set too low on one of two chargers; once float was said wrongly, float is next. */
export async function sameDraws(page: Page): Promise<void> {
  await page.addInitScript(() => {
    Math.random = () => 0.2393;
  });
}

/** Shows one of the three parts of the bench, where only one is shown. */
async function part(page: Page, name: 'Story' | 'Bench' | 'What is it?'): Promise<void> {
  const button = page.getByRole('group', { name: 'Part of the bench' }).getByRole('button', { name });
  if (await button.isVisible()) await button.click();
}

/** Stops the clock and waits until everything done is written down. */
export async function pause(page: Page): Promise<void> {
  await part(page, 'Story');
  await page.getByRole('button', { name: 'paused' }).click();
  await expect(page.getByText('saved on this device')).toBeVisible();
}

/** Says what it is, by everything that was done. */
async function say(page: Page, where: string, cause: string): Promise<void> {
  await part(page, 'What is it?');
  await page.getByLabel('Where is it?').selectOption({ label: where });
  const may = page.getByRole('group', { name: 'What it may be' });
  if (await may.getByRole('button', { name: 'Something else…' }).isVisible()) await may.getByRole('button', { name: 'Something else…' }).click();
  await may.getByRole('button', { name: cause }).click();
  const lines = page.getByRole('group', { name: 'What was measured or read' }).getByRole('button', { name: /: / });
  for (const line of await lines.all()) if ((await line.getAttribute('aria-pressed')) === 'false') await line.click();
  await page.getByRole('button', { name: 'Say so, then put it right' }).click();
}

/**
 * Somebody who has never been here: opens the bench, reads and measures, is wrong once, takes a hint, is right, puts it right by the keys,
 * reads what it was, and meets the mistake again.
 */
export async function newcomer(page: Page, hold: (page: Page) => Promise<void>): Promise<void> {
  await sameDraws(page);
  await page.goto('/');
  await page.getByRole('link', { name: 'Practise' }).click();
  await expect(page.getByText('Nothing practised yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Begin the next exercise' }).click();
  await expect(page.getByText('The owner says: “It takes longer to fill than it used to.”')).toBeVisible();

  // The sheet, and the value on the device.
  await page.getByRole('button', { name: 'Read the sheet' }).click();
  await expect(page.getByRole('row', { name: /Top level/ })).toContainText('28.2');
  const front = page.getByRole('group', { name: 'Front of Charger east' });
  const display = front.getByRole('status');
  await page.getByRole('group', { name: 'Device' }).getByRole('button', { name: 'Charger east' }).click();
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await expect(display).toContainText('Bank');
  await front.getByRole('button', { name: 'Down', exact: true }).click();
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await expect(display).toContainText('Levels › Top level');
  await expect(display).toContainText('27.2');

  // A page that is loaded anew is where it was.
  await page.getByRole('button', { name: 'At the bank', exact: true }).click();
  await expect(page.getByText(/^Meter, bank \+ to bank −: 2\d\.\d\d/).first()).toBeAttached();
  await pause(page);
  await page.reload();
  await part(page, 'Story');
  await expect(page.getByRole('region', { name: 'Story' }).getByText('Charger east: Top level 27.2')).toBeVisible();

  // Wrong, a hint, right.
  await say(page, 'Charger east', 'Float set too high on Charger east');
  await expect(page.getByRole('complementary').getByText('Not so.')).toBeVisible();
  await page.getByRole('button', { name: 'A hint' }).click();
  await expect(page.getByText('Look at Charger east.')).toBeVisible();
  await say(page, 'Charger east', 'Absorb set too low on Charger east');
  await expect(page.getByRole('complementary').getByText('So it is. Now put it right.')).toBeVisible();

  // The remedy, by keys. The front may have gone home by itself meanwhile.
  await part(page, 'Bench');
  await page.getByRole('group', { name: 'Device' }).getByRole('button', { name: 'Charger east' }).click();
  const home = front.getByText('Left alone for 60 s it discards an edit and goes home.');
  if (await home.isVisible()) {
    await front.getByRole('button', { name: 'Enter', exact: true }).click();
    await front.getByRole('button', { name: 'Down', exact: true }).click();
    await front.getByRole('button', { name: 'Enter', exact: true }).click();
  }
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  for (let i = 0; i < 10; i++) await front.getByRole('button', { name: 'Up', exact: true }).click();
  await expect(display).toContainText('28.2');
  await hold(page);
  await expect(front.getByText('Saved.')).toBeVisible();

  // What it was, step by step.
  await part(page, 'What is it?');
  await page.getByRole('button', { name: 'End the exercise' }).click();
  await expect(page.getByText('Found, shown and put right.')).toBeVisible();
  await expect(page.getByText(/1 hint, 1 wrong answer/)).toBeVisible();
  await expect(page.getByText(/Top level was found at 27\.2.V\. It should be 28\.2.V\./)).toBeVisible();
  await expect(page.getByText(/Read Top level on Charger east: you did at 10:0\d/)).toBeVisible();

  // The mistake comes again.
  await page.getByRole('button', { name: 'Begin the next exercise' }).click();
  await expect(page.getByText('The owner says: “The batteries are warm every evening.”')).toBeVisible();
  await page.goto('/practice/book');
  await expect(page.getByRole('table', { name: 'Kinds of faults met' }).getByRole('row', { name: /Float set too high/ })).toContainText('1');
  await expect(page.getByRole('table', { name: 'Exercises' }).getByRole('row', { name: /The cabin/ })).toContainText('solved');
}
