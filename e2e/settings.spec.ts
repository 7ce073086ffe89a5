import type { Page } from '@playwright/test';
import { chosenValue, expect, figure, goTo, saved, test } from './keel';
import { openJob, openLaunch } from './jobs';

/** A finding in the list, by what it says. */
const finding = (page: Page, says: RegExp) => page.locator('ck-findings').getByRole('button', { name: says });
/** Opens a finding that is not open already. */
async function open(page: Page, says: RegExp): Promise<void> {
  const button = finding(page, says);
  if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
}
const view = (page: Page, name: string) => page.getByRole('tab', { name, exact: true }).click();
const stops = (page: Page) => page.locator('ck-findings').getByRole('button', { name: /^Stop:/ });

test(
  'the launch: five stops as found, two of which keying-in would not mend; their remedies and one acceptance leave none, and Program opens',
  { tag: '@long' },
  async ({ page }) => {
    await openLaunch(page, 'program');
    await expect(page.getByText('Do not start: 2 stops are open.')).toBeVisible();
    await expect(page.getByRole('listitem').filter({ hasText: 'own figures' }).first()).toBeVisible();
    await goTo(page, 'Settings');
    // Program lists the same findings: they are pressed when Settings has taken its place.
    await expect(page.getByRole('tablist', { name: 'View of the settings' })).toBeVisible();
    await expect(stops(page)).toHaveCount(5);
    for (const [says, remedy] of [
      [/high-voltage alarm is at 29\.4/, 'Record that it now reads 28.8 V'],
      [/Solar aft: low-temperature cutoff was found at 0/, 'Record that it now reads 4 °C'],
      [/Solar aft: float was found at 27\.6/, 'Record that it now reads 26.9 V'],
      [/The chargers can deliver/, /^Stagger: DC-DC from 0/],
    ] as const) {
      await open(page, says);
      await page.locator('ck-findings').getByRole('button', { name: remedy }).click();
      // The list closes up before the next one is pressed.
      await expect(finding(page, says)).toHaveCount(0);
    }
    await expect(stops(page)).toHaveCount(1);
    await open(page, /DC-DC has no working cold protection/);
    await page.getByRole('button', { name: 'Accept it with a reason' }).click();
    const accept = page.getByRole('group', { name: 'Accept this stop' });
    await expect(accept.getByRole('button', { name: 'Accept with this reason' })).toBeDisabled();
    await accept.getByLabel('Reason, which goes into the report').fill('the engine is never run in frost');
    await accept.getByRole('button', { name: 'Accept with this reason' }).click();
    await expect(page.getByText(/Accepted by the technician on .*: the engine is never run in frost/)).toBeVisible();
    await goTo(page, 'Program');
    await expect(page.getByText('No stop is open.')).toBeVisible();
    await saved(page);
    await page.reload();
    await expect(page.getByText('No stop is open.')).toBeVisible();
    // A colder place changes what was accepted: it stands again.
    await goTo(page, 'System');
    await page.getByLabel('Bank, coldest').fill('-9');
    await goTo(page, 'Program');
    await expect(page.getByText(/Do not start/)).toBeVisible();
  },
);

for (const way of [/^Raise every cutoff past 12/, /^Stagger/, /^Lower the limits to 23/])
  test(`the derating stop goes by ${way.source.slice(1, 8)}, and comes back with undo`, async ({ page }) => {
    await openLaunch(page, 'settings');
    const derating = finding(page, /The chargers can deliver 182.*23.A below 5/);
    await open(page, /The chargers can deliver 182.*23.A below 5/);
    await page.getByRole('button', { name: way }).click();
    await expect(derating).toHaveCount(0);
    await page.locator('body').press('Control+z');
    await expect(derating).toHaveCount(1);
  });

test('the mast: the disconnect out of reach is said with what follows; a reversed slope is a stop', { tag: '@long' }, async ({ page }) => {
  await openJob(page, 'rook-moss', 'settings');
  await open(page, /takes 10\.5\sV to 11\.5\sV for load disconnect\. The sheet requires 11\.76/);
  await expect(page.getByText(/fit a separate disconnect/)).toBeVisible();
  await goTo(page, 'Spec');
  await figure(page, 'Compensation slope').fill('+4 mV/°C/cell');
  await page.keyboard.press('Enter');
  await expect(finding(page, /rising with temperature\. A lead battery’s falls/)).toBeVisible();
});

