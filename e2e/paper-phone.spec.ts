import { expect, figure, test } from './keel';
import { newJob, paperRead, pdf, photoOf, sheetHtml } from './papers';

test('a maker’s PDF is confirmed with a thumb, its place above the slip', async ({ page, browser }) => {
  const sheet = await pdf(browser, 'sheet.pdf', sheetHtml);
  await newJob(page, 'Paper by thumb');
  await page.getByLabel('Paper to read').setInputFiles(sheet);
  await paperRead(page);
  await page.getByLabel('Whose figures does this paper hold?').selectOption('makerForThisCharger');
  await page.getByRole('button', { name: /^The paper says so, next/ }).tap();
  await expect(page.getByRole('group', { name: 'Absorb voltage' })).toBeInViewport();
  await expect(page.locator('button.here').first()).toBeInViewport();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.getByRole('button', { name: /^The paper says so, next/ }).tap();
  // The keys move with the length of what they belong to: a tap before it is there would miss.
  await expect(page.getByRole('group', { name: 'Float voltage' })).toBeInViewport();
  await page.getByRole('button', { name: /^Not this/ }).tap();
  await expect(page.getByRole('button', { name: /^Float voltage 27.0.*left out/ })).toBeAttached();
  await page.getByRole('button', { name: /^Take the 9 that are sure/ }).tap();
  // What was taken folds away and moves the rest up: a tap before that would miss.
  await expect(page.getByText('Nothing is left to look at.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Current when cold.* taken$/ })).toBeAttached();
  await page.getByRole('link', { name: 'Go on with the sheet' }).tap();
  await expect(figure(page, 'Absorb voltage')).toHaveValue('28.2\u00a0V (28.0–28.4)');
  await expect(figure(page, 'Float voltage')).toHaveValue('');
});

test('a photo of a sheet is read, and what is not clear is looked at before it is taken', { tag: '@long' }, async ({ page, browser }) => {
  const photo = await photoOf(browser, sheetHtml);
  await newJob(page, 'Paper by photo');
  await page.getByLabel('Paper to read').setInputFiles(photo);
  await expect(page.getByRole('status').filter({ hasText: 'Reading its letters' })).toBeVisible();
  await paperRead(page);
  await page.getByLabel('Whose figures does this paper hold?').selectOption('makerForThisCharger');
  await page.getByRole('button', { name: /^Absorb voltage \d/ }).tap();
  await expect(page.locator('button.here').first()).toBeInViewport();
  // A point may be lost on the way: what the paper says is typed.
  await page.getByRole('button', { name: /^Type it/ }).tap();
  await page.getByLabel('Absorb voltage, as the paper prints it').fill('28.2 V (28.0–28.4)');
  await page.getByRole('button', { name: 'Take what I typed' }).tap();
  await expect(page.getByRole('button', { name: /^Absorb voltage 28.2 V \(28.0–28.4\) taken/ })).toBeAttached();
  await page.getByRole('link', { name: 'Leave the paper' }).tap();
  await expect(figure(page, 'Absorb voltage')).toHaveValue('28.2\u00a0V (28.0–28.4)');
});
