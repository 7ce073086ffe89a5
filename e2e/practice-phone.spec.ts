import { test } from './keel';
import { newcomer } from './practice';

test('a newcomer works the bench with one thumb', async ({ page }) => {
  await newcomer(page, async () => {
    await page.getByRole('button', { name: 'Hold Enter 3 s' }).click();
  });
});
