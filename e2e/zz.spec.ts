import { expect, goTo, openDemo, test } from './keel';
import { openJob } from './jobs';
test('look', async ({ page }) => {
  test.setTimeout(300000);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/');
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/s-empty.png' });
  for (const job of ['skarrow', 'tumbler'] as const) {
    await openJob(page, job, 'settings');
    await page.waitForTimeout(800);
    await page.screenshot({ path: `/tmp/s-ladder-${job}.png` });
  }
  await page.getByRole('group', { name: 'View of the settings' }).getByRole('button').nth(1).click();
  await page.waitForTimeout(300);
});
