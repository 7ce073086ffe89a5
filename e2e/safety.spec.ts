import { openLaunch } from './jobs';
import { beginVisit, storedNote, visits } from './visits';
import { expect, goTo, openDemo, saved, test } from './keel';

/** What a page that is about to be killed tells of itself. */
interface Told {
  /** Every text the field had, in order. */
  typed: string[];
  /** Texts that found no write under way and began none. */
  idle: string[];
  /** What the last finished write carried, and what had been typed when the one before it ended. */
  written: string;
  due: string;
}

/** Runs in the page before anything else: notes keys, and writes with the text they carry, in a place that is written at once. */
function watchWrites(): void {
  const told: Told = { typed: [], idle: [], written: '', due: '' };
  const tell = (): void => localStorage.setItem('told', JSON.stringify(told));
  const newest = (): string => told.typed.at(-1) ?? '';
  let underWay = 0;
  let atLastEnd = '';
  const carried = new Map<IDBTransaction, string>();
  const put = IDBObjectStore.prototype.put;
  IDBObjectStore.prototype.put = function (...args) {
    if (this.name === 'jobs') carried.set(this.transaction, (args[0] as { doc: { visits: { note: string }[] } }).doc.visits.at(-1)?.note ?? '');
    return put.apply(this, args);
  };
  const transaction = IDBDatabase.prototype.transaction;
  IDBDatabase.prototype.transaction = function (...args: Parameters<typeof transaction>) {
    const opened = transaction.apply(this, args);
    if (opened.mode === 'readwrite' && [...opened.objectStoreNames].join() === 'history,jobs,meta') {
      underWay++;
      opened.addEventListener('complete', () => {
        underWay--;
        told.due = atLastEnd;
        atLastEnd = newest();
        told.written = carried.get(opened) ?? told.written;
        tell();
      });
    }
    return opened;
  };
  window.addEventListener('typing', () => {
    Object.assign(told, { typed: [], idle: [], written: '', due: '' } satisfies Told);
    atLastEnd = '';
    // The page's own listener sits on the field and has run by the time the key is heard here.
    document.addEventListener('input', (event) => {
      told.typed.push((event.target as HTMLTextAreaElement).value);
      if (underWay === 0) told.idle.push(newest());
      tell();
    });
    tell();
  });
}

/**
 * What is typed is on its way at once: it begins a write, or goes with the next one when the write under way ends. So a killed tab loses
 * at most what one write and the next one take; how long they take is measured by `npm run bench`, and not here, where it would depend
 * on how busy the machine is.
 */
test('a tab killed at random moments of typing keeps all but what the write under way carries', { tag: '@long' }, async ({ page, context }) => {
  await openDemo(page);
  await beginVisit(page);
  // This page only looks; the others type and are killed.
  await page.goto('/label');
  const letters = 'abcdefghijklmnopqrstuvwxyz ';
  const wrong: string[] = [];
  for (let round = 0; round < (process.env['ALL_ROUNDS'] ? 50 : 4); round++) {
    const tab = await context.newPage();
    await tab.addInitScript(watchWrites);
    await tab.goto(visits);
    const notes = tab.getByLabel('Notes');
    await expect(notes).toBeVisible();
    await notes.fill('');
    await saved(tab);
    await notes.focus();
    await tab.evaluate(() => window.dispatchEvent(new Event('typing')));
    // Faster than any hand: sixteen keys in a second. After how many it is killed is drawn, and how far the writes have come by then is chance.
    let keyed = '';
    for (let i = 0; i < 4 + ((round * 7) % 13); i++) {
      const letter = letters[(round * 7 + i * 3) % letters.length] ?? 'x';
      keyed += letter;
      await tab.keyboard.type(letter, { delay: 30 + ((i * 13 + round * 5) % 60) });
    }
    // Closed without a word to the page: nothing of it runs any more.
    await tab.close({ runBeforeUnload: false });
    const { typed, idle, written, due } = await page.evaluate(() => JSON.parse(localStorage.getItem('told') ?? 'null') as Told);
    const kept = await storedNote(page);
    if (typed.length === 0) wrong.push(`round ${round}: nothing was typed`);
    if (idle.length > 0) wrong.push(`round ${round}: “${idle.join('”, “')}” waited although nothing was being written`);
    if (!kept.startsWith(written)) wrong.push(`round ${round}: “${written}” was written, “${kept}” is kept`);
    if (!kept.startsWith(due)) wrong.push(`round ${round}: “${due}” was typed before the last write began, “${kept}” is kept`);
    // What is kept is always something that was typed, whole.
    if (!keyed.startsWith(kept)) wrong.push(`round ${round}: “${kept}” was never typed so`);
  }
  expect(wrong).toEqual([]);
});

