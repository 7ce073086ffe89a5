import { expect, openDemo, test } from './keel';
import { newcomer, pause, sameDraws } from './practice';

test('a newcomer finds a fault, is wrong once, and meets the mistake again', async ({ page }) => {
  await newcomer(page, async () => {
    // The key itself, held down.
    await page.getByRole('group', { name: 'Front of Charger east' }).getByRole('button', { name: 'Enter', exact: true }).hover();
    await page.mouse.down();
    await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
    await page.mouse.up();
  });
});

test('a front is worked by the keyboard alone, and what is not saved is gone after the power cut', async ({ page }) => {
  await page.goto('/practice/front/varrow-s45');
  const front = page.getByRole('group', { name: 'Front of S45' });
  const display = front.getByRole('status');
  await front.getByRole('button', { name: 'Enter', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(display).toContainText('Bank');
  await page.keyboard.press('ArrowDown');
  await expect(display).toContainText('Levels');
  await page.keyboard.press('Enter');
  await expect(display).toContainText('57.6');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(display).toContainText('57.8');
  await page.keyboard.press('Enter');
  await expect(front.getByText('In use, and not saved yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Cut its power' }).click();
  await expect(front.getByText('Power is back. What was not saved is gone.')).toBeVisible();
  await expect(display).toContainText('everything is saved');
  // Another battery, other volts.
  await page.getByLabel('Battery').selectOption('12 V');
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await front.getByRole('button', { name: 'Down', exact: true }).click();
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await expect(display).toContainText('14.4');
});

test('fronts of every shipped card are there, a knob turns, a list is kept at its end', async ({ page }) => {
  await page.goto('/practice');
  await page.getByRole('link', { name: /Murrel AR-2/ }).click();
  const knob = page.getByRole('group', { name: 'Front of AR-2' });
  await knob.getByRole('button', { name: 'Knob, press' }).click();
  await knob.getByRole('button', { name: 'Knob, turn right' }).click();
  await expect(knob.getByRole('status')).toContainText('Times');
  await page.goto('/practice/front/varrow-p15');
  const list = page.getByRole('group', { name: 'Front of P15' });
  await list.getByRole('button', { name: 'Step' }).click();
  await list.getByRole('button', { name: 'Up', exact: true }).click();
  await expect(list.getByText('In use, and not saved yet.')).toBeVisible();
  for (let i = 0; i < 13; i++) await list.getByRole('button', { name: 'Step' }).click();
  await expect(list.getByText('Saved.', { exact: true })).toBeVisible();
  await page.goto('/practice/front/no-such-card');
  await expect(page.getByRole('heading', { name: 'No such card' })).toBeVisible();
});

test('another tab that goes on with an exercise overtakes this one, and neither loses its lines', async ({ page, context }) => {
  await sameDraws(page);
  await page.goto('/practice');
  await page.getByRole('button', { name: 'Find a fault at The pump house' }).click();
  await page.getByRole('button', { name: 'paused' }).click();
  await page.getByRole('button', { name: 'At the bank', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Story' }).getByText(/^Meter, bank/)).toBeVisible();
  await pause(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByRole('button', { name: 'paused' }).click();
  await expect(other.getByRole('region', { name: 'Story' }).getByText(/^Meter, bank/)).toBeVisible();
  await other.getByRole('tab', { name: 'Clamp' }).click();
  await other.getByRole('button', { name: 'Loads', exact: true }).click();
  await expect(other.getByRole('region', { name: 'Story' }).getByText(/^Clamp, loads/)).toBeVisible();
  await pause(other);
  await page.getByRole('button', { name: 'At the bank', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('worked on in another tab');
  await page.reload();
  await expect(page.getByRole('region', { name: 'Story' }).getByText(/^Clamp, loads/)).toBeVisible();
  await page.goto('/practice/bench/no-such');
  await expect(page.getByRole('heading', { name: 'No such exercise' })).toBeVisible();
});

test('the book goes out as a file and comes in again; a file that is none is refused in words', async ({ page }) => {
  await page.goto('/practice');
  await page.getByRole('button', { name: 'Program Charger at The mast hut' }).click();
  await expect(page.getByText('Charger is new out of its box.')).toBeVisible();
  await page.getByRole('button', { name: 'End the exercise' }).click();
  await expect(page.getByText(/Not done: \d+ values are wrong\./)).toBeVisible();
  await page.getByRole('link', { name: 'Book of practice' }).click();
  await page.getByLabel('Initials for new lines').fill('KM');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the book as a file' }).click();
  const path = await (await saved).path();
  const field = page.getByLabel('Book of practice', { exact: true });
  await field.setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from('{"format":"something"}') });
  await expect(page.getByRole('alert')).toContainText('“other.json” is no book of practice');
  await field.setInputFiles(path);
  await expect(page.getByText('0 new lines came in.')).toBeVisible();
  await page.evaluate(() => indexedDB.deleteDatabase('calm-keel'));
  await page.reload();
  await field.setInputFiles(path);
  await expect(page.getByText('1 new line came in.')).toBeVisible();
  await expect(page.getByRole('table', { name: 'Exercises' }).getByRole('row', { name: /The mast hut/ })).toContainText('not done');
});

test('the edits of a job are practised on its front as it was found, and the job is not touched', async ({ page }) => {
  await openDemo(page);
  await page.goto('/practice/sheet/teasel/aft');
  const front = page.getByRole('group', { name: 'Front of Solar aft' });
  const edits = page.getByRole('region', { name: 'Edits in order' });
  const left = async (): Promise<number> => Number(/(\d+) left/.exec(await edits.innerText())![1]);
  const before = await left();
  expect(before).toBeGreaterThan(2);
  // Float was found at 27.6 V; the sheet wants 26.9 V.
  await expect(edits.getByRole('listitem').filter({ hasText: 'Hold level' })).toContainText('is 27.6');
  for (const key of ['Enter', 'Down', 'Enter', 'Down', 'Down', 'Down', 'Enter']) await front.getByRole('button', { name: key, exact: true }).click();
  await expect(front.getByRole('status')).toContainText('Levels › Hold level');
  for (let i = 0; i < 7; i++) await front.getByRole('button', { name: 'Down', exact: true }).click();
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await expect(edits.getByRole('listitem').filter({ hasText: 'Hold level' })).toContainText('in use, not saved');
  await front.getByRole('button', { name: 'Enter', exact: true }).click();
  await expect(front.getByText('open for editing')).toBeAttached();
  await front.getByRole('button', { name: 'Hold Enter 3 s' }).click();
  // “in use, not saved” has the word too.
  await expect(edits.getByRole('listitem').filter({ hasText: 'Hold level' })).toContainText(/(?<!not )saved/);
  expect(await left()).toBe(before - 1);
  await page.goto('/job/teasel/settings?view=differences');
  await expect(page.getByText('27.6').first()).toBeVisible();
  await page.goto('/practice/sheet/teasel/nobody');
  await expect(page.getByRole('heading', { name: 'No such device' })).toBeVisible();
});
