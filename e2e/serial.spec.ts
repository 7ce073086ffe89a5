import { test } from './keel';
import { writtenOverTheLine } from './serial';

test.use({ line: 'teasel' });

test('a charger on a serial line is written, read back and proved by a power cut as over the network', async ({ page }) => {
  await writtenOverTheLine(page, () => page.getByRole('complementary', { name: 'Why, and what else' }));
});
