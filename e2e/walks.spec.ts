import type { Page } from '@playwright/test';
import { expect, saved, test } from './keel';

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

/** What has the focus, as it is called. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const on = document.activeElement;
    return on instanceof HTMLInputElement || on instanceof HTMLSelectElement
      ? (on.labels?.[0]?.textContent ?? on.getAttribute('aria-label') ?? '').trim()
      : (on?.textContent ?? '').trim();
  });

test('a hurried technician types a new job from two pages of paper, by the keyboard alone', async ({ page }, info) => {
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
  await keys.fill(['', '105', '', 'LT-31 charging', '3', '2026-04', '', '']);
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
  await keys.tab(4);
  expect(await focused(page)).toBe('Strings in parallel');
  await keys.fill(['3', '60', '', '40', '', '', 'Bakery cart, under the counter', '2', '38', '-8', '1']);
  await keys.type('9');
  await keys.tab(5);
  expect(await focused(page)).toBe('Add the first charger');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toContain('Varrow S45');
  await keys.tab(2);
  expect(await focused(page)).toContain('Varrow P15');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toBe('Name');
  await keys.type('Roof');
  await keys.tab(12);
  expect(await focused(page)).toBe('Its fuse');
  await keys.type('20');
  await keys.tab(8);
  expect(await focused(page)).toBe('Add another charger or companion');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toContain('Varrow S45');
  await keys.tab(3);
  expect(await focused(page)).toContain('Tessick D30');
  await keys.press('Enter');
  await expect.poll(() => focused(page)).toBe('Name');
  await keys.type('Van feed');
  await keys.tab(10);
  expect(await focused(page)).toBe('Bank it draws from');
  await keys.type('Van');
  await keys.tab(7);
  expect(await focused(page)).toBe('Its fuse');
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
