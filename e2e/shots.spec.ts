import { bringLog, expect, openDemo, repo, reportText, test } from './keel';
import { sameDraws } from './practice';
import { begunJob, openJob } from './jobs';
import { press } from './program';
import { manuals } from '../core/src/testing/manuals';
import { newJob, paperRead, pdf, sheetHtml } from './papers';
import { addByPlate } from './survey';

/** Into docs/screenshots, or beside them to be compared. */
const shot = (name: string): string => `${process.env['SHOTS'] ?? repo('docs/screenshots')}/${name}.png`;

test('pictures of every view', async ({ page, browser }) => {
  await openDemo(page);
  await page.screenshot({ path: shot('jobs') });
  for (const station of ['spec', 'system', 'settings', 'prove'] as const) {
    await page.goto(`/job/teasel/${station}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    if (station === 'prove') {
      await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
      await page.getByRole('button', { name: /The cold sensor reads warm/ }).click();
      await page.evaluate(() => {
        scrollTo(0, 0);
        document.querySelector('.sheet')?.scrollTo(0, 0);
      });
      await page.waitForTimeout(500);
    }
    await page.screenshot({ path: shot(station) });
  }
  await page.goto('/job/teasel/rehearse');
  await page.getByLabel('Kind of day').selectOption('motoring');
  await page
    .getByRole('row', { name: /Current for its temperature/ })
    .getByRole('button')
    .click();
  await page.waitForTimeout(1000);
  await page.locator('.sheet').evaluate((sheet) => {
    sheet.scrollTo(0, 0);
  });
  await page.screenshot({ path: shot('rehearse') });
  await page.goto('/job/skarrow/settings');
  await page.getByRole('tab', { name: 'Cold and heat' }).click();
  await page.screenshot({ path: shot('settings-cold') });
  await reportText(page, 'teasel');
  await page.screenshot({ path: shot('hand-over') });
  await page.goto('/');
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel-year.job.json'));
  await expect(page.getByRole('link', { name: 'Survey launch Teasel, a year on' })).toBeVisible();
  await page.goto('/job/teasel-year/hand-over?view=visits');
  await expect(page.getByLabel('Notes')).toBeVisible();
  await page.screenshot({ path: shot('visits') });
  // A paper in a new job, two figures taken.
  await newJob(page, 'Harbour pilot hut');
  await page.getByLabel('Paper to read').setInputFiles(await pdf(browser, 'Haddow charging data.pdf', sheetHtml));
  await paperRead(page);
  await page.getByLabel('Whose figures does this paper hold?').selectOption('makerForThisCharger');
  await page.getByRole('group', { name: 'Battery and paper' }).focus();
  for (const name of ['Battery and paper', 'Absorb voltage']) {
    await expect(page.getByRole('group', { name, exact: true })).toBeVisible();
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('group', { name: 'Float voltage' })).toBeVisible();
  await page.waitForTimeout(300);
  await page.screenshot({ path: shot('paper') });
  await page.goto('/library');
  await page.getByRole('link', { name: /^Tessick D30/ }).click();
  await page.screenshot({ path: shot('library') });
  await sameDraws(page);
  await page.goto('/practice');
  await page.getByRole('button', { name: 'Begin the next exercise' }).click();
  await page.getByRole('button', { name: 'paused' }).click();
  const front = page.getByRole('group', { name: 'Front of Charger east' });
  await page.getByRole('button', { name: 'Write down what it shows' }).click();
  for (const key of ['Enter', 'Down', 'Enter', 'Enter']) await front.getByRole('button', { name: key, exact: true }).click();
  await page.getByRole('button', { name: 'At the bank', exact: true }).click();
  await page.getByLabel('Where is it?').selectOption({ label: 'Charger east' });
  await page.getByRole('button', { name: 'Absorb set too low on Charger east' }).click();
  await page
    .getByRole('group', { name: 'What was measured or read' })
    .getByRole('button', { name: /Top level/ })
    .click();
  await page.screenshot({ path: shot('practice') });

  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })).newPage();
  await phone.goto(page.url().replace(/\/job.*/, '/'));
  await openDemo(phone, 'settings');
  await expect(phone.getByText('1 of 5 devices')).toBeVisible();
  await phone.screenshot({ path: shot('settings-phone') });
  await phone.goto('/job/teasel/spec');
  await expect(phone.getByRole('heading', { name: 'Maker’s sheet' })).toBeVisible();
  await phone.screenshot({ path: shot('spec-phone') });
  await phone.goto('/');
  await phone.getByLabel('Job file').setInputFiles(repo('demo/teasel-year.job.json'));
  await expect(phone.getByRole('link', { name: 'Survey launch Teasel, a year on' })).toBeVisible();
  await phone.goto('/job/teasel-year/hand-over?view=visits');
  await expect(phone.getByLabel('Notes')).toBeVisible();
  await phone.screenshot({ path: shot('hand-over-phone') });
  await phone.goto('/job/teasel/prove');
  await phone.getByRole('link', { name: 'Guided tests' }).click();
  await phone.getByLabel('Initials').fill('KM');
  await phone.getByRole('article').filter({ hasText: 'Low-temperature cutoff' }).getByRole('button', { name: 'Begin' }).nth(1).click();
  await phone.getByLabel('Cell case').fill('1.2');
  await phone.getByLabel('Charger shows').fill('4.0');
  // The browser brings a field it fills into view, in its own time; the picture is of the step from its head.
  const top = phone.getByText('Step 1 of 7', { exact: true });
  await expect(async () => {
    await top.evaluate(() => scrollTo({ top: 0, behavior: 'instant' }));
    await phone.waitForTimeout(500);
    await expect(top).toBeInViewport({ timeout: 1 });
  }).toPass();
  await phone.screenshot({ path: shot('prove-phone') });
  // A charger of one's own, two settings into its survey.
  await phone.goto('/job/teasel/system?add=1');
  await addByPlate(phone, manuals['hoyle']!, { presses: 0, screens: 0 });
  await phone.getByRole('button', { name: /^Survey it/ }).click();
  await phone.getByRole('button', { name: 'Next: how it is set' }).click();
  await phone.getByRole('button', { name: /^One key, lamp or knob/ }).click();
  await phone.getByRole('button', { name: 'Next: its settings' }).click();
  for (const [label, shows] of [
    ['bSt', '14.4'],
    ['FLo', '13.7'],
  ] as const) {
    await phone.getByRole('textbox', { name: 'As the display calls it' }).fill(label);
    await phone.getByRole('textbox', { name: 'It shows' }).fill(shows);
    if (label === 'bSt') await phone.getByRole('button', { name: 'Yes, next setting' }).click();
  }
  await phone.getByLabel('stops above at').fill('13');
  await expect(phone.getByText('It shows 13.7, and then 13.')).toBeVisible();
  await phone.screenshot({ path: shot('survey-phone') });
  await phone.context().close();
});

for (const size of ['desk', 'phone'] as const)
  test(`pictures of the run sheet, ${size}`, async ({ browser }) => {
    const viewport = size === 'desk' ? { width: 1280, height: 800 } : { width: 390, height: 844 };
    const context = await browser.newContext({ viewport, ...(size === 'phone' ? { hasTouch: true, isMobile: true } : {}) });
    const page = await context.newPage();
    await press(page, { do: 'fault', device: 'teasel-fore', fault: 'sourceOff', on: true });
    await press(page, { do: 'pass', seconds: 20 });
    await openJob(page, 'teasel', 'program', await begunJob(/Solar fore.*\| Recharge$/));
    await page.waitForTimeout(1500);
    await page.screenshot({ path: shot(size === 'desk' ? 'program' : 'program-phone') });
    await context.close();
  });
