import { networkInterfaces } from 'node:os';
import { devices } from '@playwright/test';
import { expect, saved, test } from './keel';
import { ownServer } from './servers';

const outside = Object.values(networkInterfaces())
  .flat()
  .find((i) => i?.family === 'IPv4' && !i.internal)?.address;

test('a phone pairs by its code, takes the job, works on it, and hands it back to be merged', { tag: '@long' }, async ({ browser }) => {
  test.skip(outside === undefined, 'this machine has no network for a second device');
  const server = await ownServer({ LAN: '1' });
  await expect.poll(() => server.output()).toContain('Pairing code');
  const code = /Pairing code: (\d{3}) (\d{3})/.exec(server.output())?.slice(1).join('') ?? '';
  const address = /For the phone: (https:\S+)\/pair/.exec(server.output())?.[1] ?? '';

  const laptop = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await laptop.goto(server.base);
  await laptop.getByRole('button', { name: 'Open the demo' }).first().click();
  await expect(laptop.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();
  const hand = async (page: typeof laptop): Promise<void> => {
    await page.getByRole('button', { name: 'More for Survey launch Teasel' }).click();
    await page.getByRole('button', { name: /Hand to the other device/ }).click();
    await expect(page.getByText('waits for the other device')).toBeVisible();
  };
  await hand(laptop);

  const { defaultBrowserType: _browser, ...galaxy } = devices['Galaxy S9+'];
  const phone = await (await browser.newContext({ ...galaxy, ignoreHTTPSErrors: true })).newPage();
  // Unpaired it has the bare application, and neither jobs nor devices.
  await phone.goto(address);
  await expect(phone.getByText('No job on this device yet.')).toBeVisible();
  expect(await phone.evaluate(async () => [(await fetch('/api/link/devices')).status, (await fetch('/api/exchange')).status])).toEqual([403, 403]);
  await phone.goto(`${address}/pair#000000`);
  await phone.getByRole('button', { name: 'Pair', exact: true }).tap();
  await expect(phone.getByRole('alert')).toContainText('This is not the code');
  await phone.getByLabel('Pairing code').fill(code);
  await phone.getByRole('button', { name: 'Pair', exact: true }).tap();
  await phone.getByRole('button', { name: 'Take it in' }).tap();
  await expect(phone.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();

  // Both work on it.
  await phone.goto(`${address}/job/teasel/hand-over?view=visits`);
  await phone.getByRole('button', { name: 'Begin a visit today' }).tap();
  await phone.getByLabel('Notes').fill('Fuse holder of the aft charger was warm.');
  await saved(phone);
  await laptop.goto(`${server.base}/job/teasel/hand-over?view=visits`);
  await laptop.getByLabel('Evidence is taken again after').fill('6');
  await laptop.keyboard.press('Enter');
  await saved(laptop);

  await phone.goto(address);
  await hand(phone);
  await laptop.goto(server.base);
  await laptop.getByRole('button', { name: 'Take it in' }).click();
  await expect(laptop.getByText('Both come from one copy')).toContainText('Nothing was changed in both.');
  await laptop.getByRole('button', { name: 'Merge them' }).click();
  await expect(laptop.getByText('was merged with the copy from the paired device')).toBeVisible();
  await laptop.goto(`${server.base}/job/teasel/hand-over?view=visits`);
  await expect(laptop.getByLabel('Notes')).toHaveValue('Fuse holder of the aft charger was warm.');
  await expect(laptop.getByLabel('Evidence is taken again after')).toHaveValue('6');
  await phone.context().close();
  await laptop.context().close();
  await server.stop();
});