test('the hut: sources agree, the follower shows inherited figures, and nothing of them is keyed', { tag: '@long' }, async ({ page }) => {
  await openJob(page, 'skarrow', 'settings');
  await page.getByRole('button', { name: /^Solar follower: absorb 28\.80 V, from leader/ }).click();
  await expect(page.getByText('From its leader')).toBeVisible();
  await expect(page.getByRole('table', { name: 'How it is worked out' })).toContainText('Taken from Solar leader over the link');
  await expect(page.getByRole('button', { name: 'One device step up' })).toHaveCount(0);
  await expect(finding(page, /differ in absorb/)).toHaveCount(0);
  await goTo(page, 'Program');
  await page.getByRole('group', { name: 'Device', exact: true }).getByRole('button', { name: 'Solar follower' }).click();
  await expect(page.getByRole('region', { name: 'Program' }).getByRole('listitem')).toHaveCount(1);
});

test('the temperature slider moves what is compensated, and only that', { tag: '@long' }, async ({ page }) => {
  await openJob(page, 'skarrow', 'settings');
  await expect(page.getByRole('button', { name: /^Solar leader: absorb 28\.80 V/ })).toBeVisible();
  await page.getByRole('slider').focus();
  await page.getByRole('button', { name: 'coldest −12 °C' }).click();
  // −48 mV/°C for the bank, followed to −10 °C: 28.8 + 0.048 × 35.
  await expect(page.getByRole('button', { name: /^Solar leader: absorb 30\.48 V/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Solar leader: recharge 24\.90 V/ })).toBeVisible();
  await page.getByRole('button', { name: 'Back to the reference' }).click();
  await expect(page.getByRole('button', { name: /^Solar leader: absorb 28\.80 V/ })).toBeVisible();
  await view(page, 'Cold and heat');
  await expect(page.getByRole('img', { name: /absorb 30\.48\sV at −12\s°C, 28\.85\sV at 24\s°C/ })).toBeVisible();
});

