import type { Page } from '@playwright/test';
import { bringLog, expect, goTo, openDemo, repo, test } from './keel';

const stretch = (page: Page) => page.getByRole('group', { name: 'Stretch of the log in view' }).getByRole('status');
const cold = (page: Page) => page.getByRole('row', { name: /No charge when cold Solar aft/ });

test('a place in a log is an address: another tab opens it, back and a reload come to it, keys move it', async ({ page, context }) => {
  await openDemo(page, 'prove');
  await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
  await expect(cold(page)).toContainText('Fails');
  const whole = await stretch(page).textContent();
  await cold(page)
    .getByRole('button', { name: /^07:37/ })
    .click();
  await expect(stretch(page)).toHaveText('07:11 to 09:07');
  await expect(page.getByTestId('why')).toContainText('Solar aft charged at');
  const address = page.url();
  // What is brought in later is another log: the address stays with this one.
  await bringLog(page, { name: 'later.csv', mimeType: 'text/csv', buffer: Buffer.from('time,bank_V\n2026-06-14T05:00:00Z,26.4\n2026-06-14T05:00:10Z,26.4\n') });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Log of 14 Jun 2026');
  const other = await context.newPage();
  await other.goto(address);
  await expect(stretch(other)).toHaveText('07:11 to 09:07');
  await expect(cold(other).getByRole('button', { name: /No charge when cold/ })).toHaveAttribute('aria-pressed', 'true');
  await other.getByRole('button', { name: 'Later', exact: true }).press('ArrowRight');
  await expect(stretch(other)).toHaveText('08:09 to 10:04');
  await other.getByRole('button', { name: 'Later', exact: true }).press('-');
  await expect(stretch(other)).toHaveText('07:11 to 11:02');
  await other.goBack();
  await other.goBack();
  await expect(stretch(other)).toHaveText('07:11 to 09:07');
  await other.reload();
  await expect(stretch(other)).toHaveText('07:11 to 09:07');
  await other.getByRole('button', { name: 'Show this stretch as a table' }).click();
  await expect(other.getByRole('row', { name: /^07:11:30 26\.20/ })).toBeVisible();
  await other.getByRole('button', { name: 'Whole log' }).click();
  await expect(stretch(other)).toHaveText(whole ?? '');
});

test('device, setting and view come back with the address, and the way back goes through them', async ({ page }) => {
  await openDemo(page, 'settings');
  await page.getByRole('button', { name: /^Solar fore: float/ }).click();
  await expect(page).toHaveURL(/device=fore&setting=floatVoltage/);
  await page.getByRole('tab', { name: 'What differs' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('What differs');
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('What differs');
  await page.goBack();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Setpoint ladder');
  await expect(page.getByRole('button', { name: /^Solar fore: float/ })).toHaveAttribute('aria-pressed', 'true');
  // The device goes along; a test that was begun comes back at the step that was looked at.
  await goTo(page, 'Prove');
  await expect(page).toHaveURL(/prove\?device=fore/);
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('button', { name: 'Begin: Display against the meter, Solar fore' }).click();
  await page.getByRole('list', { name: 'Steps' }).getByRole('button').nth(1).click();
  const step = page.getByRole('heading', { level: 2 }).first();
  const title = await step.textContent();
  await expect(page).toHaveURL(/open=/);
  await page.reload();
  await expect(step).toHaveText(title ?? '');
  await page.goto('/job/teasel/prove/log/nothing');
  await expect(page.getByText('There is no such log in this job.')).toBeVisible();
});

test('by keys alone, the focus stays at the work when the pressed button is gone', async ({ page }) => {
  const held = (): Promise<string> =>
    page.evaluate(() => {
      const at = document.activeElement;
      return at === document.body || at === null ? 'nothing' : (at.getAttribute('aria-label') ?? at.textContent).trim().slice(0, 40);
    });
  await openDemo(page, 'settings');
  await page.getByRole('button', { name: /^Solar aft: absorb/ }).press('ArrowUp');
  await page.getByLabel('Reason for keeping it').fill('owner asks');
  await page.getByRole('button', { name: 'Keep as override' }).press('Enter');
  await expect(page.getByRole('table', { name: 'How it is worked out' })).toContainText('owner asks');
  expect(await held()).not.toBe('nothing');
  await page.getByRole('button', { name: 'Accept it with a reason' }).first().press('Enter');
  await page.getByLabel('Reason, which goes into the report').fill('seen');
  await page.getByRole('button', { name: 'Accept with this reason' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Accept with this reason' })).toHaveCount(0);
  expect(await held()).not.toBe('nothing');
  await goTo(page, 'Prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('button', { name: 'Begin: Display against the meter, Solar aft' }).press('Enter');
  await expect(page.getByRole('heading', { name: 'Display against the meter' })).toBeVisible();
  expect(await held()).not.toBe('nothing');
});

test('the chosen moment of a rehearsal comes back with its address', async ({ page, context }) => {
  await openDemo(page, 'rehearse');
  const plot = page.getByRole('slider', { name: 'Moment of the rehearsed day' });
  // All of the day is worked out: nothing of it changes any more.
  await expect(page.getByRole('row', { name: /Never above the maximum/ })).toBeVisible();
  // Seconds into the day, as the drawing has them, and as the address does once the moment rests.
  const drawn = async (): Promise<number> => Number(await plot.getAttribute('aria-valuenow')) - Number(await plot.getAttribute('aria-valuemin'));
  const inAddress = (): number => {
    const [h = NaN, m = NaN, s = 0] = (new URL(page.url()).searchParams.get('at') ?? '').split(':').map(Number);
    return h * 3600 + m * 60 + s;
  };
  await plot.press('Home');
  await expect.poll(drawn).toBe(0);
  await plot.press('ArrowRight');
  await expect.poll(drawn).toBeGreaterThan(0);
  const one = await drawn();
  await plot.press('ArrowRight');
  await expect.poll(drawn).toBeCloseTo(2 * one, 3);
  await expect.poll(() => Math.abs(inAddress() - 2 * one) < 1).toBe(true);
  const said = await plot.getAttribute('aria-valuetext');
  await page.reload();
  await expect(plot).toHaveAttribute('aria-valuetext', said ?? '');
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('slider', { name: 'Moment of the rehearsed day' })).toHaveAttribute('aria-valuetext', said ?? '');
});
