import type { Page } from '@playwright/test';
import { saved } from './keel';

/** Where the visits of the launch are. */
export const visits = '/job/teasel/hand-over?view=visits';

/** Goes to the visits of the launch and begins one; done when it is stored. */
export async function beginVisit(page: Page): Promise<void> {
  await page.goto(visits);
  await page.getByRole('button', { name: 'Begin a visit today' }).click();
  await saved(page);
}

/** The note of the newest visit of the launch as it is stored, asked of the database itself. */
export const storedNote = (page: Page): Promise<string> =>
  page.evaluate(
    () =>
      new Promise<string>((resolve) => {
        const open = indexedDB.open('calm-keel');
        open.onsuccess = () => {
          const row = open.result.transaction('jobs').objectStore('jobs').get('teasel');
          row.onsuccess = () => {
            open.result.close();
            resolve((row.result as { doc: { visits: { note: string }[] } }).doc.visits.at(-1)?.note ?? '');
          };
        };
      }),
  );
