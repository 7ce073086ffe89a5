import { drawTruth } from './truth';
import { printed, printer, wordsOf } from './print';
import { openLayouts } from './open';
import { keptLayouts } from './kept';
import { score } from './measure';
const kept = process.argv.includes('--kept');
const detail = process.argv.includes('-v');
const each = Number(process.argv.find((a) => a.startsWith('--each='))?.slice(7) ?? 4);
const browser = await printer();
for (const layout of kept ? keptLayouts : openLayouts) {
  const sum = { right: 0, sure: 0, missed: 0, wrongSure: 0, wrongLook: 0, inventedSure: 0, inventedLook: 0 };
  for (let i = 0; i < each; i++) {
    const chemistry = layout.chemistries[i % layout.chemistries.length]!;
    const truth = drawTruth(100 + i, { chemistry });
    const { html, says, battery } = layout.draw(truth);
    const pages = await wordsOf(await printed(browser, html));
    const s = score(truth, says, pages, battery);
    sum.right += s.right.length;
    sum.sure += s.sure;
    sum.missed += s.missed.length;
    for (const k of ['wrongSure', 'wrongLook', 'inventedSure', 'inventedLook'] as const) sum[k] += s[k].length;
    if (detail) console.log(layout.name, chemistry, JSON.stringify({ ...s, right: s.right.length }, null, 1));
  }
  console.log(layout.name.padEnd(40), JSON.stringify(sum));
}
await browser.close();