/** Runs in the page: nothing can be stored from now on, until `room` is called. */
function fillUp(): void {
  const put = IDBObjectStore.prototype.put;
  const full = function (this: IDBObjectStore): never {
    throw new DOMException('no room', 'QuotaExceededError');
  };
  IDBObjectStore.prototype.put = full as typeof put;
  Object.assign(window, { room: () => (IDBObjectStore.prototype.put = put) });
}

test('a full disk: what was typed stays on the page, the bar says so, and it is saved when there is room', async ({ page }) => {
  await openDemo(page);
  await beginVisit(page);
  const before = await storedNote(page);
  await page.evaluate(fillUp);
  await page.getByLabel('Notes').fill('Written on a full disk.');
  await expect(page.getByText('This device has no room left')).toBeVisible();
  await expect(page.getByLabel('Notes')).toHaveValue('Written on a full disk.');
  expect(await storedNote(page)).toBe(before);
  // The report made now tells what is on the page.
  await page.getByRole('tab', { name: 'Report' }).click();
  await expect(page.getByRole('article', { name: /^Hand-over/ })).toBeVisible();
  await page.evaluate(() => (window as unknown as { room: () => void }).room());
  await page.getByRole('button', { name: 'Try again' }).click();
  await saved(page);
  expect(await storedNote(page)).toBe('Written on a full disk.');
  await page.reload();
  await page.goto(visits);
  await expect(page.getByLabel('Notes')).toHaveValue('Written on a full disk.');
});

test(
  'a full disk: leaving the job asks, the job list says so, and what was typed outlives a reload until it is put back',
  { tag: '@long' },
  async ({ page }) => {
    await openLaunch(page, 'spec');
    await beginVisit(page);
    await page.evaluate(fillUp);
    await page.getByLabel('Notes').fill('Not lost.');
    const unsaved = page.getByRole('alert').filter({ hasText: 'changes you have just made are not saved' });
    await expect(unsaved).toContainText('held in this browser and survive a reload');
    await page.getByRole('link', { name: 'Calm Keel, back to jobs' }).click();
    const question = page.getByRole('dialog', { name: 'Leave this job?' });
    await question.getByRole('button', { name: 'Stay here' }).click();
    await expect(question).toHaveCount(0);
    await expect(page.getByLabel('Notes')).toHaveValue('Not lost.');
    // Escape stays too.
    await page.getByRole('link', { name: 'Calm Keel, back to jobs' }).click();
    await expect(question.getByRole('button', { name: 'Stay here' })).toBeFocused();
    await page.keyboard.press('Escape');
    await expect(page.getByLabel('Notes')).toHaveValue('Not lost.');
    await page.getByRole('link', { name: 'Calm Keel, back to jobs' }).click();
    await question.getByRole('button', { name: 'Leave all the same' }).click();
    await expect(page.locator('li.job')).toHaveCount(1);
    await expect(unsaved).toContainText('“Survey launch Teasel”');
    // Back in the job it is all there; then the page is loaded anew, and the browser asks first.
    await page.getByRole('link', { name: 'Survey launch Teasel' }).click();
    await page.goBack();
    let asked = 0;
    page.on('dialog', (dialog) => {
      asked++;
      void dialog.accept();
    });
    await page.reload();
    expect(asked).toBe(1);
    const left = page.getByRole('alert').filter({ hasText: 'are not saved' });
    await expect(left).toContainText('were made on a page that could not store them');
    expect(await storedNote(page)).toBe('');
    await page.goto(visits);
    await expect(page.getByLabel('Notes')).toHaveValue('');
    await page.getByRole('button', { name: 'Put them into the job' }).click();
    await expect(page.getByLabel('Notes')).toHaveValue('Not lost.');
    await expect(left).toHaveCount(0);
    await saved(page);
    expect(await storedNote(page)).toBe('Not lost.');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^Undo/ }).click();
    await expect(page.getByLabel('Notes')).toHaveValue('');
  },
);

