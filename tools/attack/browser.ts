import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { randomFrom } from '../../core/src/physics';
import { chromiumOptions } from '../../e2e/browser';
import { ownServer } from '../../e2e/servers';
import { beginVisit, storedNote, visits } from '../../e2e/visits';
import { killedServers, newVersions, patienceMs } from './servers';
import { counting, type Row } from './table';

/** What came of the attacks, and how much a killed tab loses. */
export interface BrowserAttack {
  readonly rows: readonly Row[];
  /** ms between the first key that is not stored and the kill, for each kill; 0 where nothing was lost. */
  readonly lossMs: readonly number[];
}

async function openDemo(page: Page): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the demo' }).first().click();
  await page.getByRole('link', { name: 'Survey launch Teasel' }).waitFor({ timeout: patienceMs });
}

/** Tabs killed while somebody types faster than any hand. */
async function kills(context: BrowserContext, looker: Page, rounds: number, random: () => number): Promise<{ row: Row; lossMs: readonly number[] }> {
  const count = counting('a tab killed while typing');
  const lossMs: number[] = [];
  for (let n = 0; n < rounds; n++) {
    const tab = await context.newPage();
    await tab.goto(visits);
    const notes = tab.getByLabel('Notes');
    await notes.fill('');
    await tab.waitForFunction(() => document.body.innerText.includes('Saved on this device'));
    await tab.evaluate(() => {
      const typed: [string, number][] = [];
      document.addEventListener('input', (event) => {
        typed.push([(event.target as HTMLTextAreaElement).value, Date.now()]);
        localStorage.setItem('typed', JSON.stringify(typed));
      });
      localStorage.setItem('typed', '[]');
    });
    await notes.focus();
    let keyed = '';
    for (let i = 0; i < 4 + Math.floor(random() * 14); i++) {
      const letter = 'abcdefghijklmnopqrstuvwxyz '[Math.floor(random() * 27)] ?? 'x';
      keyed += letter;
      await tab.keyboard.type(letter, { delay: 30 + random() * 60 });
    }
    const killedAt = Date.now();
    await tab.close({ runBeforeUnload: false });
    const typed = await looker.evaluate(() => JSON.parse(localStorage.getItem('typed') ?? '[]') as [string, number][]);
    const kept = await storedNote(looker);
    const at = typed.findIndex(([text]) => text === kept);
    if (!keyed.startsWith(kept)) count.fault('silent change', `${n}: “${kept}” was never typed so`);
    else {
      // The kill can come between the write and what the page tells of it.
      const lost = kept.length > typed.length ? undefined : typed[at + 1];
      lossMs.push(lost ? Math.max(0, killedAt - lost[1]) : 0);
      count.came(lost ? `${typed.length - at - 1} of its last letters lost` : 'nothing lost');
    }
  }
  return { row: count.row(), lossMs };
}

/** Runs in the page: puts something into a row of a table that should not be there. Gives what it did. */
function damage(draw: number): Promise<string> {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(draw * 7919) % list.length] as T;
  const rubbish: readonly unknown[] = [null, 7, 'x', [], {}, NaN, 'n'.repeat(1_000_000), new Uint8Array(3), new Date(NaN), undefined];
  return new Promise((resolve) => {
    const open = indexedDB.open('calm-keel');
    open.onsuccess = () => {
      const db = open.result;
      const table = pick([...db.objectStoreNames].filter((name) => name !== 'aside'));
      const work = db.transaction(table, 'readwrite');
      const store = work.objectStore(table);
      store.openCursor().onsuccess = (event) => {
        const cursor = (event.target as IDBRequest<IDBCursorWithValue | null>).result;
        if (!cursor || (table === 'jobs' && cursor.key === 'teasel')) {
          cursor?.continue();
          return;
        }
        const row = cursor.value as Record<string, unknown>;
        const keys = Object.keys(row).filter((key) => !(Array.isArray(store.keyPath) ? store.keyPath : [store.keyPath]).includes(key));
        const field = keys[Math.floor(draw * 104_729) % Math.max(1, keys.length)] ?? 'doc';
        const value = rubbish[Math.floor(draw * 1_299_709) % rubbish.length];
        cursor.update({ ...row, [field]: value });
      };
      work.oncomplete = () => {
        db.close();
        resolve(table);
      };
      work.onabort = () => {
        db.close();
        resolve(`${table}, refused by the browser`);
      };
    };
  });
}

