import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { bringLog, expect, goTo, more, openDemo, repo, test } from './keel';
import { begunJob, openJob } from './jobs';
import { sameDraws } from './practice';

/** What the page in view has that keeps somebody out, great and small, with the places; targets under 24 px too. */
async function faults(page: Page): Promise<string[]> {
  // A page that is still on its way has neither.
  await expect(page.locator('main')).toBeVisible();
  await expect(page.locator('h1').first()).toBeAttached();
  const { violations } = await new AxeBuilder({ page })
    // In the page itself: the same findings in a third of the time, where no page of another origin is framed.
    .setLegacyMode(true)
    .options({ resultTypes: ['violations'], rules: { 'target-size': { enabled: true } } })
    .analyze();
  const places = (v: (typeof violations)[number]): string =>
    v.nodes
      .map((n) => n.target.join(' '))
      .slice(0, 3)
      .join(' | ');
  return violations.map((v) => `${page.url()}: ${v.id}: ${places(v)}`);
}

test('no accessibility fault on the jobs, the library and a card of one’s own', async ({ page }) => {
  await openDemo(page);
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'What the words mean' }).click();
  await expect(page.getByRole('dialog', { name: 'What the words mean' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.goto('/library');
  await page.getByRole('link', { name: /^Tessick D30/ }).click();
  await page.getByRole('button', { name: 'Make a copy of my own' }).click();
  await page.getByRole('button', { name: /^Absorb Output/ }).click();
  await expect(page.getByLabel('Lower end')).toBeVisible();
  await page.getByRole('button', { name: /^Absorb begins/ }).click();
  await page.getByRole('button', { name: 'Change the plate' }).click();
  expect(await faults(page)).toEqual([]);
});

test('no accessibility fault on any station', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'spec');
  for (const station of ['Spec', 'System', 'Settings', 'Rehearse', 'Program', 'Prove', 'Hand over']) {
    await goTo(page, station);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    if (station === 'Prove') await expect(page.locator('[data-drawn=true]')).toBeVisible();
    if (station === 'Rehearse') await expect(page.getByRole('row', { name: /Never above the maximum/ })).toBeVisible();
    expect(await faults(page)).toEqual([]);
  }
});

test('no accessibility fault on any screen of a survey', { tag: '@long' }, async ({ page }) => {
  await page.goto('/library');
  await page.getByRole('link', { name: /^Tessick D30/ }).click();
  await page.getByRole('button', { name: 'Make a copy of my own' }).click();
  await page.getByRole('button', { name: 'Survey it' }).click();
  for (const part of ['Plate', 'How it is set', 'Its settings', 'What it does by itself', 'What moves with what', 'Result']) {
    await page.getByRole('button', { name: 'List', exact: true }).click();
    if (part === 'Plate') expect(await faults(page)).toEqual([]);
    await page.getByRole('button', { name: part, exact: true }).click();
    await expect(page.getByRole('heading', { level: 1 })).toBeAttached();
    expect(await faults(page)).toEqual([]);
  }
});

test('no accessibility fault on any view of the settings', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.goto('/job/tumbler/settings');
  for (const view of ['Cold and heat', 'Table', 'What differs', 'Relay']) {
    await page.getByRole('tab', { name: view, exact: true }).click();
    const choices = page.getByRole('button', { name: 'Weigh the choices on this job' });
    if (await choices.isVisible()) {
      await choices.click();
      await expect(page.getByText(/more choices? changes? nothing on this job/)).toBeVisible();
    }
    expect(await faults(page)).toEqual([]);
  }
});

test('no accessibility fault on the run sheet, its list, its paper lines and the simulated devices', { tag: '@long' }, async ({ page }) => {
  await openJob(page, 'teasel', 'program', await begunJob(/Solar aft.*\| Absorb time$/));
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Reads something else' }).click();
  await page.getByLabel('What does it show instead').fill('60');
  expect(await faults(page)).toEqual([]);
  for (const view of ['Whole device', 'All steps', 'From paper']) {
    await page.getByRole('button', { name: view }).click();
    expect(await faults(page)).toEqual([]);
  }
  await page.goto('/simulation');
  await expect(page.getByRole('heading', { name: 'Simulated devices' })).toBeVisible();
  await page.getByRole('button', { name: 'Faults' }).first().click();
  expect(await faults(page)).toEqual([]);
});

