import type { Page } from '@playwright/test';
import { surveyedCard } from '../core/src/job';
import { surveyEnglish } from '../core/src/words';
import { manuals, surveyedFrom } from '../core/src/testing/manuals';
import { expect, figure, focused, goTo, saved, test } from './keel';
import { pdf } from './papers';
import { walkTo } from './program';
import { addByPlate, surveyByHand, type Effort } from './survey';

test('a charger that nobody has a card for: from its plate to exact settings and a begun run sheet', async ({ page }, info) => {
  let presses = 0;
  const press = async (name: string | RegExp): Promise<void> => {
    presses++;
    await page.getByRole('button', { name }).first().click();
  };
  await page.goto('/');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('Canal boat');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Library', exact: true }).click();
  await page.getByRole('button', { name: 'Pellow LB-25/230, rev D' }).click();

  await goTo(page, 'System');
  await press('Add the first charger');
  await expect.poll(() => focused(page)).toBe('Search maker, model or kind');
  // What is not there is said, with the way on.
  await page.keyboard.type('ostmark');
  await expect(page.getByRole('status').filter({ hasText: 'No card matches “ostmark”' })).toBeVisible();
  await press('Mine is not listed');
  await expect(page.getByRole('button', { name: 'Add this charger' })).toBeDisabled();
  await expect(page.getByText('Still needed: model, what it is, output, battery volts.')).toBeVisible();
  await page.getByLabel('Maker').fill('Ostmark');
  await page.getByLabel('Model').fill('Q40');
  await page.getByRole('combobox', { name: 'What it is' }).selectOption('solarMppt');
  await page.getByLabel('Output').fill('40');
  await page.getByLabel('24 V').check();
  await page.getByLabel('Most volts from the array').fill('100');
  presses += 'Ostmark'.length + 'Q40'.length + 1 + '40'.length + 1 + '100'.length;
  await press('Add this charger');
  presses++;
  await goTo(page, 'Settings');

  // Exact values, with what to do about steps that nobody knows.
  await expect(page.getByRole('button', { name: /^Q40 1: absorb 28\.\d\d V/ })).toBeVisible();
  await page.getByRole('button', { name: /^Q40 1: float 26\.90 V/ }).click();
  await expect(page.getByRole('table', { name: 'How it is worked out' })).toContainText(
    'Its steps are not known: enter this, or the nearest below that it takes',
  );
  info.annotations.push({ type: 'presses from an empty job with a sheet to settings', description: String(presses) });
  expect(presses).toBeLessThan(40);

  // What is not known of it is told once, and what the job assumes is confirmed or entered.
  await goTo(page, 'System');
  await expect(page.getByRole('button', { name: /the card of Q40 does not say its ranges and steps, which settings it has/ })).toBeVisible();
  await page.getByLabel('Batteries in series').fill('1');
  await page.getByRole('combobox', { name: 'BMS in the batteries' }).selectOption('yes');
  await page.getByLabel('Bank, coldest').fill('6');
  await expect(page.getByRole('button', { name: /^Stop: Nobody has entered/ })).toHaveCount(0);
  await saved(page);
  await page.reload();
  await goTo(page, 'Program');
  await expect(page.getByText('No stop is open.')).toBeVisible();
  await page.getByLabel('Initials').fill('NN');
  await page.getByRole('button', { name: 'Begin the run sheet' }).click();
  await expect(page.getByRole('heading', { name: 'The bank can weld a spanner' })).toBeVisible();

  // Its float turns out to count in halves: noted at the step, the card has it and the value to set follows.
  await walkTo(page, 'Float');
  await expect(page.getByTestId('to-set')).toHaveText(/26\s*\.\s*90/);
  await page.getByRole('button', { name: 'Note what it takes: its lower end, its upper end, its steps' }).click();
  await page.getByLabel('Its display calls it').fill('Flt');
  await page.getByLabel('Lowest it goes').fill('29');
  await page.getByLabel('Highest it goes').fill('24');
  await expect(page.getByText('29 is not below 24.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Put it on the card' })).toBeDisabled();
  await page.getByLabel('Lowest it goes').fill('24');
  await page.getByLabel('Highest it goes').fill('29');
  await page.getByLabel('One press moves it by').fill('0.5');
  await page.getByRole('button', { name: 'Put it on the card' }).click();
  await expect(page.getByTestId('to-set')).toHaveText(/2[67]\s*\.\s*[05]/);
  await expect(page.getByRole('button', { name: /Note what it takes/ })).toHaveCount(0);
  await saved(page);
  await page.reload();
  await expect(page.getByText('Flt: the card gives no keys.')).toBeVisible();

  // The card is saved, with what it has learnt: the next job finds it on the shelf.
  await page.goto('/library');
  await page.getByRole('link', { name: /^Ostmark Q40/ }).click();
  await expect(page.getByRole('button', { name: /^Float Flt 24\.0/ })).toBeVisible();
  await expect(page.getByText(/Looked up by NN on .*, on the device\./)).toBeVisible();
});