/** Damaged rows in every table: the sound job is listed and opens, whatever stands beside it. */
async function damagedRows(page: Page, rounds: number, random: () => number): Promise<Row> {
  const count = counting('damaged rows, each table');
  for (let n = 0; n < rounds; n++) {
    const table = await page.evaluate(damage, random());
    const errors: string[] = [];
    const hear = (error: Error): number => errors.push(error.message);
    page.on('pageerror', hear);
    try {
      await page.goto('/');
      await page.getByRole('link', { name: 'Survey launch Teasel' }).waitFor({ timeout: patienceMs });
      await page.goto('/job/teasel/settings');
      await page.locator('.work h1').waitFor({ timeout: patienceMs });
      if (errors.length > 0) count.fault('crash', `${table}: ${errors[0] ?? ''}`);
      else count.came('listed and opened');
    } catch {
      count.fault('hang', `${n}: ${table}`);
    }
    page.off('pageerror', hear);
  }
  return count.row();
}

/** Two tabs that write different fields under clocks that jump: both come to show both, and that is what is stored. */
async function clocks(context: BrowserContext, rounds: number, random: () => number): Promise<Row> {
  const count = counting('two tabs, clocks that jump');
  const tabs = [await context.newPage(), await context.newPage()] as const;
  for (const tab of tabs) {
    await tab.addInitScript(() => {
      const real = Date.now.bind(Date);
      let by = 0;
      Date.now = () => real() + by;
      Object.assign(window, { jump: (ms: number) => (by = ms) });
    });
    await tab.goto(visits);
    await tab.getByLabel('Notes').waitFor({ timeout: patienceMs });
  }
  for (let n = 0; n < rounds; n++) {
    const jumps = [0, 1].map(() => Math.round((random() - 0.5) * 2 * 400 * 24 * 3600_000));
    const [note, purpose] = [`note ${n}`, `purpose ${n}`];
    await Promise.all(tabs.map((tab, i) => tab.evaluate((ms) => (window as unknown as { jump: (ms: number) => void }).jump(ms), jumps[i] ?? 0)));
    await Promise.all([tabs[0].getByLabel('Notes').fill(note), tabs[1].getByLabel('What for').fill(purpose)]);
    await tabs[1].getByLabel('What for').blur();
    const agree = (tab: Page): Promise<unknown> =>
      tab.waitForFunction(
        ([a, b]) => [...document.querySelectorAll('textarea')].some((t) => t.value === a) && [...document.querySelectorAll('input')].some((i) => i.value === b),
        [note, purpose] as const,
        { timeout: patienceMs },
      );
    try {
      await Promise.all(tabs.map(agree));
      if ((await storedNote(tabs[0])) === note) count.came('both show both');
      else count.fault('silent loss', `${n}: ${jumps.join(', ')}`);
    } catch {
      count.fault('silent loss', `${n}: ${jumps.join(', ')}`);
    }
  }
  for (const tab of tabs) await tab.close();
  return count.row();
}

