import { figure, goTo, test } from './keel';

test('zz', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('Relay hut');
  await page.keyboard.press('Enter');
  await page.getByLabel('Chemistry').waitFor();
  await page.screenshot({ path: '/tmp/s1.png' });
  await figure(page, 'Absorb voltage').fill('14.2-14.4');
  await page.keyboard.press('Enter');
  await page.keyboard.type('13.6');
  await page.keyboard.press('Enter');
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/s2.png', fullPage: true });
  await goTo(page, 'System');
  await page.getByRole('button', { name: 'Add a charger or companion' }).click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/s3.png' });
  await page.getByRole('button', { name: 'Varrow P15' }).click();
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/s4.png' });
  await page.setViewportSize({ width: 390, height: 844 });
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/s5.png', fullPage: true });
});