test('a plate typed by the keyboard alone; what is not enough says what is still needed', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill('By keys');
  await page.keyboard.press('Enter');
  await expect(figure(page, 'Absorb voltage')).toBeVisible();
  await goTo(page, 'System');
  await page.getByRole('button', { name: 'Add the first charger' }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Search maker, model or kind');
  await page.keyboard.press('Tab');
  await expect.poll(() => focused(page)).toBe('Mine is not listed');
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Maker');
  for (const text of ['Ostmark', 'D20']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await page.keyboard.type('D');
  // What is asked for follows the kind: a busy machine draws it a moment later than Tab is pressed.
  await expect(page.getByLabel('Most input volts')).toBeVisible();
  await page.keyboard.press('Tab');
  await page.keyboard.type('20');
  // The most its input takes may stay empty.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  await expect(page.getByText('Its ranges, steps and habits stay “not known”.')).toBeVisible();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Tab');
  await expect.poll(() => focused(page)).toBe('Add this charger');
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Name');
  await expect(page.getByRole('complementary', { name: 'Roster' })).toContainText('D20 1');
});

/** A new job with a bank, at the shelf of devices. */
async function atTheShelf(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Name of the new job').fill(name);
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Library', exact: true }).click();
  await page.getByRole('button', { name: 'Pellow LB-25/230, rev D' }).click();
  await goTo(page, 'System');
  await page.getByRole('button', { name: 'Add the first charger' }).click();
}

test('a charger is surveyed setting by setting, left and gone on with; the run sheet names its keys, its habits and what was found', async ({ page }, info) => {
  const manual = manuals['bolder']!;
  const effort: Effort = { presses: 0, screens: 0 };
  await atTheShelf(page, 'Quay');
  await addByPlate(page, manual, effort);
  await page.getByRole('button', { name: 'Survey it: find out what is not known' }).click();
  await expect(page.getByRole('heading', { name: 'What does its plate say?' })).toBeVisible();
  await surveyByHand(page, manual, effort);
  await expect(page.getByText('5 settings with a meaning, 5 values as found on the device, the whole list walked')).toBeVisible();
  const peculiar = page.getByRole('region', { name: 'What is peculiar' });
  for (const quirk of manual.quirks) await expect(peculiar).toContainText(quirk);
  await expect(page.getByRole('region', { name: 'Not known' })).toContainText('How long it holds an edit left alone');
  info.annotations.push({ type: 'a survey of five settings', description: `${effort.presses} presses, ${effort.screens} screens` });

  // Gone in the middle, and back: nothing is lost, and one step can be taken back.
  await page.reload();
  await expect(page.getByRole('heading', { name: 'What you have found out' })).toBeVisible();
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: /^Hold voltage/ }).click();
  await page.getByRole('textbox', { name: 'one press' }).fill('0.2');
  await page.getByRole('button', { name: 'Undo Type where it stops' }).click();
  await expect(page.getByRole('textbox', { name: 'one press' })).toHaveValue('0.1');
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: 'Result' }).click();
  await page.getByRole('button', { name: 'Use it in the job' }).click();

  // On the job: found values, exact steps, the limit in percent.
  await expect(page.getByRole('complementary', { name: 'Roster' })).toContainText('B25 1');
  await expect(page.getByText('5 of 5 read')).toBeVisible();
  await goTo(page, 'Settings');
  await page.getByRole('button', { name: /^B25 1: absorb 28\.20 V/ }).click();
  await expect(page.getByRole('table', { name: 'How it is worked out' })).toContainText('Device step 0.1');
  await page.goto('/library');
  await expect(page.getByText('Bolder B25').first()).toBeVisible();
});

