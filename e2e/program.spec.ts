import type { Page } from '@playwright/test';
import { expect, goTo, saved, test } from './keel';
import { begunJob, openJob } from './jobs';
import { answer, answerWell, beginSheet, press, title, walkTo } from './program';

// The simulated devices are one and the same for all of these.
test.describe.configure({ mode: 'default' });
test.beforeEach(async ({ page }) => {
  await press(page, { do: 'reset' });
  // A page that was cut off by its end could not give the devices back: nobody else writes until they are free again.
  await expect.poll(async () => ((await (await page.request.get('/api/link')).json()) as { lease: unknown }).lease).toBeNull();
});

/** What stands at the terminals of the simulated launch, V. */
async function bankVolts(page: Page): Promise<number> {
  const { sites } = (await (await page.request.get('/api/simulation/state')).json()) as { sites: { id: string; bank: { volts: number } }[] };
  return sites.find(({ id }) => id === 'teasel')?.bank.volts ?? NaN;
}

const wire = (page: Page) => page.getByRole('complementary', { name: 'Why, and what else' });

test('keyboard only: begin, answer, skip, a wrong reading, undo, all steps', async ({ page }) => {
  await beginSheet(page);
  await page.keyboard.press('Tab');
  // The step’s title has the focus; the next key is its answer.
  await answer(page).focus();
  await page.keyboard.press('Enter');
  await expect(title(page)).toHaveText('The array is live in daylight');
  await expect(title(page)).toBeFocused();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(title(page)).toHaveText('Belts, pulleys, hot housings');
  await page.getByRole('button', { name: 'Skip this step' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Why is it skipped').fill('no engine today');
  await page.keyboard.press('Enter');
  await expect(title(page)).toHaveText('A BMS that opens is a load dump');
  await page.getByRole('button', { name: 'Undo step 3' }).focus();
  await page.keyboard.press('Enter');
  await expect(title(page)).toHaveText('Belts, pulleys, hot housings');
  await page.getByRole('button', { name: 'All steps' }).click();
  await page.getByRole('button', { name: 'Solar aft Float', exact: true }).click();
  await expect(title(page)).toHaveText('Float');
  await page.getByRole('button', { name: 'Reads something else' }).click();
  await page.getByLabel('What does it show instead').fill('26.8');
  await expect(page.getByRole('button', { name: 'Record 26.8 and go on' })).toBeVisible();
  await page.getByLabel('What does it show instead').press('Enter');
  await expect(page.getByRole('listitem').filter({ hasText: 'Float' }).filter({ hasText: '26.8' }).first()).toBeVisible();
  await saved(page);
});

test('a whole device on one screen, by keyboard: values in their order, a step of another kind in its place', async ({ page }) => {
  await openJob(page, 'teasel', 'program', await begunJob(/Solar fore \| Recharge/));
  await page.getByRole('button', { name: 'Whole device' }).click();
  const now = page.locator('ck-device-steps li[aria-current=step]');
  await expect(now).toContainText('Recharge');
  await expect(now).toBeInViewport();
  await page.getByRole('button', { name: 'Reads 26.5' }).focus();
  await page.keyboard.press('Enter');
  // The next value has the focus: the same key answers it.
  await expect(now).toContainText('Low-temperature resume');
  await expect(page.getByRole('button', { name: 'Reads 4 °C', exact: true })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(title(page)).toHaveText('Save');
  await expect(title(page)).toBeFocused();
  await page.getByRole('button', { name: /^Undo step/ }).click();
  await expect(page.getByRole('button', { name: 'Reads 4 °C', exact: true })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(title(page)).toHaveText('Low-temperature resume');
});

test('the launch is programmed over the wire; a power cut before the save is noticed', { tag: '@long' }, async ({ page }) => {
  await beginSheet(page);
  await walkTo(page, /Solar fore.*\| Wake Solar fore$/);
  await expect(wire(page).getByText('Simulated devices.')).toBeVisible();
  await expect(wire(page).getByText('Battery, as it measures')).toBeVisible();
  // The array was said to be off, and the charger still gives current.
  await expect(wire(page).getByText(/It still gives .* its source is not off/)).toBeVisible();
  for (const name of ['fore', 'aft']) await press(page, { do: 'fault', device: `teasel-${name}`, fault: 'sourceOff', on: true });
  await press(page, { do: 'pass', seconds: 30 });
  await expect(wire(page).getByText(/It still gives/)).toBeHidden();

  // Firmware and what stands are read over the wire.
  await walkTo(page, 'Read off what it is');
  await wire(page).getByRole('button', { name: 'Read this step over the wire' }).click();
  await expect(title(page)).toHaveText('Compare its display with the meter');
  await walkTo(page, 'Read off what is set on it');
  await wire(page).getByRole('button', { name: 'Read this step over the wire' }).click();
  await expect(title(page)).not.toHaveText('Read off what is set on it');
  await walkTo(page, 'Battery type');
  await expect(page.getByText('Was “vented”')).toBeVisible();

  // One confirmation, all of Solar fore, each read back.
  await wire(page)
    .getByRole('button', { name: /Write all \d+ of Solar fore/ })
    .click();
  await expect(wire(page).getByText('in this order?')).toBeVisible();
  await wire(page).getByRole('button', { name: 'Write them' }).click();
  await expect(title(page)).toHaveText('Cut its power and read again');
  await press(page, { do: 'cut', device: 'teasel-fore' });
  await wire(page).getByRole('button', { name: 'Read this step over the wire' }).click();
  await expect(title(page)).not.toHaveText('Cut its power and read again');

  // Solar aft value by value; its power is cut before it is saved, and whoever works there believes it was.
  await walkTo(page, /Solar aft.*\| Battery type$/);
  for (let i = 0; i < 30 && (await title(page).innerText()) !== 'Save'; i++) {
    const before = await page.locator('.where').innerText();
    await wire(page)
      .getByRole('button', { name: /^Write .* over the wire$/ })
      .click();
    await expect(page.locator('.where')).not.toHaveText(before);
  }
  await press(page, { do: 'cut', device: 'teasel-aft' });
  await answer(page).click();
  await expect(title(page)).toHaveText('Cut its power and read again');
  await wire(page).getByRole('button', { name: 'Read this step over the wire' }).click();
  await expect(title(page)).toHaveText('Battery type');
  await expect(page.getByText(/After the power cut: Battery reads “vented” instead of “own figures”.*and \d+ more/).first()).toBeVisible();
  await wire(page)
    .getByRole('button', { name: /Go on writing all \d+ of Solar aft|Write all \d+ of Solar aft/ })
    .click();
  await wire(page).getByRole('button', { name: 'Write them' }).click();
  await expect(title(page)).toHaveText('Cut its power and read again');
  await press(page, { do: 'cut', device: 'teasel-aft' });
  await wire(page).getByRole('button', { name: 'Read this step over the wire' }).click();
  await expect(title(page)).not.toHaveText('Cut its power and read again');

  // The rest in the same way.
  for (const [name, device] of [
    ['DC-DC', 'dcdc'],
    ['Alternator', 'alternator'],
    ['Monitor', 'monitor'],
  ] as const) {
    await walkTo(page, new RegExp(`${name}.*\\| (?!Wake|Read off|Compare|Open the)`));
    await wire(page)
      .getByRole('button', { name: new RegExp(`Write all \\d+ of ${name}`) })
      .click();
    await wire(page).getByRole('button', { name: 'Write them' }).click();
    await expect(title(page)).toHaveText('Cut its power and read again');
    await press(page, { do: 'cut', device: `teasel-${device}` });
    await wire(page).getByRole('button', { name: 'Read this step over the wire' }).click();
    await expect(title(page)).not.toHaveText('Cut its power and read again');
  }
  await walkTo(page, 'Leave it as it should run');
  await answerWell(page);
  await page.getByRole('button', { name: 'End the run sheet' }).click();
  await expect(page.getByText('Last run sheet ended')).toBeVisible();
  await expect(page.getByRole('link', { name: /Program, read back/ })).toBeVisible();

  // Somebody presses equalise: what is stored is harmless, and the stray press stands out.
  for (const name of ['fore', 'aft']) await press(page, { do: 'fault', device: `teasel-${name}`, fault: 'sourceOff', on: false });
  await press(page, { do: 'pass', seconds: 3 * 3600 });
  await page.getByRole('group', { name: 'Device' }).getByRole('button', { name: 'Solar aft' }).click();
  await press(page, { do: 'fault', device: 'teasel-aft', fault: 'equalise', on: true });
  await press(page, { do: 'pass', seconds: 20 });
  await expect(wire(page).getByText('equalise')).toBeVisible();
  const volts = wire(page).locator('dl div').filter({ hasText: 'Battery, as it measures' }).locator('dd');
  // Time stands still but for what is let pass, so that what the page shows can be waited for.
  await press(page, { do: 'speed', speed: 0 });
  let most = 0;
  for (let i = 0; i < 6; i++) {
    await press(page, { do: 'pass', seconds: 300 });
    const bank = await bankVolts(page);
    await expect.poll(async () => Math.abs(Number.parseFloat(await volts.innerText()) - bank)).toBeLessThan(0.1);
    most = Math.max(most, bank);
  }
  // Above float: the press does something.
  expect(most).toBeGreaterThan(27);
  expect(most).toBeLessThanOrEqual(28.4);
  await wire(page).getByRole('button', { name: 'Read what it is set to' }).click();
  await expect(page.getByText('One setting is otherwise than it was left.')).toBeVisible();
  await expect(page.getByText(/Overcharge: left at “off”.*now “on request”/)).toBeVisible();
});

test('a connection that drops in the middle of a write leaves a truthful state, and a fault stops the rest', { tag: '@long' }, async ({ page }) => {
  await openJob(page, 'teasel', 'program', await begunJob(/Engine of Alternator: off$/));
  await answerWell(page);
  await page.getByRole('button', { name: 'All steps' }).click();
  await page.getByRole('button', { name: 'Solar aft Float', exact: true }).click();
  await press(page, { do: 'fault', device: 'teasel-aft', fault: 'dropBefore', on: true });
  await wire(page).getByRole('button', { name: 'Write 26.9 V over the wire' }).click();
  await expect(wire(page).getByRole('alert').filter({ hasText: 'It reads 27.6 instead of 26.9' })).toBeVisible();
  await expect(title(page)).toHaveText('Float');
  await expect(page.getByText('0 of 10 entered').first()).toBeVisible();
  // The write arrives, its answer does not: what stands is read, and told.
  await press(page, { do: 'fault', device: 'teasel-aft', fault: 'dropAfter', on: true });
  await wire(page).getByRole('button', { name: 'Write 26.9 V over the wire' }).click();
  await expect(title(page)).toHaveText('Equalise voltage');
  await expect(page.getByText('1 of 10 entered').first()).toBeVisible();
  // A device that holds volts under what is written stops the rest at the first of them.
  await press(page, { do: 'fault', device: 'teasel-aft', fault: 'clips', on: true });
  await wire(page)
    .getByRole('button', { name: /of Solar aft$/ })
    .click();
  await wire(page).getByRole('button', { name: 'Write them' }).click();
  await expect(wire(page).getByRole('alert').filter({ hasText: 'Writing has stopped here' })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByText(/What went otherwise/)).toBeVisible();
});

test.describe('an answer that is lost on its way to the page', () => {
  test.use({ serverStops: true });
  test(
    'leaves the device unknown, through a reload, until it is read; then what was taken is recorded and nothing is sent again',
    { tag: '@long' },
    async ({ page }) => {
      await openJob(page, 'teasel', 'program', await begunJob(/Engine of Alternator: off$/));
      await answerWell(page);
      await page.getByRole('button', { name: 'All steps' }).click();
      await page.getByRole('button', { name: 'Solar aft Float', exact: true }).click();
      let writes = 0;
      // The server writes, reads back and answers; the page hears nothing of it.
      await page.route('**/api/link/write', async (route) => {
        writes++;
        await route.fetch();
        await route.abort();
      });
      await wire(page).getByRole('button', { name: 'Write 26.9 V over the wire' }).click();
      const unknown = wire(page).getByRole('alert').filter({ hasText: 'State unknown.' });
      await expect(unknown).toContainText('Float: 26.9 V');
      await expect(title(page)).toHaveText('Float');
      await saved(page);
      await page.reload();
      await expect(unknown).toBeVisible();
      await expect(wire(page).getByRole('button', { name: 'Write 26.9 V over the wire' })).toBeDisabled();
      await wire(page).getByRole('button', { name: 'Read the device' }).click();
      await expect(page.getByText('It was taken: Float reads 26.9 V.')).toBeVisible();
      await expect(title(page)).toHaveText('Equalise voltage');
      await expect(page.getByText('1 of 10 entered').first()).toBeVisible();
      await expect(unknown).toHaveCount(0);
      expect(writes).toBe(1);
    },
  );
});

test('two tabs cannot both write, and show the same sheet', { tag: '@long' }, async ({ page, context }) => {
  await openJob(page, 'teasel', 'program', await begunJob(/Engine of Alternator: off$/));
  await answerWell(page);
  await page.getByRole('button', { name: 'All steps' }).click();
  await page.getByRole('button', { name: 'Solar aft Float', exact: true }).click();
  await saved(page);
  const other = await context.newPage();
  await other.goto('/job/teasel/program');
  await expect(title(other)).toHaveText('Float');
  await wire(page).getByRole('button', { name: 'Write 26.9 V over the wire' }).click();
  await expect(title(page)).toHaveText('Equalise voltage');
  // What was answered in one is answered in the other.
  await expect(title(other)).toHaveText('Equalise voltage');
  await wire(other)
    .getByRole('button', { name: /^Write 28.1 V over the wire$/ })
    .click();
  await expect(wire(other).getByRole('alert').filter({ hasText: 'Another page is writing' })).toBeVisible();
  await expect(title(other)).toHaveText('Equalise voltage');
  // The first gives the devices up when it is closed.
  await page.close();
  await expect(async () => {
    const write = wire(other).getByRole('button', { name: /^Write 28.1 V over the wire$/ });
    if ((await write.count()) > 0 && (await write.isEnabled())) await write.click();
    expect(await title(other).innerText()).not.toBe('Equalise voltage');
  }).toPass();
});

test('from paper, and back as found when the day ends early', { tag: '@long' }, async ({ page }) => {
  await beginSheet(page);
  await page.getByRole('button', { name: 'From paper' }).click();
  const off = page.locator('ck-paper-entry li', { hasText: /: off/ }).getByRole('checkbox');
  await expect(off).toHaveCount(4);
  for (const box of await off.all()) await box.check();
  const line = (name: string) => page.locator('ck-paper-entry li', { hasText: name });
  await line('Solar aft: Float').getByLabel('Float, reads').fill('27.6');
  await expect(line('Solar aft: Float').getByText('It stays open')).toBeVisible();
  await line('Solar aft: Float').getByLabel('Float, reads').fill('26,9');
  await line('Solar aft: Float').getByLabel('Float, time').fill('10:40');
  await page.getByRole('button', { name: 'Keep 5 answers' }).click();
  await expect(page.getByText('1 of 10 entered').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop here, make safe' }).click();
  await page.getByRole('button', { name: 'Put back as found' }).click();
  await page.getByRole('button', { name: 'One step' }).click();
  await expect(title(page)).toHaveText('Float');
  await expect(page.getByTestId('to-set')).toHaveText(/27\s*\.\s*6\s*V/);
  await walkTo(page, 'Leave it as it should run');
  await answerWell(page);
  await page.getByRole('button', { name: 'End the run sheet' }).click();
  await expect(page.getByText('Put back as found').first()).toBeVisible();
  await goTo(page, 'Settings');
  await expect(page.getByRole('heading', { name: /Settings|Setpoint/ }).first()).toBeVisible();
});

test('the keys of the simulated devices can be pressed, and are marked as what they are', async ({ page }) => {
  await page.goto('/simulation');
  await expect(page.getByRole('heading', { name: 'Simulated devices' })).toBeVisible();
  await expect(page.getByText('Nothing here is a real charger')).toBeVisible();
  const launch = page.getByRole('region', { name: 'Survey launch Teasel' });
  await launch.getByRole('button', { name: 'Clouds' }).click();
  await expect(launch.getByRole('button', { name: 'Clouds' })).toHaveAttribute('aria-pressed', 'true');
  await launch.getByRole('button', { name: 'Faults' }).nth(1).click();
  await launch.getByRole('button', { name: 'Does not answer' }).click();
  await expect(launch.getByRole('button', { name: '1 fault' })).toBeVisible();
  await page.getByRole('button', { name: 'Everything as at the start' }).click();
  await expect(launch.getByRole('button', { name: '1 fault' })).toBeHidden();
});

test('reset in the middle: the procedure of its card, everything in doubt until it is read; a line of one’s own comes before its step', async ({ page }) => {
  await openJob(page, 'teasel', 'program', await begunJob(/Solar aft \| Float/));
  await expect(title(page)).toHaveText('Float');
  await page.getByRole('button', { name: 'Add a line before this step' }).click();
  await page.keyboard.type('Loosen the strap of the lid');
  await page.keyboard.press('Enter');
  await expect(title(page)).toHaveText('Loosen the strap of the lid');
  await answer(page).click();
  await expect(title(page)).toHaveText('Float');
  await page.getByText('Reset it, or its passcode is forgotten').click();
  await expect(page.getByText('Let go, and press Enter once when it asks')).toBeVisible();
  await expect(page.getByText('Every setting goes back.')).toBeVisible();
  await page.getByRole('button', { name: 'It was reset: doubt everything on it' }).click();
  await expect(title(page)).toHaveText('Read off what is set on it');
  await expect(page.getByRole('article').getByText('It was reset. Everything on it is in doubt until it is read.')).toBeVisible();
  await expect(page.getByRole('complementary', { name: 'Roster' }).getByText('0 of 13 entered')).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(title(page)).toHaveText('Read off what is set on it');
  // Taken back, what was entered counts again, and the line is there to be taken out.
  await page.getByRole('button', { name: /^Undo/ }).first().click();
  await expect(title(page)).toHaveText('Float');
  await page.getByRole('button', { name: 'All steps' }).click();
  await page.getByRole('button', { name: 'Solar aft Loosen the strap of the lid' }).click();
  await page.getByRole('button', { name: 'Remove this line from the run sheet' }).click();
  await expect(title(page)).toHaveText('Float');
  await page.getByRole('button', { name: 'All steps' }).click();
  await expect(page.getByRole('button', { name: 'Solar aft Loosen the strap of the lid' })).toHaveCount(0);
});
