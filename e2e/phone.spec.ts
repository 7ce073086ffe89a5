import { bringLog, expect, goTo, openDemo, repo, test } from './keel';
import { openLaunch } from './jobs';

const stations = ['spec', 'system', 'settings', 'rehearse', 'program', 'prove', 'hand-over', 'hand-over?view=visits', 'hand-over?view=labels'] as const;

test('nothing needs sideways scrolling, and what is pressed is at least 44 px high', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  const width = () => page.evaluate(() => document.documentElement.scrollWidth);
  expect(await width()).toBeLessThanOrEqual(390);
  for (const station of stations) {
    await page.goto(`/job/teasel/${station}`);
    await expect(page.locator('.sheet h1, .pager b').first()).toBeAttached();
    if (station === 'prove') await expect(page.locator('[data-drawn=true]')).toBeVisible();
    if (station === 'rehearse') await expect(page.getByRole('row', { name: /Never above the maximum/ })).toBeVisible();
    expect(await width()).toBeLessThanOrEqual(390);
    for (const button of await page.locator('.ghost:visible, .press:visible, [role=tab]:visible').all())
      expect((await button.boundingBox())?.height ?? 0).toBeGreaterThanOrEqual(43.5);
  }
});

test('one charger at a time on the ladder, and the sum below it', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'settings');
  await expect(page.getByText('1 of 5 devices')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Solar aft: absorb/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Next device' }).click();
  await expect(page.getByText('2 of 5 devices')).toBeVisible();
  await page.getByRole('button', { name: /^Solar aft: float 26\.90/ }).tap();
  await expect(page.getByRole('heading', { name: 'Solar aft, float' })).toBeVisible();
  await page.getByRole('button', { name: 'Roster' }).click();
  await page.getByRole('button', { name: /^Solar fore Varrow/ }).click();
  await expect(page.getByText('1 of 5 devices')).toBeVisible();
});

test('a log is brought in and judged on the phone too', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'settings');
  await goTo(page, 'Prove');
  await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
  await page.getByRole('button', { name: /No charge when cold Solar aft/ }).tap();
  await expect(page.getByTestId('why')).toContainText('Solar aft charged at −1.6 °C');
});

test('what is chosen is brought into view: figure, value, verdict', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'spec');
  await page.getByRole('rowheader', { name: 'Float voltage' }).tap();
  await expect(page.getByRole('heading', { name: 'Float voltage' })).toBeInViewport();
  await goTo(page, 'Settings');
  await page.getByRole('button', { name: /^Solar fore: recharge/ }).tap();
  await expect(page.getByRole('heading', { name: 'Solar fore, recharge' })).toBeInViewport();
  await goTo(page, 'Prove');
  await page.getByRole('button', { name: /Float level Solar aft/ }).tap();
  await expect(page.getByTestId('why')).toBeInViewport();
});

test('a day is rehearsed with a thumb: handles, moments, verdicts', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'rehearse');
  const plot = page.getByRole('slider', { name: 'Moment of the rehearsed day' });
  await expect(plot).toBeVisible();
  await page.getByLabel('Kind of day').selectOption('freezing-dawn');
  await expect(page.getByRole('row', { name: /No charge when cold/ })).toContainText(/Holds.*Breaks/s);
  const before = await page.getByTestId('moment').innerText();
  const box = (await plot.boundingBox())!;
  await page.touchscreen.tap(box.x + box.width * 0.85, box.y + 60);
  await expect(page.getByTestId('moment')).not.toHaveText(before);
  expect((await page.getByRole('slider', { name: /Cold/ }).boundingBox())?.height ?? 0).toBeGreaterThanOrEqual(43.5);
  await page.getByRole('button', { name: 'No charge when cold' }).tap();
  await expect(page.getByRole('heading', { name: 'No charge when cold' })).toBeInViewport();
  await expect(page.getByText(/Solar aft charged cells of −/)).toBeVisible();
});