test('what contradicts itself is asked on the spot, and a second tab sees every answer', { tag: '@long' }, async ({ page, context }) => {
  await atTheShelf(page, 'Two tabs');
  await addByPlate(page, manuals['clone']!, { presses: 0, screens: 0 });
  await page.getByRole('button', { name: 'Survey it: find out what is not known' }).click();
  await page.getByRole('button', { name: 'Next: how it is set' }).click();
  await page.getByRole('button', { name: 'Not known' }).click();
  await page.keyboard.type('bU');
  await page.keyboard.press('Enter');
  await page.keyboard.type('14.4');
  await page.getByRole('textbox', { name: 'stops above at' }).fill('13');
  await expect(page.getByRole('status').filter({ hasText: 'It shows 14.4, and then 13.' })).toBeVisible();
  await page.getByRole('button', { name: 'Yes, it runs round' }).click();
  await expect(page.getByRole('textbox', { name: 'stops below at' })).toHaveValue('13');
  await expect(page.getByRole('button', { name: 'It runs round at its ends' })).toHaveAttribute('aria-pressed', 'true');
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole('textbox', { name: 'It shows' })).toHaveValue('14.4');
  // Typed without a pause, from one setting into the next: no key is lost.
  await page.getByRole('textbox', { name: 'It shows' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('FL');
  await page.keyboard.press('Enter');
  await page.keyboard.type('13.7');
  await expect(other.getByRole('textbox', { name: 'As the display calls it' })).toHaveValue('FL');
  await expect(other.getByRole('textbox', { name: 'It shows' })).toHaveValue('13.7');
  await other.getByRole('textbox', { name: 'stops above at' }).fill('15');
  await expect(page.getByRole('textbox', { name: 'stops above at' })).toHaveValue('15');
  await expect(page.getByText('2 settings so far')).toBeVisible();
});

test('a survey begun in the library goes on there, and one that is gone says so', { tag: '@long' }, async ({ page }) => {
  await page.goto('/library');
  await page.getByRole('button', { name: 'Make a copy of my own' }).click();
  await page.getByRole('button', { name: 'Survey it' }).click();
  await expect(page.getByRole('heading', { name: 'What does its plate say?' })).toBeVisible();
  await page.getByRole('link', { name: 'Leave the survey; it is saved' }).click();
  await expect(page.getByRole('heading', { name: 'Surveys under way' })).toBeVisible();
  await page.locator('a[href^="/survey/"]').click();
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: 'Result' }).click();
  await page.getByRole('button', { name: 'Keep it in the library' }).click();
  await expect(page.getByRole('heading', { name: /, own$/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Surveys under way' })).toHaveCount(0);
  await page.goto('/survey/nothing');
  await expect(page.getByRole('heading', { name: 'No such survey on this device' })).toBeVisible();
});

test('a manual’s table is pasted, each line waits for a yes; a second charger like it is added with its array', { tag: '@long' }, async ({ page }) => {
  await atTheShelf(page, 'From paper');
  await addByPlate(page, manuals['lume']!, { presses: 0, screens: 0 });
  await page.getByRole('button', { name: 'Survey it: find out what is not known' }).click();
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: 'From a manual’s table' }).click();
  await page
    .getByLabel('The table of settings, as copied from the manual')
    .fill('Charging\nAbsorption voltage\t57.6 V\t48.0–64.0 V, step 0.1\nFloat voltage\t54.0 V\t48.0–64.0 V, step 0.1\nAux 3\t7');
  await expect(page.getByRole('status').filter({ hasText: '3 new settings, 2 with a meaning. Each waits for your yes. Left out: line 1.' })).toBeVisible();
  await page.getByRole('button', { name: 'Add these 3' }).click();
  await page.getByRole('button', { name: /^Absorption voltage/ }).click();
  await expect(page.getByText('The manual prints 57.6 V from the factory.')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'stops above at' })).toHaveValue('64');
  await page.getByRole('button', { name: 'Yes, next setting' }).click();
  await expect(page.getByRole('textbox', { name: 'As the display calls it' })).toHaveValue('Float voltage');
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: 'Result' }).click();
  // Nothing of it was read on the device.
  await expect(
    page.getByText('2 settings with a meaning, 1 that nobody touches, 0 values as found on the device, the list not walked to its end'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Use it in the job' }).click();
  await page.getByRole('button', { name: 'Add another like it' }).click();
  await expect(page.getByRole('complementary', { name: 'Roster' })).toContainText('A50 2');
  await expect(page.getByRole('heading', { name: 'A50 2', exact: true })).toBeVisible();
});

/** A made-up manual of three pages: how to mount it, its table of settings with empty cells, and its weight. */
const manualHtml = `<!doctype html><meta charset="utf-8"><style>@page{size:A4;margin:18mm}body{font:11pt/1.4 "DejaVu Sans",sans-serif}section{break-after:page}td,th{padding:4px 14px;text-align:left}</style>
<section><h1>Lume A50</h1><p>Mount it upright. Leave 100 mm of air around it. Tighten its terminals to 2.5 Nm.</p></section>
<section><h2>Settings</h2><table><tr><th>Parameter</th><th>Range</th><th>Step</th><th>Default</th></tr>
<tr><td>Absorption voltage</td><td>48.0–64.0 V</td><td>0.1 V</td><td>57.6 V</td></tr>
<tr><td>Float voltage</td><td>48.0–64.0 V</td><td></td><td>54.0 V</td></tr>
<tr><td>Battery type</td><td>AGM / GEL / USER</td><td></td><td>AGM</td></tr>
<tr><td>Absorption time</td><td>0–480 min</td><td>10 min</td><td>120 min</td></tr></table></section>
<section><p>Weight 1.4 kg. Keep this paper.</p></section>`;

