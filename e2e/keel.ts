import { test as base, expect, type Page } from '@playwright/test';
import { ownGround } from './servers';

export { repo } from './repo';

/** Every test fails on an error in the page's console, a policy violation, an uncaught exception or a request to another host. */
export const test = base.extend<{ serverStops: boolean; partsGone: boolean; quiet: undefined }, { ground: string; line: string }>({
  /** The job whose simulated devices share a serial line; empty for the usual one. */
  line: ['', { option: true, scope: 'worker' }],
  /** Server and simulated devices of this worker. */
  ground: [
    async ({ line }, use) => {
      const ground = await ownGround(line);
      await use(ground.base);
      await ground.stop();
    },
    { scope: 'worker' },
  ],
  baseURL: ({ ground }, use) => use(ground),
  /** The test stops the server: then its own addresses may go unanswered, and nothing else. */
  serverStops: [false, { option: true }],
  /** The test takes parts of the page away: then these may go unanswered, and nothing else. */
  partsGone: [false, { option: true }],
  quiet: [
    async ({ page, serverStops, partsGone }, use) => {
      const errors: string[] = [];
      page.on('console', (message) => {
        const { pathname } = new URL(message.location().url || 'http://127.0.0.1');
        const unanswered = (serverStops && pathname.startsWith('/api/')) || (partsGone && pathname.startsWith('/chunk-'));
        if (message.type() === 'error' && !unanswered) errors.push(message.text());
      });
      page.on('pageerror', (error) => errors.push(error.message));
      // What is on its way stays on its way for a while: a page that offers what it cannot do yet is found out without a busy machine.
      const late = Number(process.env['LATE'] ?? 0);
      if (late > 0)
        await page.route(/\.json$|\/api\/|chunk-/, async (route) => {
          await new Promise((later) => setTimeout(later, late));
          await route.fallback().catch(() => undefined);
        });
      // A sentence that nobody spoke would stand on the page as what it is made of.
      await page.addInitScript(() => {
        new MutationObserver((changes) => {
          for (const { target } of changes) if (target.nodeValue?.includes('[object ')) reportError(new Error(`shown as it is: ${target.nodeValue}`));
        }).observe(document, { subtree: true, characterData: true });
      });
      // Nothing is ever asked of another host.
      page.on('request', (request) => {
        const { protocol, hostname } = new URL(request.url());
        if (protocol.startsWith('http') && hostname !== '127.0.0.1') errors.push(`a request to ${hostname}`);
      });
      await use(undefined);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/** Address of a station of a job. */
export type Station = 'spec' | 'system' | 'settings' | 'rehearse' | 'program' | 'prove' | 'hand-over';

/** Opens the demo on an empty device and goes to a station of the launch. */
export async function openDemo(page: Page, station?: Station): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the demo' }).first().click();
  await expect(page.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();
  if (station) await page.goto(`/job/teasel/${station}`);
}

/** The field of a figure on the maker's paper. */
export const figure = (page: Page, name: string) => page.getByLabel(`${name}, as printed`, { exact: true });

/** Goes to a station by the keel line. */
export const goTo = (page: Page, station: string): Promise<void> =>
  page
    .getByRole('navigation', { name: 'Work stations' })
    .getByRole('link', { name: new RegExp(station) })
    .click();

/** Waits until the job says it is saved. */
export const saved = (page: Page): Promise<void> => page.getByRole('status').filter({ hasText: 'Saved on this device' }).first().waitFor({ timeout: 120_000 });

/** Brings a log in by the file field. */
export const bringLog = (page: Page, file: string | { name: string; mimeType: string; buffer: Buffer }): Promise<void> =>
  page.getByLabel('Log file').setInputFiles(file);

/** Presses one device step so many times, and keeps what it comes to as an override. */
export async function overrideBySteps(page: Page, way: 'up' | 'down', times: number, reason: string): Promise<void> {
  for (let i = 0; i < times; i++) await page.getByRole('button', { name: `One device step ${way}` }).click();
  await page.getByLabel('Reason for keeping it').fill(reason);
  await page.getByRole('button', { name: 'Keep as override' }).click();
}

/** The chosen setting's value in the inspector. */
export const chosenValue = (page: Page) => page.getByTestId('chosen-value');

/** The report as text, once every log has been judged. */
export async function reportText(page: Page, job: string): Promise<string> {
  await page.goto(`/job/${job}/hand-over`);
  const report = page.getByRole('article', { name: /^Hand-over/ });
  await expect(report).toBeVisible();
  await expect(page.getByText('The logs are being judged')).toHaveCount(0);
  await expect(page.getByText('Drawing the log.')).toHaveCount(0);
  return (await report.innerText()).replaceAll('\u00a0', ' ');
}

/** Saves what a press hands out, and gives its path. */
export async function downloaded(page: Page, path: string, press: () => Promise<unknown>): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent('download'), press()]);
  await file.saveAs(path);
  return path;
}

/** Opens what a row of the list of jobs has to offer, and chooses from it. */
export async function more(page: Page, job: string, what: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: `More for ${job}`, exact: true }).click();
  await page.locator('[ngbDropdownMenu].show').getByRole('button', { name: what }).click();
}

/** What has the focus, as it is called: by its label, by a name of its own, or by its words. */
export const focused = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const on = document.activeElement;
    const field = on instanceof HTMLInputElement || on instanceof HTMLSelectElement || on instanceof HTMLTextAreaElement;
    const called = (field ? on.labels?.[0]?.textContent : null) ?? on?.getAttribute('aria-label') ?? on?.textContent ?? '';
    return called.replace(/\s+/g, ' ').trim();
  });
