/** Our own main-thread work for each frame of a drag on the ladder with eight chargers, from the browser's own tracing. */
import { buildAll } from '../common.mjs';
import { openLargest } from './largest.mjs';
import { withPage } from './page.mjs';

await buildAll({ quiet: true });
await withPage(4317, async (page) => {
  await openLargest(page, 'settings');
  const rung = page.getByRole('button', { name: /^Solar aft: absorb/ }).first();
  const box = await rung.boundingBox();
  if (!box) throw new Error('the rung is not drawn');
  const session = await page.context().newCDPSession(page);
  /** @typedef {{ph: string, name: string, ts: number, dur: number, tid: number, args?: {data?: {type?: string}}}} TraceEvent */
  /** @type {TraceEvent[]} */
  const events = [];
  session.on('Tracing.dataCollected', ({ value }) => events.push(.../** @type {TraceEvent[]} */ (/** @type {unknown} */ (value))));
  const x = box.x + box.width / 2;
  const y = box.y + box.height / 2;
  await page.mouse.move(x, y);
  await page.mouse.down();
  // Warm: the first moves compile what the rest run.
  for (let i = 0; i < 40; i++) await page.mouse.move(x, y - 60 + (i % 40) * 3);
  await session.send('Tracing.start', { transferMode: 'ReportEvents', categories: 'devtools.timeline,disabled-by-default-devtools.timeline' });
  for (let i = 0; i < 120; i++) {
    await page.mouse.move(x, y - 60 + (i % 40) * 3);
    await page.evaluate(() => new Promise(requestAnimationFrame));
  }
  const done = new Promise((resolve) => session.once('Tracing.tracingComplete', resolve));
  await session.send('Tracing.end');
  await done;
  await page.mouse.up();
  // What our code does for one move: the handler itself, and the frame's callbacks that draw it.
  const ours = events.filter(
    (e) => e.ph === 'X' && (e.name === 'EventDispatch' || e.name === 'FireAnimationFrame' || e.name === 'RunMicrotasks' || e.name === 'TimerFire'),
  );
  const moves = events.filter((e) => e.ph === 'X' && e.name === 'EventDispatch' && e.args?.data?.type === 'pointermove').sort((a, b) => a.ts - b.ts);
  const sums = moves.map((move, i) => {
    const end = moves[i + 1]?.ts ?? Infinity;
    // Nested events are counted once: only those that no other of the list holds.
    const inside = ours.filter((e) => e.ts >= move.ts && e.ts < end && e.tid === move.tid);
    const outer = inside.filter((e) => !inside.some((o) => o !== e && o.ts <= e.ts && o.ts + o.dur >= e.ts + e.dur));
    return outer.reduce((sum, e) => sum + e.dur / 1000, 0);
  });
  const sorted = sums.slice(0, -1).sort((a, b) => a - b);
  const at = (/** @type {number} */ q) => sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? NaN;
  console.log(
    `8 chargers: our work per drag frame            ${at(0.5).toFixed(1)} ms median, ${at(0.9).toFixed(1)} ms at the 90th percentile (${sorted.length} frames)   goal 12`,
  );
});
