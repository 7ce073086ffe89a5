/**
 * The longest task of the page's main thread on each station with the largest data, on opening and on one usual act there, as a multiple of what
 * this machine needs for a fixed sum: so that a busy or slow machine tells the same. Also the initial transfer, and a key’s way into the store.
 */
import { withPage } from './page.mjs';
import { openLargest, thirtyDays } from './largest.mjs';

const port = 4319;

/**
 * What each station is asked for besides being opened.
 *
 * @type {Record<string, (page: import('@playwright/test').Page) => Promise<void>>}
 */
const acts = {
  spec: async (page) => {
    await page.getByLabel('Absorb voltage, as printed', { exact: true }).click();
    await page.keyboard.type('28.2 V (28.0–28.4)');
    await page.keyboard.press('Enter');
  },
  system: async (page) => {
    await page.getByLabel('Strings in parallel').fill('3');
  },
  settings: async (page) => {
    const rung = page.getByRole('button', { name: /^Solar aft: absorb/ }).first();
    await rung.click();
    for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Escape');
  },
  rehearse: async (page) => {
    await page.getByRole('row', { name: /Never above the maximum/ }).waitFor();
    await page.getByRole('slider', { name: 'Cold' }).press('ArrowLeft');
  },
  program: async (page) => {
    await page.getByRole('tab', { name: 'Every setting' }).click();
  },
  prove: async (page) => {
    await page.getByLabel('Log file').setInputFiles(thirtyDays());
    await page.locator('ck-verdict-table').waitFor();
  },
  // The log is there: its picture, and its verdicts after it.
  'prove?': async (page) => {
    await page
      .getByRole('link', { name: /^Settings/ })
      .first()
      .click();
    await page.waitForTimeout(1500);
    await page.evaluate(() => window.tasks.splice(0));
    await page
      .getByRole('link', { name: /^Prove/ })
      .first()
      .click();
    await page.locator('[data-drawn=true]').waitFor();
  },
  'hand-over': async (page) => {
    await page.getByRole('article', { name: /^Hand-over/ }).waitFor();
    await page.getByLabel('Write every sum out').check();
  },
};

await withPage(port, async (page) => {
  // Encoded sizes of all that the first page asks for.
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  await session.send('Network.setCacheDisabled', { cacheDisabled: true });
  await session.send('Network.setBypassServiceWorker', { bypass: true });
  let transferred = 0;
  session.on('Network.loadingFinished', (e) => (transferred += e.encodedDataLength));
  await page.reload();
  await page.waitForTimeout(1500);
  console.log(`Initial transfer, the list of jobs drawn: ${(transferred / 1000).toFixed(0)} kB`);
  await session.send('Network.setCacheDisabled', { cacheDisabled: false });
  await session.send('Network.setBypassServiceWorker', { bypass: false });

  await page.addInitScript(() => {
    window.tasks = [];
    new PerformanceObserver((list) => window.tasks.push(...list.getEntries().map((e) => e.duration))).observe({ type: 'longtask', buffered: true });
  });
  const unit = await page.evaluate(() => {
    const one = () => {
      const start = performance.now();
      let x = 0;
      for (let i = 1; i < 5_000_000; i++) x += Math.sqrt(i) / (i + x);
      return performance.now() - start + x * 0;
    };
    one();
    return Math.min(one(), one(), one());
  });
  console.log(`A fixed sum of five million terms takes ${unit.toFixed(0)} ms here; tasks are given in ms and as multiples of it.`);
  await openLargest(page, 'spec');
  for (const [station, act] of Object.entries(acts)) {
    await page.goto(`http://127.0.0.1:${port}/job/largest/${station}`);
    await page.getByRole('heading', { level: 1 }).waitFor();
    await page.waitForTimeout(2500);
    const opening = await page.evaluate(() => Math.max(0, ...window.tasks.splice(0)));
    await act(page);
    await page.waitForTimeout(2500);
    const acting = await page.evaluate(() => Math.max(0, ...window.tasks.splice(0)));
    const say = (/** @type {number} */ ms) => (ms === 0 ? 'below 50 ms' : `${ms.toFixed(0)} ms (${(ms / unit).toFixed(1)} ×)`);
    console.log(`${station.padEnd(10)} longest task on opening ${say(opening).padEnd(18)} on an act ${say(acting)}`);
  }

  // A key typed into a note, until the write that carries it is done.
  await page.addInitScript(() => {
    window.kept = [];
    /** @type {number[]} */
    let waiting = [];
    const transaction = IDBDatabase.prototype.transaction;
    /** @param {Parameters<IDBDatabase['transaction']>} args */
    IDBDatabase.prototype.transaction = function (...args) {
      const opened = transaction.apply(this, args);
      if (opened.mode === 'readwrite' && [...opened.objectStoreNames].join() === 'history,jobs,meta') {
        const carried = waiting;
        waiting = [];
        opened.addEventListener('complete', () => window.kept.push(...carried.map((t) => performance.now() - t)));
      }
      return opened;
    };
    document.addEventListener('input', () => waiting.push(performance.now()), { capture: true });
  });
  await page.goto(`http://127.0.0.1:${port}/job/largest/hand-over?view=visits`);
  await page.getByRole('button', { name: 'Begin a visit today' }).click();
  await page.getByLabel('Notes').pressSequentially('sixteen keys in a second, or nearly: as fast as a quick hand types. '.repeat(2), { delay: 60 });
  await page.waitForTimeout(1000);
  const sorted = (await page.evaluate(() => window.kept)).sort((a, b) => a - b);
  const at = (/** @type {number} */ q) => sorted[Math.floor(q * (sorted.length - 1))] ?? NaN;
  console.log(
    `A key typed into a note is stored after ${at(0.5).toFixed(0)} ms (median of ${sorted.length}), ${at(0.99).toFixed(0)} ms at the 99th percentile   goal 250`,
  );
});