test('no accessibility fault where a log comes before its job: the chargers in it, and what it shows by itself', { tag: '@long' }, async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Choose a log' })).toBeVisible();
  await page.getByLabel('Log to judge').setInputFiles(repo('demo/logs/rook-moss-nine-days.csv'));
  await expect(page.getByRole('group', { name: 'Mast' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('group', { name: 'Mast' }).getByLabel('What it is').selectOption('solarPwm');
  await page.getByRole('group', { name: 'Mast' }).getByLabel('Rated output').fill('20');
  await page.getByRole('button', { name: 'Read it so' }).click();
  await expect(page.getByRole('table', { name: 'Numbers of this log' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

test('no accessibility fault on the mapping view, guided tests, one of them, and at a glance', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await expect(page.locator('[data-drawn=true]')).toBeVisible();
  await bringLog(page, { name: 'other.csv', mimeType: 'text/csv', buffer: Buffer.from('Zeit;Bus (mV);Lader (A)\n1781400000;26500;3\n1781400010;26510;3\n') });
  await expect(page.getByRole('heading', { name: 'What the columns mean' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await page.getByRole('link', { name: 'At a glance' }).click();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  expect(await faults(page)).toEqual([]);
  // What a log leaves open comes first once it is judged: a test is begun by its name, not by its place.
  const display = page.getByRole('article').filter({ hasText: 'Display against the meter' });
  await display.getByRole('button', { name: 'Begin' }).first().click();
  await expect(page.getByRole('heading', { name: 'Display against the meter' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

test('no accessibility fault on visits, the owner’s card, labels, files, the panels of the book, and a label compared', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel.job.json'));
  await expect(page.getByRole('button', { name: 'Merge them' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await more(page, 'Tumbler mobile stage', /Take a sister/);
  await page.getByLabel('Sister site', { exact: true }).selectOption({ label: 'Survey launch Teasel' });
  await page.getByRole('button', { name: 'Check the book' }).click();
  await expect(page.getByText('Everything in the book holds together.')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel-year.job.json'));
  await expect(page.getByRole('link', { name: 'Survey launch Teasel, a year on' })).toBeVisible();
  for (const view of ['visits', 'card', 'labels', 'files']) {
    await page.goto(`/job/teasel-year/hand-over?view=${view}`);
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
    expect(await faults(page)).toEqual([]);
  }
  await page.goto('/label');
  await page.getByLabel(/The text of the label/).fill('nothing of the kind');
  await expect(page.getByRole('alert')).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

test('no accessibility fault on the practice bench, at work, judged, and in its book; it fits a small phone', { tag: '@long' }, async ({ page }) => {
  await sameDraws(page);
  for (const view of ['/practice', '/practice/front/murrel-ar-2', '/practice/book']) {
    await page.goto(view);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    expect(await faults(page)).toEqual([]);
  }
  await page.goto('/practice');
  await page.getByRole('button', { name: 'Begin the next exercise' }).click();
  await page.getByRole('button', { name: 'paused' }).click();
  await page.getByRole('button', { name: 'At the bank', exact: true }).click();
  for (const tool of ['Clamp', 'Look', 'Hands']) {
    await page.getByRole('tab', { name: tool }).click();
    expect(await faults(page)).toEqual([]);
  }
  for (const paper of ['Read the sheet', 'Yesterday’s log']) {
    await page.getByRole('button', { name: paper }).click();
    expect(await faults(page)).toEqual([]);
  }
  await page.setViewportSize({ width: 320, height: 800 });
  for (const part of ['Story', 'Bench', 'What is it?']) {
    await page.getByRole('group', { name: 'Part of the bench' }).getByRole('button', { name: part }).click();
    expect(await faults(page)).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(320);
  }
  await page.getByRole('button', { name: 'End the exercise' }).click();
  await expect(page.getByText('Not found.')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.goto('/practice/book');
  await expect(page.getByRole('table', { name: 'Exercises' })).toBeVisible();
  expect(await faults(page)).toEqual([]);
});

/** Every view of a job, by its address. */
const views = [
  ...['/', '/library', '/simulation', '/label', '/practice', '/practice/front/murrel-ar-2', '/practice/book'],
  ...['spec', 'system', 'system?device=fore', 'rehearse', 'program', 'prove', 'prove/tests', 'prove/glance'].map((v) => `/job/teasel/${v}`),
  ...['settings', 'settings?view=temperature', 'settings?view=table', 'settings?view=differences'].map((v) => `/job/teasel/${v}`),
  ...['hand-over', 'hand-over?view=card', 'hand-over?view=labels', 'hand-over?view=files', 'hand-over?view=visits'].map((v) => `/job/teasel/${v}`),
  ...['settings', 'settings?view=relay'].map((v) => `/job/tumbler/${v}`),
  '/job/rook-moss/prove',
  '/practice/sheet/teasel/fore',
];
/** Views that have to be moved sideways as a whole, and how wide they are. */
async function tooWide(page: Page, textPx: number): Promise<string[]> {
  const wide: string[] = [];
  for (const view of views) {
    await page.goto(view);
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached();
    // Whatever waits for the job, a worker or a fetched part is there when no word of it is left.
    await page.addStyleTag({ content: `:root { font-size: ${textPx}px }` });
    await expect(page.getByText(/^(Judging this log|Reading|Opening)/)).toHaveCount(0);
    const [room, width] = await page.evaluate(() => [document.documentElement.clientWidth, document.documentElement.scrollWidth] as const);
    if (width > room) wide.push(`${view}: ${width} of ${room}`);
  }
  return wide;
}

test('every view fits 320 px', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.setViewportSize({ width: 320, height: 800 });
  expect(await tooWide(page, 16)).toEqual([]);
});

test('every view fits 390 px with text twice the size', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await tooWide(page, 32)).toEqual([]);
});

test('in the reader’s own dark colours drawings stay on their own light ground, and what moves has an edge', async ({ page }) => {
  await page.emulateMedia({ forcedColors: 'active', colorScheme: 'dark' });
  await openDemo(page);
  const ground = (selector: string): Promise<string> =>
    page
      .locator(selector)
      .first()
      .evaluate((e) => getComputedStyle(e).backgroundColor);
  const light = 'rgb(253, 252, 249)';
  await page.goto('/job/teasel/settings');
  await expect(page.getByRole('button', { name: /^Solar fore: absorb/ })).toBeVisible();
  expect(await ground('ck-ladder svg')).toBe(light);
  expect(
    await page
      .locator('ck-keel-line path')
      .first()
      .evaluate((e) => getComputedStyle(e).fill),
  ).not.toBe('rgb(29, 42, 53)');
  await page.goto('/job/teasel/prove');
  await expect(page.locator('[data-drawn=true]')).toBeVisible();
  expect(await ground('ck-log-picture svg')).toBe(light);
  await page.locator('.picture').hover();
  await expect(page.locator('.plot .main-svg').first()).toBeVisible();
  expect(await ground('.plot')).toBe(light);
  // The layers of the plot lie over each other: the upper ones hide nothing.
  expect(
    await page
      .locator('.plot .main-svg')
      .nth(1)
      .evaluate((e) => getComputedStyle(e).backgroundColor),
  ).toBe('rgba(0, 0, 0, 0)');
  await page.goto('/job/teasel/rehearse');
  await expect(page.getByRole('row', { name: /Never above the maximum/ })).toBeVisible();
  expect(await ground('ck-day-plot svg')).toBe(light);
});

test('the server answers health and sends the policy', async ({ request }) => {
  expect(await (await request.get('/health')).json()).toEqual({ ok: true });
  expect((await request.get('/')).headers()['content-security-policy']).toContain("script-src 'self'");
});
