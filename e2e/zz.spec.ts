import { test, expect } from './keel';
test('look', async ({ page }) => {
  await page.goto('/practice');
  await expect(page.getByRole('button', { name: 'Find a fault at The cabin' })).toBeVisible();
  await page.screenshot({ path: '/tmp/p1.png' });
  await page.getByRole('button', { name: 'Find a fault at The cabin' }).click();
  await expect(page.getByRole('group', { name: 'Front of Charger east' })).toBeVisible();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/p2.png' });
  const front = page.getByRole('group', { name: 'Front of Charger east' });
  await page.getByRole('button', { name: 'Write down what it shows' }).click();
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await front.getByRole('button', { name: 'Down', exact: true }).click();
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await page.getByRole('button', { name: 'At the bank' }).click();
  await page.getByRole('button', { name: 'Read the sheet' }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/p3.png', fullPage: true });
  await page.getByRole('button', { name: 'Yesterday’s log' }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/p4.png', fullPage: true });
  await page.getByRole('button', { name: 'End the exercise' }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/p5.png', fullPage: true });
  await page.goto('/practice/book');
  await page.waitForTimeout(700);
  await page.screenshot({ path: '/tmp/p6.png' });
  for (const c of ['murrel-ar-2', 'varrow-p15', 'ostrel-w12']) {
    await page.goto('/practice/front/' + c);
    await page.waitForTimeout(700);
    await page.screenshot({ path: `/tmp/f-${c}.png` });
  }
});