test('a manual is brought in as a file: the page with its table is found, and each line waits for a yes', { tag: '@long' }, async ({ page, browser }) => {
  await atTheShelf(page, 'From a file');
  await addByPlate(page, manuals['lume']!, { presses: 0, screens: 0 });
  await page.getByRole('button', { name: 'Survey it: find out what is not known' }).click();
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: 'From a manual’s table' }).click();
  const file = page.getByLabel('Manual', { exact: true });
  // What is no document says so, and leaves what is there.
  await file.setInputFiles({ name: 'broken.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.4 no more') });
  await expect(page.getByRole('alert')).toContainText('This document cannot be read.');
  await file.setInputFiles({ name: 'letter.txt', mimeType: 'text/plain', buffer: Buffer.from('') });
  await expect(page.getByRole('alert')).toContainText('No letters can be read on this paper.');
  await file.setInputFiles(await pdf(browser, 'a50.pdf', manualHtml));
  await expect(page.getByRole('status').filter({ hasText: '4 new settings, 4 with a meaning. Each waits for your yes.' })).toBeVisible();
  await expect(page.getByLabel('The table of settings, as copied from the manual')).toHaveValue(/^Settings\nParameter\tRange\tStep\tDefault\n/);
  await page.getByRole('button', { name: 'Add these 4' }).click();
  await page.getByRole('button', { name: /^Float voltage/ }).click();
  await expect(page.getByText('The manual prints 54.0 V from the factory.')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'stops above at' })).toHaveValue('64');
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByRole('button', { name: 'Plate' }).click();
  await expect(page.getByLabel('Document and page')).toHaveValue('a50.pdf, p. 2');
});

test('another person’s card of the same charger is merged: what it adds is taken, what differs is asked', { tag: '@long' }, async ({ page }) => {
  await atTheShelf(page, 'Two people');
  await addByPlate(page, manuals['bolder']!, { presses: 0, screens: 0 });
  await page.goto('/library');
  await page.getByRole('link', { name: /^Bolder B25/ }).click();
  const theirs = (most: number): string => {
    const survey = surveyedFrom(manuals['bolder']!);
    const items = survey.items.map((item) => (item.role === 'absorbVoltage' ? { ...item, most } : item));
    return JSON.stringify({ ...surveyedCard({ ...survey, items, by: 'KM' }, surveyEnglish, '2026-06-09'), id: 'theirs' });
  };
  const bring = (text: string): Promise<void> =>
    page.getByLabel('Card or sheet file').setInputFiles({ name: 'b25.card.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await bring(theirs(30));
  const panel = page.getByRole('region', { name: 'Two cards of one charger' });
  await expect(panel).toContainText('The other was looked up by KM on 2026-06-09, on the device. It adds absorb, float');
  await expect(panel.getByRole('group')).toHaveCount(0);
  await panel.getByRole('button', { name: 'Merge them' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Merged.' })).toBeVisible();
  await page.getByRole('button', { name: /^Absorb .* to 30\.0/ }).click();
  const most = page.getByRole('textbox', { name: 'Upper end' });
  await expect(most).toHaveValue('30');
  await bring(theirs(29.6));
  await expect(panel.getByRole('group')).toHaveCount(1);
  await panel
    .getByRole('group', { name: 'Absorb, upper end' })
    .getByRole('button', { name: /^Theirs: 29\.6/ })
    .click();
  await panel.getByRole('button', { name: 'Merge them' }).click();
  await expect(most).toHaveValue('29.6');
});

for (const [i, [name, manual]] of Object.entries(manuals).entries())
  test(`the whole way of the made-up charger ${name}, by its half page of manual @long`, async ({ page }, info) => {
    const effort: Effort = { presses: 0, screens: 0 };
    // Half of them with one thumb.
    if (i % 2 === 0) await page.setViewportSize({ width: 390, height: 844 });
    await atTheShelf(page, name);
    await addByPlate(page, manual, effort);
    await page.getByRole('button', { name: 'Survey it: find out what is not known' }).click();
    await surveyByHand(page, manual, effort);
    const peculiar = page.locator('main');
    for (const quirk of manual.quirks) await expect(peculiar).toContainText(quirk.startsWith('Not known: ') ? capital(quirk.slice(11)) : quirk);
    await page.getByRole('button', { name: 'Use it in the job' }).click();
    await expect(page.getByRole('heading', { name: `${manual.plate.model} 1`, exact: true })).toBeVisible();
    await page.getByText('What is peculiar about it').click();
    for (const quirk of manual.quirks) await expect(page.getByRole('complementary', { name: 'Chosen charger' })).toContainText(quirk);
    info.annotations.push({ type: `survey of ${name}`, description: `${effort.presses} presses, ${effort.screens} screens` });
  });

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
