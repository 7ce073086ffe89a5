import { expect, openDemo, saved, test } from './keel';

test('the chill test with a thumb: expected beforehand, left and resumed, fitted, put back', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await expect(page.getByRole('button', { name: 'Begin' }).first()).toBeDisabled();
  await page.getByLabel('Initials').fill('KM');
  const chill = page.getByRole('article').filter({ hasText: 'Chill the sensor, watch the voltage' });
  await chill.getByRole('button', { name: 'Begin' }).nth(1).click();
  await expect(page.getByText('Highest voltage this pushes the bank to')).toBeVisible();
  await page.getByTestId('test-answer').click();
  await page.getByLabel('Battery case').fill('');
  await page.getByTestId('test-answer').click();
  await expect(page.getByText('Battery case: nothing entered yet.')).toBeVisible();
  await page.getByLabel('Battery case').fill('59 °F');
  await page.getByTestId('test-answer').click();
  await page.getByLabel('Voltage at the battery').fill('28,1');
  await page.getByLabel('Its current').fill('12');
  await page.getByTestId('test-answer').click();
  await expect(page.getByRole('heading', { name: 'Chill, and read as it moves' })).toBeVisible();
  await saved(page);
  // Left in the middle, and found again at the same step.
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Chill, and read as it moves' })).toBeVisible();
  for (const [c, v] of [
    ['20', '28.10'],
    ['17', '28.11'],
    ['14', '28.10'],
    ['11', '28.10'],
    ['9', '28.11'],
    ['12', '28.10'],
    ['16', '28.10'],
  ] as const) {
    await page.getByLabel('Sensor').fill(c);
    await page.getByLabel('Battery', { exact: true }).fill(v);
    await page.getByRole('button', { name: 'Add this reading' }).click();
    await expect(page.getByLabel('Sensor')).toHaveValue('');
  }
  await page.getByRole('button', { name: '7 readings are enough' }).click();
  await expect(page.getByRole('heading', { name: 'Put back what was taken off' })).toBeVisible();
  await expect(page.getByText('Sensor back on the battery case')).toBeVisible();
  await page.getByTestId('test-answer').click();
  await page.getByRole('button', { name: 'End the test' }).click();
  await expect(page.getByText('No compensation', { exact: true })).toBeVisible();
  await expect(page.getByText('Proved').first()).toBeVisible();
  await page.getByRole('button', { name: 'Prove', exact: true }).first().click();
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await expect(chill.getByRole('button', { name: /Proved/ })).toBeVisible();
});

test('a step begins at its head, where the caution stands, however far down the last one was read', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('article').filter({ hasText: 'Low-temperature cutoff' }).getByRole('button', { name: 'Begin' }).nth(1).click();
  const leave = page.getByRole('button', { name: 'Leave it out' });
  await leave.focus();
  await page.evaluate(() => scrollTo(0, document.body.scrollHeight));
  await expect(page.getByText(/^Step 1 of \d+$/)).not.toBeInViewport();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Never open the output of a turning alternator')).toBeInViewport();
  await expect(page.getByText(/^Step 2 of \d+$/)).toBeInViewport();
});
