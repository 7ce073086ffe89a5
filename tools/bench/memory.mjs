/**
 * Memory over minutes of scripted use (MINUTES, ten unless told otherwise): all stations of two jobs are gone through and worked at again and
 * again, and what the page still holds after a collection is fitted with a line.
 */
import { withPage } from './page.mjs';

const port = 4320;
const minutes = Number(process.env.MINUTES ?? 10);
const stations = ['Spec', 'System', 'Settings', 'Rehearse', 'Program', 'Prove', 'Hand over'];

await withPage(port, async (page) => {
  await page.getByRole('button', { name: 'Open the demo' }).click();
  await page.getByRole('link', { name: 'Survey launch Teasel' }).waitFor();
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const held = async () => {
    await session.send('HeapProfiler.collectGarbage');
    const { metrics } = await session.send('Performance.getMetrics');
    const of = (/** @type {string} */ name) => metrics.find((m) => m.name === name)?.value ?? 0;
    return { mb: of('JSHeapUsedSize') / 1e6, nodes: of('Nodes'), listeners: of('JSEventListeners') };
  };
  const round = async (/** @type {string} */ job, /** @type {number} */ n) => {
    await page.getByRole('link', { name: job, exact: true }).click();
    for (const station of stations) {
      await page
        .getByRole('navigation', { name: 'Work stations' })
        .getByRole('link', { name: new RegExp(`^${station}`) })
        .click();
      await page.getByRole('heading', { level: 1 }).first().waitFor();
      await page.waitForTimeout(400);
      if (station === 'System') await page.getByRole('textbox', { name: 'Strings in parallel' }).fill(String(2 + (n % 2)));
      if (station === 'Settings')
        await page
          .getByRole('button', { name: /: absorb \d/ })
          .first()
          .click();
    }
    await page.getByRole('link', { name: 'Calm Keel, back to jobs' }).click();
    await page.getByRole('heading', { name: 'Jobs' }).waitFor();
  };
  const points = [];
  const start = Date.now();
  for (let n = 0; Date.now() - start < minutes * 60_000; n++) {
    await round(n % 2 === 0 ? 'Survey launch Teasel' : 'Tumbler mobile stage', n);
    points.push({ minute: (Date.now() - start) / 60_000, ...(await held()) });
  }
  // The first two minutes fill caches that stay.
  const steady = points.filter((p) => p.minute > Math.min(2, minutes / 4));
  const slope = (/** @type {'mb' | 'nodes' | 'listeners'} */ key) => {
    const mean = (/** @type {(point: typeof steady[number]) => number} */ f) => steady.reduce((sum, p) => sum + f(p), 0) / steady.length;
    const [mx, my] = [mean((p) => p.minute), mean((p) => p[key])];
    return mean((p) => (p.minute - mx) * (p[key] - my)) / mean((p) => (p.minute - mx) ** 2);
  };
  const [first, last] = [steady[0], steady.at(-1)];
  if (!first || !last) throw new Error('nothing was measured');
  console.log(
    `Memory over ${minutes} minutes, ${points.length} rounds of seven stations: ${first.mb.toFixed(1)} to ${last.mb.toFixed(1)} MB, ${slope('mb').toFixed(2)} MB a minute (${((100 * slope('mb')) / first.mb).toFixed(1)} % a minute); nodes ${slope('nodes').toFixed(0)} a minute, listeners ${slope('listeners').toFixed(0)} a minute`,
  );
});