/** A disk that is truly full: a small file system of its own. Needs the right to mount one; without it nothing is tried, and the row says so. */
async function fullDisk(base: string, rounds: number): Promise<Row> {
  const count = counting('a full disk');
  const place = mkdtempSync(join(tmpdir(), 'keel-disk-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=160m', 'tmpfs', place]).status === 0;
  if (!mounted) {
    rmSync(place, { recursive: true, force: true });
    return { ...count.row(), came: { 'not tried: no right to mount a small file system': 1 } };
  }
  try {
    for (let n = 0; n < rounds; n++) {
      const context = await chromium.launchPersistentContext(join(place, `profile-${n}`), { ...chromiumOptions, baseURL: base, serviceWorkers: 'block' });
      try {
        const page = context.pages()[0] ?? (await context.newPage());
        await openDemo(page);
        await beginVisit(page);
        // To the last block: smaller and smaller pieces, until none finds room.
        for (let size = 4_000_000, k = 0; size >= 1; k++) {
          try {
            writeFileSync(join(place, `fill-${k}`), Buffer.alloc(size));
          } catch {
            size = Math.floor(size / 4);
          }
        }
        // More than what the database has set aside for itself.
        await page.getByLabel('Notes').fill(`${n} ${'written on a full disk. '.repeat(60)}`);
        for (let k = 0; k < 30; k++)
          await page
            .getByLabel('Notes')
            .press('End')
            .then(() => page.keyboard.type(` ${k}`));
        const typed = await page.getByLabel('Notes').inputValue();
        await page.waitForFunction(() => /are not saved|Saved on this device/.test(document.body.innerText), null, { timeout: patienceMs });
        const told = await page.getByText('are not saved').count();
        for (const name of readdirSync(place).filter((file) => file.startsWith('fill'))) rmSync(join(place, name), { force: true });
        const again = page.getByRole('button', { name: 'Try again' });
        for (let k = 0; k < 30 && (await again.count()) > 0; k++) {
          await again.click();
          await page.waitForTimeout(1000);
        }
        const how =
          (await again.count()) > 0
            ? 'told of, held through a reload, and put back'
            : told > 0
              ? 'told of, held, and stored when there was room'
              : 'stored all the same';
        if ((await again.count()) > 0) {
          // The browser's storage is gone for this page: loaded anew it has what was held.
          page.on('dialog', (dialog) => void dialog.accept());
          await page.reload();
          await page.getByRole('button', { name: 'Put them into the job' }).click();
        }
        await page.waitForFunction(() => document.body.innerText.includes('Saved on this device') && !document.body.innerText.includes('are not saved'), null, {
          timeout: patienceMs,
        });
        if ((await storedNote(page)) !== typed) count.fault('silent loss', `${n}`);
        else count.came(how);
      } catch (error) {
        count.fault('hang', `${n}: ${String(error).slice(0, 300)}`);
      }
      await context.close();
      for (const name of readdirSync(place)) rmSync(join(place, name), { recursive: true, force: true });
    }
  } finally {
    spawnSync('umount', ['-l', place]);
    if (existsSync(place)) rmSync(place, { recursive: true, force: true });
  }
  return count.row();
}

/** Attacks the page in a real browser. */
export async function attackBrowser(
  rounds: Readonly<Record<'kills' | 'damages' | 'clocks' | 'disks' | 'versions' | 'deaths', number>>,
  seed: number,
): Promise<BrowserAttack> {
  const server = await ownServer({});
  const browser = await chromium.launch(chromiumOptions);
  const random = randomFrom(seed);
  try {
    const context = await browser.newContext({ baseURL: server.base, serviceWorkers: 'block' });
    // How these functions are compiled, they call this on every function that they hold.
    await context.addInitScript('globalThis.__name ??= (f) => f');
    const page = await context.newPage();
    await openDemo(page);
    await beginVisit(page);
    const jumped = await clocks(context, rounds.clocks, random);
    const looker = await context.newPage();
    await looker.goto('/label');
    const killed = await kills(context, looker, rounds.kills, random);
    const damagedOnes = await damagedRows(page, rounds.damages, random);
    await context.close();
    const versions = await newVersions(browser, server.base, rounds.versions, random);
    const deaths = await killedServers(browser, rounds.deaths, random);
    return { rows: [killed.row, jumped, damagedOnes, versions, deaths, await fullDisk(server.base, rounds.disks)], lossMs: killed.lossMs };
  } finally {
    await browser.close();
    await server.stop();
  }
}
