import type { Page } from '@playwright/test';
import { expect, goTo, openDemo, repo, saved, test } from './keel';
import { openLaunch } from './jobs';

/** Ends of absorb that a card in the library of this browser does not know. */
const openEnds = (page: Page, id: string): Promise<unknown> =>
  page.evaluate(
    (card) =>
      new Promise((resolve) => {
        const open = indexedDB.open('calm-keel');
        open.onsuccess = () => {
          const get = open.result.transaction('cards').objectStore('cards').get(card) as IDBRequest<
            { parameters: { role: string; notKnown?: string[] }[] } | undefined
          >;
          get.onsuccess = () => {
            open.result.close();
            resolve(get.result?.parameters.find((p) => p.role === 'absorbVoltage')?.notKnown ?? []);
          };
        };
      }),
    id,
  );

test('the drawing is pressed to change what it shows, with the mouse and with the keyboard', async ({ page }) => {
  await openLaunch(page, 'system');
  const drawing = page.getByRole('group', { name: 'One-line drawing' });
  await drawing.getByRole('button', { name: 'DC-DC, D30' }).click();
  const inspector = page.getByRole('complementary', { name: 'Chosen charger' });
  await expect(inspector.getByRole('heading', { name: 'DC-DC', exact: true })).toBeVisible();
  await inspector.getByText('What is peculiar about it').click();
  await expect(inspector.getByText('Without a battery sensor it silently ignores the cutoff.')).toBeVisible();
  await inspector.getByLabel('Cable, area').fill('6');
  await expect(drawing.getByText('6 mm², 1.2 m')).toHaveCount(1);
  await expect(inspector.getByText(/It is rated for 46 A, about 9 AWG/)).toBeVisible();
  await drawing.getByRole('button', { name: 'Monitor' }).focus();
  await page.keyboard.press('Enter');
  await expect(inspector.getByRole('heading', { name: 'Monitor', exact: true })).toBeVisible();
  await inspector.getByLabel('Name').fill('Shunt monitor');
  await expect(page.getByRole('complementary', { name: 'Roster' })).toContainText('Shunt monitor');
  await saved(page);
  await page.reload();
  await expect(drawing.getByRole('button', { name: 'Shunt monitor' })).toBeVisible();
});

test('a temperature lead fitted to the DC-DC charger takes its stop away', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'system');
  await page.getByRole('button', { name: 'DC-DC, D30' }).click();
  const finding = page.getByRole('button', { name: /DC-DC has no working cold protection: it has no battery sensor/ });
  await expect(finding).toBeVisible();
  await page.getByRole('combobox', { name: 'Sensor on the battery' }).selectOption('batteryCase');
  await expect(finding).toHaveCount(0);
  await page.getByRole('combobox', { name: 'Sensor on the battery' }).selectOption('air');
  await expect(page.getByRole('button', { name: /its sensor is in the air/ })).toBeVisible();
});

test('an array too long for the cold is a stop, with the volts worked out; fewer in series mends it', async ({ page }) => {
  await openLaunch(page, 'system');
  await page.getByRole('button', { name: 'Solar fore, S45' }).click();
  // 3 × 40 V × (1 + 0.003 × 39) = 134.0 V.
  await expect(page.getByRole('row', { name: /Open circuit at −14\s°C 134\.0 V at most 150 V/ })).toBeVisible();
  await page.getByLabel('In series', { exact: true }).fill('4');
  await expect(page.getByRole('button', { name: /4 in series, reaches 178\.7\sV at −14\s°C\. The charger’s input is rated for 150/ })).toBeVisible();
  await page.getByLabel('In series', { exact: true }).fill('2');
  await expect(page.getByRole('button', { name: /input is rated for 150/ })).toHaveCount(0);
  await expect(page.getByRole('row', { name: /Side by side/ })).toBeVisible();
  // A label that cannot be is refused with its reason, and kept as typed.
  await page.getByLabel('Working volts', { exact: true }).fill('41');
  await expect(page.getByText('the operating voltage must lie below the open-circuit voltage')).toBeVisible();
});

test('a companion is added from the shelf, and taken out again', async ({ page }) => {
  await openLaunch(page, 'system');
  await page.getByRole('button', { name: 'Add a charger or companion' }).click();
  await page
    .getByRole('group', { name: 'Companions' })
    .getByRole('button', { name: /Isk T1/ })
    .click();
  const inspector = page.getByRole('complementary', { name: 'Chosen charger' });
  await inspector.getByLabel('Solar fore').check();
  await expect(page.getByText('switches Solar fore')).toHaveCount(1);
  await inspector.getByRole('button', { name: 'Remove this companion' }).click();
  await expect(page.getByText('switches Solar fore')).toHaveCount(0);
});

