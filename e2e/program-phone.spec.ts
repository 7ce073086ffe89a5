import { expect, saved, test } from './keel';
import { begunJob, openJob } from './jobs';
import { answer, answerWell, title, walkTo } from './program';

test('the launch is programmed by hand on the phone: a reload in the middle, a wrong read-back, a power cut', { tag: '@long' }, async ({ page }) => {
  await openJob(page, 'teasel', 'program', await begunJob(/Solar aft.*\| Float$/));
  await expect(page.getByTestId('to-set')).toHaveText(/26\s*\.\s*9\s*V/);
  // Answers lie within the thumb’s reach, and are large.
  const box = await answer(page).boundingBox();
  expect(box!.height).toBeGreaterThanOrEqual(64);
  expect(box!.y).toBeGreaterThan(500);
  const huge = await page.getByTestId('to-set').boundingBox();
  expect(huge!.y + huge!.height).toBeLessThan(box!.y);

  // A call comes in, the page is gone, and is at the same step when it comes back.
  await saved(page);
  await page.reload();
  await expect(title(page)).toHaveText('Float');
  await expect(page.getByText('sources stay off until steps')).toBeVisible();

  // It reads what stood before.
  await page.getByRole('button', { name: 'Reads something else' }).click();
  await page.getByLabel('What does it show instead').fill('27,6');
  await expect(page.locator('ck-odd-reading').getByText('the edit was not saved')).toBeVisible();
  await expect(page.locator('ck-odd-reading').getByText('0.50 V above its band')).toBeVisible();
  await page.getByRole('button', { name: 'Set it again' }).click();
  await expect(page.getByTestId('to-set')).toBeVisible();
  await answer(page).click();
  await expect(title(page)).toHaveText('Equalise voltage');

  // Undo brings the step back, and it is answered again.
  await page.getByRole('button', { name: /^Undo step/ }).click();
  await expect(title(page)).toHaveText('Float');
  await answer(page).click();

  // After the power cut one value has gone back: its edit, the save and the proof stand open again.
  await walkTo(page, /Solar aft.*\| Cut its power and read again$/);
  await page.getByLabel('Hold level, as shown').fill('27.6');
  await page.getByRole('button', { name: 'Record 1 that reads otherwise' }).click();
  await expect(title(page)).toHaveText('Float');
  await expect(page.getByText('After the power cut: Hold level reads 27.6 V instead of 26.9 V').first()).toBeVisible();
  await answerWell(page);
  await expect(title(page)).toHaveText('Save');
  await answerWell(page);
  await expect(title(page)).toHaveText('Cut its power and read again');
});

test('the last step ends the run sheet, and the record says how each value was verified', { tag: '@long' }, async ({ page }) => {
  await openJob(page, 'teasel', 'program', await begunJob('Leave it as it should run'));
  await answerWell(page);
  await expect(page.getByText('Every step is answered')).toBeVisible();
  await page.getByRole('button', { name: 'End the run sheet' }).click();
  await expect(page.getByText(/Last run sheet ended .* by KM/)).toBeVisible();
  await page.getByRole('group', { name: 'Device' }).getByRole('button', { name: 'Solar aft' }).click();
  await page.getByRole('tab', { name: 'Record', exact: true }).click();
  await expect(page.getByText('read back after a power cut, by KM')).toBeVisible();
  await page.getByRole('tab', { name: 'Every setting' }).click();
  await expect(page.getByText('read back').first()).toBeVisible();
});

test('to stop and make safe, whose button is far below, brings the ways out into view', async ({ page }) => {
  await openJob(page, 'teasel', 'program', await begunJob(/Solar aft \| Float/));
  const ways = page.getByRole('group', { name: 'Stop here, make safe' });
  await page.getByRole('button', { name: 'Stop here, make safe' }).click();
  await expect(ways.getByRole('button', { name: /^Put back as found/ })).toBeInViewport();
  await ways.getByRole('button', { name: 'Go on', exact: true }).click();
  await expect(ways).toHaveCount(0);
});
