import { readFileSync } from 'node:fs';
import { expect, goTo, openDemo, repo, saved, test } from './keel';

test('a job received as a file is visited, noted and handed over with a thumb', async ({ page }, info) => {
  await openDemo(page);
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel-year.job.json'));
  await page.getByRole('link', { name: 'Survey launch Teasel, a year on' }).tap();
  await goTo(page, 'Hand over');
  await page.getByRole('tab', { name: 'Visits' }).tap();
  await expect(page.getByRole('region', { name: 'What differs' })).toContainText('27.4 V, not by this book');
  await page.getByLabel('Notes').fill('Looked at with a thumb.');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Notes')).toHaveValue('Looked at with a thumb.');
  const close = page.getByRole('button', { name: 'Close this visit' });
  expect((await close.boundingBox())?.height ?? 0).toBeGreaterThanOrEqual(43.5);
  await close.tap();
  await page.getByRole('tab', { name: 'Report' }).tap();
  await expect(page.getByRole('article', { name: /^Hand-over/ })).toContainText('Looked at');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as PDF' }).tap()]);
  await file.saveAs(info.outputPath('phone.pdf'));
  // The drawings are in it, although the screen is narrow.
  expect(readFileSync(info.outputPath('phone.pdf')).length).toBeGreaterThan(60_000);
});