test('the library: quirks, a value tried, a card of one’s own; no job is altered by it', { tag: '@long' }, async ({ page }, info) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('link', { name: /^Tessick D30/ }).click();
  await expect(page.getByText('Holds equalise voltage at least 0.2 above absorb.')).toBeVisible();
  // A whole sheet tried, then a wish of one's own against a rule.
  await page.getByLabel('and what it holds of').selectOption({ label: 'Pellow LB-25/230' });
  await expect(page.getByRole('button', { name: /^Absorb Output › Volts › High .* holds 28\.2/ })).toBeVisible();
  await page.getByRole('button', { name: /^Equalise voltage/ }).click();
  await page.getByLabel('Wanted at the bank').fill('28,1');
  await page.getByLabel('With absorb at').fill('28.1');
  await expect(page.getByText(/Refused: equalise voltage must stay at least 0\.2\sV above absorb/)).toBeVisible();
  await page.getByLabel('With absorb at').fill('27.9');
  await expect(page.getByText(/28\.10 V at the bank/)).toBeVisible();

  // A copy, an edit that contradicts the card, an edit that holds, one taken back.
  await page.getByRole('button', { name: 'Make a copy of my own' }).click();
  await page.getByRole('button', { name: /^Absorb Output/ }).click();
  const least = page.getByLabel('Lower end');
  await least.fill('99');
  await least.blur();
  await expect(page.getByRole('alert')).toContainText('Not saved yet');
  await least.fill('12,6');
  await least.blur();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(page.getByText('Saved on this device.')).toBeVisible();
  await page.getByLabel('Upper end').fill('');
  await page.getByLabel('Upper end').blur();
  await expect(page.getByText(/at least 25\.2\sV/).first()).toBeVisible();
  await expect.poll(() => openEnds(page, 'tessick-d30-own')).toEqual(['most']);
  await page.getByRole('button', { name: 'Undo: Absorb: upper end' }).click();
  // It is written before the page is left.
  await expect.poll(() => openEnds(page, 'tessick-d30-own')).toEqual([]);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Tessick D30, own' })).toBeVisible();
  await page.getByRole('button', { name: /^Absorb Output/ }).click();
  await expect(page.getByLabel('Lower end')).toHaveValue('12.6');
  await expect(page.getByLabel('Upper end')).not.toHaveValue('');
  // Back, and forward again: the address says which card.
  await page.goBack();
  await expect(page.getByRole('heading', { name: 'Tessick D30', exact: true })).toBeVisible();
  await page.goForward();

  // Out as a file, away, and in again.
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as a file' }).click()]);
  const path = info.outputPath('own.card.json');
  await download.saveAs(path);
  await page.getByRole('button', { name: 'Take it out' }).click();
  await expect(page.getByRole('link', { name: /^Tessick D30, own/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo: put it back' }).click();
  await expect(page.getByRole('link', { name: /^Tessick D30, own/ })).toBeVisible();
  await page.getByLabel('Card or sheet file').setInputFiles(path);
  await expect(page.getByRole('link', { name: /^Tessick D30, own/ })).toHaveCount(2);
  await page.getByLabel('Card or sheet file').setInputFiles(repo('demo/teasel.job.json'));
  await expect(page.getByRole('alert')).toContainText('neither a card nor a sheet');
  await page
    .getByLabel('Card or sheet file')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{"format":"calm-keel/card","version":1}') });
  await expect(page.getByRole('alert')).toContainText('does not hold together');

  // The launch still has the card it took.
  await page.goto('/job/teasel/system');
  await page.getByRole('button', { name: 'DC-DC, D30' }).click();
  await expect(page.getByText('Tessick D30, DC-DC charger, 30 A')).toBeVisible();
  await goTo(page, 'Settings');
  await expect(page.getByRole('button', { name: /^DC-DC: absorb 28\.10 V/ })).toBeVisible();
});

test('a charger is chosen before it is bought: the panels come first, and go with the one that is added', async ({ page }) => {
  await openLaunch(page, 'system');
  await page.getByRole('button', { name: 'Add a charger or companion' }).click();
  const choose = page.getByRole('button', { name: 'Choose before you buy' });
  await choose.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('For a solar charger, enter the panels')).toBeVisible();
  await page.getByRole('button', { name: 'Enter the array' }).click();
  const label = page.getByRole('group', { name: 'By the label of its panels' });
  for (const [name, text] of [
    ['Power', '410'],
    ['Open circuit', '37.5'],
    ['Working volts', '31.3'],
    ['Short circuit', '13.9'],
    ['Working amps', '13.1'],
    ['Bypass diodes', '3'],
    ['In series', '3'],
    ['Strings side by side', '2'],
    ['Tilt', '30'],
    ['Looks to, from north', '180'],
  ] as const) {
    await label.getByLabel(name, { exact: true }).fill(text);
    await page.keyboard.press('Tab');
  }
  await page.getByRole('button', { name: 'Save the array' }).click();
  // By the cold-factor table at −14 °C: 3 × 37.5 V × 1.16 = 130.5 V.
  await expect(page.getByRole('row', { name: /Input, most volts at least 137 V a string open at −14\s°C gives 130\.5 V/ })).toBeVisible();
  // 2 × 13.9 A × 1.25.
  await expect(page.getByRole('row', { name: /Input, most amps at least 34\.8 A/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /Varrow S45 solar charger, MPPT, 45 A Nothing is against it/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /Varrow P15 .*made for vented lead-acid/ })).toBeVisible();
  await label.getByLabel('In series', { exact: true }).fill('4');
  await expect(page.getByRole('button', { name: /Varrow S45 solar .*4 in series, reaches 174/ })).toBeVisible();
  await label.getByLabel('In series', { exact: true }).fill('3');
  await saved(page);
  await page.reload();
  await page.getByRole('button', { name: 'Add a charger or companion' }).click();
  await choose.click();
  await page.getByRole('button', { name: /Varrow S45 solar charger, MPPT, 45 A Nothing is against it/ }).click();
  // Its input is full: the panels are on the new charger, and no longer to be given away.
  await expect(page.getByRole('heading', { name: 'Array of S45 3', exact: true })).toBeVisible();
  await expect(page.getByRole('row', { name: /Open circuit at −14\s°C 130\.5 V at most 150 V/ })).toBeVisible();
  await page.getByRole('button', { name: 'Add a charger or companion' }).click();
  await choose.click();
  await expect(page.getByText('For a solar charger, enter the panels')).toBeVisible();
});
