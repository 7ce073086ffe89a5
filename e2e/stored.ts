import type { Page } from '@playwright/test';

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
