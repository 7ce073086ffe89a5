import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { bringLog, downloaded, expect, focused, openDemo, repo, saved, test } from './keel';
import { answerWell, title, walkTo } from './program';

/** Counts what a person presses. */
function hand(page: Page) {
  let presses = 0;
  const press = async (key: string, times = 1): Promise<void> => {
    for (let i = 0; i < times; i++) {
      presses++;
      await page.keyboard.press(key);
    }
  };
  return {
    press,
    tab: (times = 1): Promise<void> => press('Tab', times),
    /** Tab after Tab until this has the focus. */
    tabTo: async (name: string): Promise<void> => {
      for (let i = 0; i < 40 && (await focused(page)) !== name; i++) await press('Tab');
      expect(await focused(page)).toBe(name);
    },
    type: async (text: string): Promise<void> => {
      presses += text.length;
      await page.keyboard.type(text);
    },
    /** Each text into a field, Tab after it; an empty one leaves the field as it is. */
    fill: async (texts: readonly string[]): Promise<void> => {
      for (const text of texts) {
        presses += text.length;
        if (text !== '') await page.keyboard.type(text);
        await press('Tab');
      }
    },
    presses: (): number => presses,
  };
}

test('a hurried technician types a new job from two pages of paper, by the keyboard alone', { tag: '@long' }, async ({ page }, info) => {
  await page.goto('/');
  const keys = hand(page);
  await page.getByRole('button', { name: 'New job' }).focus();
  await keys.press('Enter');
  await keys.type('Kestrel bakery cart');
  await keys.press('Enter');

  // Spec is there with the first field ready: battery and document, then the figures in the order of the paper.
  await expect.poll(() => focused(page)).toBe('Maker');
  await keys.fill(['Larkfield', 'LT-31']);
  await keys.type('A');
  await keys.tab();
  // Cells and volts follow the chemistry.
  await keys.fill(['12', '105', '', 'LT-31 charging', '3']);
  expect(await focused(page)).toBe('Whose figures');
  // Maker, for this charger.
  await keys.fill(['M', '2026-04', '', '']);
  await expect(page.getByText('On this bank: 1 in series × 1 in parallel, 6 cells, 12.0 V, 105 Ah.')).toBeVisible();
  expect(await focused(page)).toBe('Absorb voltage, as printed');
  const volts = ['14.4 (14.2-14.6)', '13.6 (13.5-13.8)', 'at most 12.8', 'not permitted', '12.6', '11.5'];
  const currents = ['4 h', '0.02 C', '', '', '', '0.25 C', '0.2 C'];
  const temperatures = ['-15 to 50', '', '-4 mV/C/cell', '25', '0 to 40'];
  await keys.fill([...volts, ...currents, ...temperatures, '13.4', '', '', '1', '4']);
  await saved(page);

  // System: bank, place and loads, then the two chargers.
  await keys.press('Alt+PageDown');
  await expect(page.getByRole('heading', { name: 'One-line drawing' })).toBeFocused();
  await keys.tab(3);
  expect(await focused(page)).toBe('Batteries in series');
  await keys.fill(['1', '3', '60', '', '40', '', '', 'Bakery cart, under the counter', '2', '38', '-8', '1']);
  await keys.type('9');
  await keys.tab(5);
  expect(await focused(page)).toBe('Add the first charger');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toBe('Search maker, model or kind');
  await keys.type('P15');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toBe('Name');
  await keys.type('Roof');
  // Nobody has said yet that its sensor is there.
  await keys.tabTo('Sensor on the battery');
  // On the battery case.
  await keys.type('O');
  await expect(page.getByLabel('Reads warmer by')).toBeVisible();
  await keys.tabTo('Its fuse');
  await keys.type('20');
  await keys.tabTo('Add another charger or companion');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toBe('Search maker, model or kind');
  await keys.type('D30');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toBe('Name');
  await keys.type('Van feed');
  await keys.tabTo('Bank it draws from');
  await keys.type('Van');
  await keys.tabTo('Its fuse');
  await keys.type('40');
  // A least load below a most that came later stands, although it could not when it was typed.
  await expect(page.getByRole('group', { name: 'One-line drawing' })).toContainText('1 A at least, 9 A at most');

  // Settings: every charger has its figures, and nothing stands in the way.
  await keys.press('Alt+PageDown');
  await expect(page.getByRole('heading', { name: 'Setpoint ladder' })).toBeFocused();
  await expect(page.getByRole('button', { name: 'Roof: absorb 14.40 V' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Van feed: float 13.60 V' })).toBeVisible();
  await expect(page.getByRole('heading', { level: 3 }).filter({ hasText: 'Stop:' })).toHaveCount(0);
  await expect(page.getByRole('heading', { level: 3 }).filter({ hasText: 'Attention:' }).first()).toBeVisible();
  await saved(page);
  // About two and a half minutes of a quick typist.
  info.annotations.push({ type: 'key presses', description: `${keys.presses()} on three screens` });
  expect(keys.presses()).toBeLessThan(480);
});

test('somebody new to the trade follows what the pages say, from the opened demo to the handed-over report', { tag: '@long' }, async ({ page }, info) => {
  await openDemo(page);
  const on = async (station: RegExp): Promise<void> => {
    await page.getByRole('link', { name: station }).click();
    await expect(page.getByRole('heading', { level: 1 })).toBeFocused();
  };

  // The list says where to go on, and there the first finding says what to do.
  await page.getByRole('link', { name: 'Carry on at System' }).first().click();
  await page.getByRole('button', { name: 'Record: sensor fitted on the battery case' }).click();
  await expect(page.getByRole('group', { name: 'One-line drawing' })).not.toContainText('no lead');
  await on(/^Next: Settings/);
  // The monitor is told wrongly, but that is no stop: the ladder says so as gravely as the finding does.
  await expect(page.getByRole('button', { name: /^Solar aft: float as found 27\.60 V, 0\.50 V above/ })).toBeVisible();
  await on(/^Next: Rehearse/);
  await expect(page.getByRole('row', { name: /Never above the maximum/ })).toBeVisible();
  await on(/^Next: Program/);

  // What stands in the way stands there with its ways out.
  await expect(page.getByText('Do not start: 1 stop is open.')).toBeVisible();
  await page.getByRole('button', { name: /^Stagger:/ }).click();
  await expect(page.getByText('No stop is open.')).toBeVisible();
  await expect(page.getByText('Enter your initials: they go with every reading.')).toBeVisible();
  await page.getByLabel('Initials').fill('NN');
  await page.getByRole('button', { name: 'Begin the run sheet' }).click();
  await expect(title(page)).toHaveText('The bank can weld a spanner');
  await walkTo(page, 'Leave it as it should run');
  await answerWell(page);
  await page.getByRole('button', { name: 'End the run sheet' }).click();
  await expect(page.getByText(/Last run sheet ended .* by NN/)).toBeVisible();
  // Nothing speaks of values as found any more.
  await expect(page.getByRole('navigation', { name: 'Work stations' }).getByRole('link', { name: /^Settings, (done|\d open)/ })).toBeVisible();
  await expect(page.getByRole('heading', { level: 3 }).filter({ hasText: 'Stop:' })).toHaveCount(0);
  await on(/^Next: Prove/);

  await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
  await expect(page.getByRole('row', { name: /Fails No charge when cold Solar aft/ })).toBeVisible();
  await expect(
    page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link', { name: /^something fails in it: teasel-freezing-dawn/ }),
  ).toBeVisible();
  // The log is older than what has just been keyed: it says so, and the report does not count it.
  await expect(page.getByText(/^Taken before Solar fore, Solar aft.* were set anew: it tells what was/)).toBeVisible();
  await on(/^Next: Hand over/);
  const report = page.getByRole('article', { name: /^Hand-over/ });
  await expect(report).toContainText('read back');
  await expect(report).toContainText(/\d+\sproved/);
  await expect(report).not.toContainText(/\d+\sfails?/);
  const pdf = await downloaded(page, info.outputPath('report.pdf'), () => page.getByRole('button', { name: 'Save as PDF' }).click());
  expect(readFileSync(pdf).subarray(0, 5).toString()).toBe('%PDF-');
});
