import { expect, openDemo, test } from './keel';

/** What was written down on paper before: readings with times of their own, and a charger’s history page. */
test('readings from a notebook and from a history page are entered with their own times', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('article').filter({ hasText: 'From its history page' }).getByRole('button', { name: 'Begin' }).first().click();
  await expect(page.getByRole('heading', { name: 'One line a day' })).toBeVisible();
  const add = async (taken: string, highest: string, minutes: string): Promise<void> => {
    await page.getByLabel('Taken at').fill(taken);
    await page.getByLabel('Highest voltage').fill(highest);
    await page.getByLabel('Minutes in absorb').fill(minutes);
    await page.getByRole('button', { name: 'Add this reading' }).click();
  };
  // A day to come is refused with a sentence, and nothing of what was typed is lost.
  await add('2031-05-02T12:00', '28.1', '55');
  await expect(page.getByRole('alert')).toHaveText(/still to come/);
  await expect(page.getByLabel('Highest voltage')).toHaveValue('28.1');
  await add('2026-05-02T12:00', '28.1', '55');
  await expect(page.getByLabel('Highest voltage')).toHaveValue('');
  await add('2026-05-01T12:00', '28.2', '48');
  await expect(page.getByRole('button', { name: '2 readings are enough' })).toBeVisible();
  // In the order in which they were taken, each with its day.
  await expect(page.locator('.list li .n:first-child')).toHaveText([/^1 May/, /^2 May/]);
  await page.reload();
  await expect(page.locator('.list li .n:first-child')).toHaveText([/^1 May/, /^2 May/]);
  const said = page.getByRole('complementary', { name: 'What it comes to' });
  await expect(said.getByText('Stated').first()).toBeVisible();
  await expect(said.getByText('Proved')).toHaveCount(0);
  await expect(said).toContainText('at least 48');

  // Another test asks for the time only when somebody wants to give one.
  await page.getByRole('button', { name: '2 readings are enough' }).click();
  await page.getByRole('button', { name: 'End the test' }).click();
  await page.getByRole('button', { name: 'Back to the guided tests' }).click();
  await page.getByRole('article').filter({ hasText: 'Absorb, reached and held' }).getByRole('button', { name: 'Begin' }).first().click();
  await page.getByTestId('test-answer').click();
  await expect(page.getByLabel('Taken at')).toHaveCount(0);
  await page.getByRole('button', { name: 'Read earlier: enter when' }).click();
  await expect(page.getByLabel('Taken at')).toBeVisible();
});

test('a history page is brought in as a file, from the day its settings were left, and proves nothing', async ({ page }) => {
  await openDemo(page, 'prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('article').filter({ hasText: 'From its history page' }).getByRole('button', { name: 'Begin' }).first().click();
  const file = page.getByLabel('History file');
  await file.setInputFiles({ name: 'log.csv', mimeType: 'text/csv', buffer: Buffer.from('time,bank_V\n2026-06-14T05:00:00Z,26\n') });
  await expect(page.getByRole('alert')).toContainText('This is no daily history');
  const days = ['2026-05-01,28.2,48', '2026-05-02,28.1,55', '2026-05-03,28.1,61', '2031-05-01,28.1,60', 'never,28,1'];
  await file.setInputFiles({ name: 'days.csv', mimeType: 'text/csv', buffer: Buffer.from(`date,max V,absorb (min)\n${days.join('\n')}\n`) });
  await expect(page.getByText('4 days, 2026-05-01 to 2031-05-01.')).toBeVisible();
  await expect(page.getByText('1 line left out')).toBeVisible();
  // A day to come is left where it is, and what is older than somebody says too.
  await page.getByLabel('Only from').fill('2026-05-02');
  await page.getByRole('button', { name: 'Add 2 days' }).click();
  await expect(page.locator('.list li .n:first-child')).toHaveText([/^2 May/, /^3 May/]);
  await expect(page.getByRole('button', { name: '2 readings are enough' })).toBeVisible();
  const said = page.getByRole('complementary', { name: 'What it comes to' });
  await expect(said).toContainText('at least 55');
  await expect(said.getByText('Proved')).toHaveCount(0);
  // Taken back in one step.
  await page.getByRole('button', { name: /^Undo Bring in 2 readings/ }).click();
  await expect(page.getByRole('button', { name: 'No reading yet' })).toBeVisible();
});
