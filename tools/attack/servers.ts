import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import type { Browser, Page } from '@playwright/test';
import makeCoreBundle from '../../e2e/core-bundle';
import { begunJob, openJob, openLaunch } from '../../e2e/jobs';
import { ownServer } from '../../e2e/servers';
import { beginVisit, storedNote } from '../../e2e/visits';
import { counting, type Row } from './table';
import { aftCard, device } from './wire';

/** What is waited for in a page at most, ms. */
export const patienceMs = 120_000;
const stations = ['Spec', 'System', 'Settings', 'Rehearse', 'Program', 'Prove'] as const;

/** What the page must come to show; of several, which one it was. */
async function shown<T extends string>(page: Page, texts: Readonly<Record<T, RegExp>>): Promise<T> {
  const names = Object.keys(texts) as T[];
  const found = await page.waitForFunction(
    (patterns) => {
      const at = patterns.findIndex((pattern) => new RegExp(pattern).test(document.body.innerText));
      return at === -1 ? null : `${at}`;
    },
    names.map((name) => texts[name].source),
    { timeout: patienceMs },
  );
  const name = names[Number(await found.jsonValue())];
  if (name === undefined) throw new Error('nothing of it is shown');
  return name;
}

/** A newer version put on the server under an open page, while somebody types: the page says so, goes there by loading anew, and has what was typed. */
export async function newVersions(browser: Browser, base: string, rounds: number, random: () => number): Promise<Row> {
  const count = counting('a newer version under an open page');
  for (let n = 0; n < rounds; n++) {
    const context = await browser.newContext({ baseURL: base, serviceWorkers: 'block' });
    try {
      const page = await context.newPage();
      await openLaunch(page, 'hand-over');
      await beginVisit(page);
      let gone = true;
      await page.route(/chunk-.*\.js$/, (route) =>
        gone ? route.fulfill({ status: 404, contentType: 'text/plain', body: 'There is no such file.' }) : route.continue(),
      );
      const note = `version ${n} ${'x'.repeat(Math.floor(random() * 400))}`;
      await page.getByLabel('Notes').fill(note);
      const station = stations[Math.floor(random() * stations.length)] ?? 'Spec';
      await page.getByRole('link', { name: station }).first().click();
      const told = page.getByText('could not be fetched');
      const place = new RegExp(`/teasel/${station.toLowerCase()}`);
      // A station whose parts are here already opens, and there is nothing to say.
      await Promise.race([told.waitFor({ timeout: patienceMs }), page.waitForURL(place, { timeout: patienceMs })]);
      const opened = place.test(page.url());
      gone = false;
      if (!opened) {
        await page.getByRole('button', { name: 'Reload, and go there' }).click();
        await page.waitForURL(place, { timeout: patienceMs });
      }
      await page.locator('.work h1').first().waitFor({ timeout: patienceMs });
      if ((await storedNote(page)) === note) count.came(opened ? 'opened, and all kept' : 'told of, gone to, and all kept');
      else count.fault('silent loss', `${n}: ${station}`);
    } catch (error) {
      count.fault('hang', `${n}: ${String(error).slice(0, 300)}`);
    }
    await context.close();
  }
  return count.row();
}

/**
 * The server killed in the middle of a write, in front of a real page: the page does not know what became of it, through a reload, until
 * it has read the device; then it says what stands there, and nothing was sent twice.
 */
export async function killedServers(browser: Browser, rounds: number, random: () => number): Promise<Row> {
  const count = counting('server killed in the middle of a write');
  if (rounds === 0) return count.row();
  await makeCoreBundle();
  const job = await begunJob(/Engine of Alternator: off$/);
  const card = aftCard();
  const float = card.telemetry?.values.find((v) => v.role === 'floatVoltage');
  const register = float?.register ?? -1;
  const wanted = Math.round(26.9 / (float?.scale ?? 1));
  const folder = mkdtempSync(join(tmpdir(), 'keel-attack-'));
  for (let n = 0; n < rounds; n++) {
    // Slow enough that a write and its readings back take longer than the time after which the server dies.
    const answersMs = 20;
    const there = device(card, () => 0, answersMs);
    await new Promise<void>((resolve) => there.server.listen(0, '127.0.0.1', resolve));
    const list = join(folder, 'devices.json');
    writeFileSync(list, JSON.stringify([{ name: 'teasel-aft', host: '127.0.0.1', port: (there.server.address() as AddressInfo).port }]));
    let server = await ownServer({ DEVICES: list });
    const context = await browser.newContext({ baseURL: server.base, serviceWorkers: 'block' });
    try {
      const page = await context.newPage();
      await openJob(page, 'teasel', 'program', job);
      await page.getByTestId('answer').click();
      await page.getByRole('button', { name: 'All steps' }).click();
      await page.getByRole('button', { name: 'Solar aft Float', exact: true }).click();
      const dieAfterMs = random() * answersMs * 8;
      const { port } = new URL(server.base);
      const dead = new Promise<void>((resolve) => {
        void page.route(
          '**/api/link/write',
          (route) =>
            void Promise.all([route.continue(), wait(dieAfterMs).then(() => server.stop())]).then(() => {
              resolve();
            }),
        );
      });
      await page.locator('ck-wire-panel').getByRole('button', { name: 'Write 26.9 V over the wire' }).click();
      await dead;
      const before = await shown(page, { unknown: /State unknown/, through: /1 of 11 entered/ });
      server = await ownServer({ DEVICES: list }, Number(port));
      if (before === 'through') {
        if (there.memory.get(register) === wanted && there.writes(wanted) === 1) count.came('answered before it died');
        else count.fault('unverified “done”', `${n}: after ${dieAfterMs} ms`);
      } else {
        await page.reload();
        await shown(page, { unknown: /State unknown/ });
        await page.getByRole('button', { name: 'Read the device' }).click();
        const said = await shown(page, { taken: /It was taken: Float/, notTaken: /It was not taken: Float/ });
        if (there.writes(wanted) > 1) count.fault('repeated write', `${n}: after ${dieAfterMs} ms`);
        else if ((said === 'taken') !== (there.memory.get(register) === wanted)) count.fault('unverified “done”', `${n}: after ${dieAfterMs} ms`);
        else count.came(said === 'taken' ? 'unknown, then read: taken' : 'unknown, then read: not taken');
      }
    } catch (error) {
      count.fault('hang', `${n}: ${String(error).slice(0, 300)}`);
    }
    await context.close();
    await server.stop();
    there.server.close();
  }
  rmSync(folder, { recursive: true, force: true });
  return count.row();
}
