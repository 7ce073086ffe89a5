import { expect, figure, focused, goTo, saved, test } from './keel';

test('a charger that nobody has a card for: from its plate to exact settings and a begun run sheet', async ({ page }, info) => {
  let presses = 0;
  const press = async (name: string | RegExp): Promise<void> => {
    presses++;
    await page.getByRole('button', { name }).first().click();
  };
  await page.goto('/');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('Canal boat');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Library', exact: true }).click();
  await page.getByRole('button', { name: 'Pellow LB-25/230, rev D' }).click();

  await goTo(page, 'System');
  await press('Add the first charger');
  await expect.poll(() => focused(page)).toBe('Search maker, model or kind');
  // What is not there is said, with the way on.
  await page.keyboard.type('ostmark');
  await expect(page.getByRole('status').filter({ hasText: 'No card matches “ostmark”' })).toBeVisible();
  await press('Mine is not listed');
  await expect(page.getByRole('button', { name: 'Add this charger' })).toBeDisabled();
  await expect(page.getByText('Still needed: model, what it is, output, battery volts.')).toBeVisible();
  await page.getByLabel('Maker').fill('Ostmark');
  await page.getByLabel('Model').fill('Q40');
  await page.getByRole('combobox', { name: 'What it is' }).selectOption('solarMppt');
  await page.getByLabel('Output').fill('40');
  await page.getByLabel('24 V').check();
  await page.getByLabel('Most volts from the array').fill('100');
  presses += 'Ostmark'.length + 'Q40'.length + 1 + '40'.length + 1 + '100'.length;
  await press('Add this charger');
  presses++;
  await goTo(page, 'Settings');

  // Exact values, with what to do about steps that nobody knows.
  await expect(page.getByRole('button', { name: /^Q40 1: absorb 28\.\d\d V/ })).toBeVisible();
  await page.getByRole('button', { name: /^Q40 1: float 26\.90 V/ }).click();
  await expect(page.getByRole('table', { name: 'How it is worked out' })).toContainText(
    'Its steps are not known: enter this, or the nearest below that it takes',
  );
  info.annotations.push({ type: 'presses from an empty job with a sheet to settings', description: String(presses) });
  expect(presses).toBeLessThan(40);

  // What is not known of it is told once, and what the job assumes is confirmed or entered.
  await goTo(page, 'System');
  await expect(page.getByRole('button', { name: /the card of Q40 does not say its ranges and steps, which settings it has/ })).toBeVisible();
  await page.getByLabel('Batteries in series').fill('1');
  await page.getByRole('combobox', { name: 'BMS in the batteries' }).selectOption('yes');
  await page.getByLabel('Bank, coldest').fill('6');
  await expect(page.getByRole('button', { name: /^Stop: Nobody has entered/ })).toHaveCount(0);
  await saved(page);
  await page.reload();
  await goTo(page, 'Program');
  await expect(page.getByText('No stop is open.')).toBeVisible();
  await page.getByLabel('Initials').fill('NN');
  await page.getByRole('button', { name: 'Begin the run sheet' }).click();
  await expect(page.getByRole('heading', { name: 'The bank can weld a spanner' })).toBeVisible();

  // The card is kept: the next job finds it on the shelf.
  await page.goto('/library');
  await expect(page.getByText('Ostmark Q40').first()).toBeVisible();
});

test('a plate typed by the keyboard alone; what is not enough says what is still needed', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('By keys');
  await page.keyboard.press('Enter');
  await expect(figure(page, 'Absorb voltage')).toBeVisible();
  await goTo(page, 'System');
  await page.getByRole('button', { name: 'Add the first charger' }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Search maker, model or kind');
  await page.keyboard.press('Tab');
  await expect.poll(() => focused(page)).toBe('Mine is not listed');
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Maker');
  for (const text of ['Ostmark', 'D20']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await page.keyboard.type('D');
  await page.keyboard.press('Tab');
  await page.keyboard.type('20');
  // The most its input takes may stay empty.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  await expect(page.getByText('Its ranges, steps and habits stay “not known”.')).toBeVisible();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Tab');
  await expect.poll(() => focused(page)).toBe('Add this charger');
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Name');
  await expect(page.getByRole('complementary', { name: 'Roster' })).toContainText('D20 1');
});
