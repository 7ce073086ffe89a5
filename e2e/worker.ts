import { expect, type Page } from '@playwright/test';

/** Everything that the worker is to keep is kept. */
export async function allKept(page: Page): Promise<void> {
  await expect
    .poll(
      () =>
        page.evaluate(async () => {
          const table = (await (await fetch('/ngsw.json?ngsw-bypass=1')).json()) as { hashTable: Record<string, string> };
          const kept = new Set<string>();
          for (const name of await caches.keys()) for (const request of await (await caches.open(name)).keys()) kept.add(new URL(request.url).pathname);
          return Object.keys(table.hashTable).filter((path) => !kept.has(path)).length;
        }),
      { timeout: 60_000 },
    )
    .toBe(0);
}