test('the stage: the relay planner refuses a contact too small for the cold array, and takes a larger one', async ({ page }) => {
  await openJob(page, 'tumbler', 'settings');
  await view(page, 'Relay');
  await expect(page.getByText(/needs 135\sV DC .* breaks 30\sV and 10\sA: too small/)).toBeVisible();
  await expect(finding(page, /own contact is rated for 30\sV/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Contact breaks' }).fill('200');
  await page.getByRole('textbox', { name: 'Contact carries' }).fill('25 A');
  await expect(finding(page, /contact is rated for/)).toHaveCount(0);
  await expect(page.getByRole('row', { name: /Sensor lost open open alive not charging/ })).toBeVisible();
  await page.getByLabel('The relay opens').selectOption('batterySide');
  await expect(page.getByRole('row', { name: /Sensor lost open open loses its supply/ })).toBeVisible();
  await expect(finding(page, /opens the battery side of Roof\. It belongs on the array side/)).toBeVisible();
  await open(page, /opens the battery side of Roof/);
  await page.getByRole('button', { name: 'Record: relay moved to the array side' }).click();
  await expect(page.getByRole('row', { name: /Sensor lost open open alive/ })).toBeVisible();
  await page.getByRole('textbox', { name: 'Contact breaks' }).fill('lots');
  await expect(page.getByRole('alert')).toBeVisible();
});

test('a slip each raises its finding: wrong basis, sensor unplugged, pad, equalise on, a new charger', { tag: '@long' }, async ({ page }) => {
  await openLaunch(page, 'spec');
  await figure(page, 'Absorb voltage').fill('28.1 V/cell');
  await page.keyboard.press('Enter');
  await expect(finding(page, /Absorb voltage/i).first()).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();

  await goTo(page, 'System');
  await page.getByRole('button', { name: 'Solar fore, S45' }).click();
  await page.getByRole('combobox', { name: 'Sensor on the battery' }).selectOption('none');
  await expect(finding(page, /Solar fore: the sensor is unplugged, and the cutoff needs it/)).toBeVisible();
  await expect(finding(page, /Solar fore has no working cold protection: it has no battery sensor/)).toBeVisible();
  await page.getByRole('combobox', { name: 'Sensor on the battery' }).selectOption('');
  await expect(finding(page, /nobody has said whether its battery sensor is fitted/).first()).toBeVisible();
  await page.getByRole('combobox', { name: 'Sensor on the battery' }).selectOption('batteryCase');
  await page.getByLabel('Reads warmer by').fill('2.5');
  await expect(finding(page, /Solar fore: the sensor reads 2\.5/)).toBeVisible();
  await page.getByLabel(/\(equalise\)/).selectOption('on request');
  await expect(finding(page, /Solar fore was found with equalise on “on request”/)).toBeVisible();

  await page.getByRole('button', { name: 'Add a charger or companion' }).click();
  await page
    .getByRole('button', { name: /^Varrow S45(?! b)/ })
    .first()
    .click();
  await expect(finding(page, /the display was not compared with a meter/)).toBeVisible();
  await expect(finding(page, /no fuse to the bank/)).toBeVisible();
});

test('the ladder by hand and by keys: dragged, stepped, let go with Escape; five devices, no label on another', async ({ page }) => {
  await openLaunch(page, 'settings');
  const rung = page.getByRole('button', { name: /^DC-DC: float 26\.90/ });
  const box = (await rung.boundingBox())!;
  await page.mouse.move(box.x + box.width - 30, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 30, box.y + box.height / 2 - 40, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByRole('group', { name: 'Trying a value' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'DC-DC, float' })).toBeVisible();
  const tried = Number((await chosenValue(page).innerText()).replace(/[^\d.]/g, ''));
  expect(tried).toBeGreaterThan(27.1);
  await expect(finding(page, /DC-DC: float is overridden by the technician and comes to/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(chosenValue(page)).toHaveText('26.9V');
  await page.getByRole('button', { name: /^DC-DC: absorb/ }).focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(chosenValue(page)).toHaveText('28.3V');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('group', { name: 'Trying a value' })).toHaveCount(0);
  // Leaving the station lets go of what was tried.
  await page.keyboard.press('ArrowUp');
  await goTo(page, 'System');
  await expect(page).toHaveURL(/\/system(\?|$)/);
  await goTo(page, 'Settings');
  await expect(page.getByRole('button', { name: /^DC-DC: absorb 28\.10 V$/ })).toBeVisible();
});

test('schools: what another would come to is computed, the choice is kept with person and reason, and undone', async ({ page }) => {
  await openLaunch(page, 'settings');
  await page.getByRole('button', { name: 'Weigh the choices on this job' }).click();
  const float = page.getByRole('region', { name: 'Lithium float' });
  const equal = float.getByRole('button', { name: /^Float equals absorb/ });
  await expect(equal).toContainText('Solar fore: float 27.1 V → 28.3 V');
  await expect(equal).toContainText('Comes:');
  await expect(float.getByRole('button', { name: /^Hold at the sheet’s float/ })).toContainText('Chosen, the careful default');
  // What makes no difference here is folded, and can be chosen all the same.
  await expect(page.getByText(/more choices? changes? nothing on this job/)).toBeVisible();
  await page.getByLabel('Chosen by (their role)').fill('owner');
  await page.getByLabel('Reason, saved with the next choice').fill('cycled daily');
  await equal.click();
  await expect(equal).toHaveAttribute('aria-pressed', 'true');
  await expect(float).toContainText(/Chosen by the owner on \d{4}-\d\d-\d\d: cycled daily\./);
  await expect(finding(page, /float equals absorb” holds/)).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByText(/Lithium float: Float equals absorb\. Chosen by the owner on .*: cycled daily\./)).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByText(/Lithium float: Float equals absorb/)).toHaveCount(0);
});

test('the table ends every setting; what differs tells factory, last visit, found and target', async ({ page }) => {
  await openLaunch(page, 'settings');
  await expect(page.getByRole('button', { name: /^Solar fore: absorb/ })).toBeVisible();
  await page.locator('body').press('t');
  await expect(page.getByRole('row', { name: /machine temperature limit/ })).toContainText('100 °C');
  await expect(page.getByRole('row', { name: /^full-charge voltage/ })).toContainText('27.7 V');
  await view(page, 'What differs');
  const float = page.getByRole('row', { name: /^float 27\.6 V 27\.3 V 27\.6 V 26\.9 V/ });
  await expect(float).toContainText('set, changed since last visit');
  await page.getByLabel('Also what needs no change').check();
  await expect(page.getByRole('row', { name: /^equalise off|^equalise / }).first()).toBeVisible();
});

test('program: back as found, and a preset refused while a source is live', async ({ page }) => {
  await openLaunch(page, 'program');
  await page.getByRole('group', { name: 'Device', exact: true }).getByRole('button', { name: 'Solar aft' }).click();
  await page.getByLabel('Put back as found').check();
  await expect(page.getByRole('listitem').filter({ hasText: '27.6' })).toBeVisible();
  await goTo(page, 'System');
  await page.getByRole('button', { name: 'DC-DC, D30' }).click();
  await page.getByLabel(/\(battery type\)/).selectOption('wet');
  await goTo(page, 'Program');
  await page.getByRole('group', { name: 'Device', exact: true }).getByRole('button', { name: 'DC-DC' }).click();
  await page.getByLabel('A source is live while keying').check();
  await expect(page.getByRole('alert')).toContainText('Open the array breaker');
});