test('two pages that change one field: the second is told what it has replaced', { tag: '@long' }, async ({ page, context }) => {
  await openLaunch(page, 'spec');
  await beginVisit(page);
  const other = await context.newPage();
  await other.goto(visits);
  await other.getByLabel('Notes').fill('From the other page');
  await saved(other);
  await expect(page.getByLabel('Notes')).toHaveValue('From the other page');
  await page.getByLabel('Notes').fill('From this one');
  await expect(page.getByText('another page had just set this to From the other page; your From this one has replaced it')).toBeVisible();
  await expect(other.getByLabel('Notes')).toHaveValue('From this one');
  await expect(other.getByText('another page had just set this')).toHaveCount(0);
});

test.describe('a newer server', () => {
  test.use({ partsGone: true });
  test('a station whose file is gone says so, leaves the work where it is, and is gone to by loading anew', { tag: '@long' }, async ({ page }) => {
    await openLaunch(page, 'settings');
    const head = page.locator('.work h1');
    await expect(head).toHaveText('Setpoint ladder');
    // As after a new version was put on the server: the old parts are not there any more.
    let gone = true;
    await page.route(/chunk-.*\.js$/, (route) =>
      gone ? route.fulfill({ status: 404, contentType: 'text/plain', body: 'There is no such file.' }) : route.continue(),
    );
    await goTo(page, 'Spec');
    await expect(page.getByText('That station could not be fetched')).toBeVisible();
    await expect(head).toHaveText('Setpoint ladder');
    await page.getByRole('button', { name: 'Stay here' }).click();
    await expect(page.getByText('That station could not be fetched')).toHaveCount(0);
    await goTo(page, 'Spec');
    await expect(page.getByText('That station could not be fetched')).toBeVisible();
    gone = false;
    await page.getByRole('button', { name: 'Reload, and go there' }).click();
    await expect(page).toHaveURL(/\/job\/teasel\/spec(\?|$)/);
    await expect(head).toHaveText('Maker’s sheet');
  });
});

test('a damaged book is looked through, and mended without losing what can be read', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open('calm-keel');
        open.onsuccess = () => {
          const work = open.result.transaction(['jobs', 'history', 'logs'], 'readwrite');
          const jobs = work.objectStore('jobs');
          // One document is damaged, a step ahead of its history; another lost the contents of a log; a third is gone and left something behind.
          const read = jobs.get('teasel');
          read.onsuccess = () => {
            const row = read.result as { doc: Record<string, unknown>; seq: number };
            jobs.put({ ...row, seq: row.seq + 1, doc: { ...row.doc, system: 'broken' } });
          };
          work.objectStore('logs').delete(['rook-moss', 'nine-days']);
          jobs.delete('skarrow');
          work.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
  );
  await page.reload();
  // The others are listed as ever, and the damaged one by itself.
  await expect(page.locator('li.job')).toHaveCount(2);
  await expect(page.getByRole('region', { name: 'Damaged on this device, 1' })).toContainText('Survey launch Teasel');
  await page.getByRole('button', { name: 'Check the book' }).click();
  const faults = page.locator('.fault');
  await expect(faults).toHaveCount(3);
  await expect(faults.filter({ hasText: 'Nine days in May' })).toBeVisible();
  await page.getByRole('region', { name: 'Damaged on this device, 1' }).getByRole('button', { name: 'Go back to the last step that can be read' }).click();
  await expect(page.locator('li.job')).toHaveCount(3);
  await page.getByRole('button', { name: 'Check the book' }).click();
  await page.getByRole('button', { name: 'Take the names out' }).click();
  await page.getByRole('button', { name: 'Clear it away' }).click();
  await expect(page.getByText('Everything in the book holds together.')).toBeVisible();
  await page.goto('/job/teasel/settings');
  await expect(page.getByRole('button', { name: /^Solar aft: absorb 28\.10/ })).toBeVisible();
});
