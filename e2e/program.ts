import { expect, type Page } from '@playwright/test';
import { openDemo } from './keel';

/** The main answer of the step in view. */
export const answer = (page: Page) => page.getByTestId('answer');
/** The title of the step in view. */
export const title = (page: Page) => page.locator('ck-run-step h2');

/** Answers for a stop that keying-in does not mend. */
async function accept(page: Page, text: RegExp): Promise<void> {
  const finding = page.locator('.fd', { hasText: text });
  const head = finding.locator('h3 button');
  if ((await head.getAttribute('aria-expanded')) !== 'true') await head.click();
  await finding.getByRole('button', { name: 'Accept it with a reason' }).click();
  await page.getByLabel('Reason, which goes into the report').fill('The lead is ordered, the engine stays off below 12 °C');
  await page.getByRole('button', { name: 'Accept with this reason' }).click();
  // It no longer stands in the way.
  await expect(page.locator('.gate .fd', { hasText: text })).toHaveCount(0);
}

/** Opens the launch on Program, answers for its two stops, and begins the run sheet. */
export async function beginSheet(page: Page): Promise<void> {
  await openDemo(page, 'program');
  await expect(page.getByRole('button', { name: 'Begin the run sheet' })).toBeDisabled();
  await accept(page, /DC-DC has no working cold protection/);
  await accept(page, /The chargers can deliver/);
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('button', { name: 'Begin the run sheet' }).click();
  await expect(title(page)).toHaveText('The bank can weld a spanner');
}

/** Answers the step in view as somebody does for whom all goes well; returns its title. */
export async function answerWell(page: Page): Promise<string> {
  const here = await title(page).innerText();
  const place = await page.locator('.where').innerText();
  for (const box of await page.locator('ck-run-step .items input').all()) await box.check();
  if (here === 'Read off what it is') await page.getByLabel('Firmware, as its own screen shows it').fill('3.1');
  if (here === 'Compare its display with the meter') {
    await page.getByLabel('Meter, at its battery terminals').fill('26.60');
    await page.getByLabel('Its display, at the same moment').fill(place.includes('Solar fore') ? '26.81' : '26.60');
  }
  if (here === 'Read off what is set on it') {
    await page.getByRole('button', { name: 'Skip this step' }).click();
    await page.getByLabel('Why is it skipped').fill('read off last week');
    await page.getByRole('button', { name: 'Skip with this reason' }).click();
  } else await answer(page).click();
  // The next step is another one, or there is none.
  await expect(page.locator('.where').or(page.getByText('Every step is answered'))).not.toHaveText(place);
  return here;
}

/** Answers steps until one has this title; gives up after a hundred and fifty. */
export async function walkTo(page: Page, wanted: string | RegExp): Promise<void> {
  for (let i = 0; i < 150; i++) {
    const at = (await title(page).count()) > 0 ? await title(page).innerText() : 'end';
    const device = (await page.locator('.where').count()) > 0 ? await page.locator('.where').innerText() : '';
    if (typeof wanted === 'string' ? at === wanted : wanted.test(`${device} | ${at}`)) return;
    if (at === 'end') break;
    await answerWell(page);
  }
  throw new Error(`no step ${String(wanted)}`);
}

/** Presses a key of the simulated devices. */
export async function press(page: Page, action: unknown): Promise<void> {
  const response = await page.request.post('/api/simulation/act', { data: action });
  expect(response.status()).toBe(200);
}
