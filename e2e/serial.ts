import type { Page } from '@playwright/test';
import { expect } from './keel';
import { begunJob, openJob } from './jobs';
import { answerWell, press, title } from './program';

/**
 * One charger of the launch written over the wire, with an order that is drowned in noise, an answer that never comes, an answer that comes late, and a power
 * cut before the save.
 *
 * @param wire where the wire is on this screen
 */
export async function writtenOverTheLine(page: Page, wire: () => ReturnType<Page['locator']>): Promise<void> {
  await press(page, { do: 'reset' });
  await openJob(page, 'teasel', 'program', await begunJob(/Engine of Alternator: off$/));
  await answerWell(page);
  await page.getByRole('button', { name: 'All steps' }).click();
  await page.getByRole('button', { name: 'Solar aft Float', exact: true }).click();
  const write = wire().getByRole('button', { name: 'Write 26.9 V over the wire' });
  await press(page, { do: 'fault', device: 'teasel-aft', fault: 'dropBefore', on: true });
  await write.click();
  await expect(wire().getByRole('alert').filter({ hasText: 'It reads 27.6 instead of 26.9' })).toBeVisible();
  await expect(title(page)).toHaveText('Float');
  await press(page, { do: 'fault', device: 'teasel-aft', fault: 'dropAfter', on: true });
  await write.click();
  await expect(title(page)).toHaveText('Equalise voltage');
  // A neighbour on the line answers late: what is written to this one is its own all the same.
  await press(page, { do: 'fault', device: 'teasel-fore', fault: 'late', on: true });
  await wire()
    .getByRole('button', { name: /all \d+ of Solar aft$/ })
    .click();
  await wire().getByRole('button', { name: 'Write them' }).click();
  await expect(title(page)).toHaveText('Cut its power and read again');
  await press(page, { do: 'cut', device: 'teasel-aft' });
  await wire().getByRole('button', { name: 'Read this step over the wire' }).click();
  await expect(title(page)).not.toHaveText('Cut its power and read again');
}
