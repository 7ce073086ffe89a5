import { test } from './keel';
import { writtenOverTheLine } from './serial';

test.use({ line: 'teasel' });

test('a charger on a serial line is written from the phone', { tag: '@long' }, async ({ page }) => {
  await writtenOverTheLine(page, () => page.locator('ck-wire-panel'));
});
