/**
 * How well papers are read: prints the table of docs/reading.md. `--write` puts it there.
 *
 *   npx tsx tools/papers/bench.ts [--each N] [--write] [--verbose]
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { keptLayouts, type Layout } from './kept';
import { score } from './measure';
import { openLayouts } from './open';
import { printed, printer, wordsOf } from './print';
import { drawTruth } from './truth';

const { values: asked } = parseArgs({ options: { each: { type: 'string', default: '8' }, write: { type: 'boolean' }, verbose: { type: 'boolean' } } });
const each = Number(asked.each);
const browser = await printer();
const rows: string[][] = [];
let slowest = 0;
// Opened once before anything is timed: the reader of PDFs is loaded then.
await wordsOf(await printed(browser, '<p>x</p>'));

async function measure(layouts: readonly Layout[], kind: string): Promise<void> {
  const all = { said: 0, right: 0, sure: 0, wrongSure: 0, wrongLook: 0, missed: 0, sheets: 0 };
  for (const layout of layouts) {
    const sum = { said: 0, right: 0, sure: 0, wrongSure: 0, wrongLook: 0, missed: 0, sheets: 0 };
    for (let i = 0; i < each; i++) {
      const truth = drawTruth(1000 + i, { chemistry: layout.chemistries[i % layout.chemistries.length] ?? 'lfp' });
      const { html, says, battery } = layout.draw(truth);
      const bytes = await printed(browser, html);
      const before = performance.now();
      const pages = await wordsOf(bytes);
      const read = score(truth, says, pages, battery);
      slowest = Math.max(slowest, performance.now() - before);
      sum.sheets++;
      sum.said += Object.keys(says).length;
      sum.right += read.right.length;
      sum.sure += read.sure;
      sum.wrongSure += read.wrongSure.length + read.inventedSure.length;
      sum.wrongLook += read.wrongLook.length + read.inventedLook.length;
      sum.missed += read.missed.length;
      if (asked.verbose)
        for (const line of [...read.wrongSure, ...read.inventedSure, ...read.wrongLook, ...read.inventedLook]) console.log(`  ${layout.name}: ${line}`);
    }
    rows.push(cells(`${layout.name}`, sum));
    for (const key of Object.keys(all) as (keyof typeof all)[]) all[key] += sum[key];
  }
  rows.push(cells(`**${kind}**`, all));
}

const share = (n: number, of: number): string => `${n} (${((100 * n) / Math.max(1, of)).toFixed(1)} %)`;
const cells = (
  name: string,
  s: { said: number; right: number; sure: number; wrongSure: number; wrongLook: number; missed: number; sheets: number },
): string[] => [
  name,
  String(s.sheets),
  String(s.said),
  share(s.right, s.said),
  share(s.sure, s.said),
  share(s.missed, s.said),
  share(s.wrongSure, s.sure + s.wrongSure),
  String(s.wrongLook),
];

await measure(openLayouts, 'Layouts the reader was made with');
await measure(keptLayouts, 'Layouts kept for measuring');
await browser.close();

const head = ['Layout', 'sheets', 'figures printed', 'right, with basis', 'right and sure', 'not found rightly', 'wrong and sure', 'wrong, marked to look at'];
const table = [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
console.log(`\n${table}\n\nSlowest sheet: ${slowest.toFixed(0)} ms for its words and its figures.`);
if (asked.write) {
  const file = fileURLToPath(new URL('../../docs/reading.md', import.meta.url));
  const text = readFileSync(file, 'utf8');
  writeFileSync(file, text.replace(/(<!-- table -->\n\n)[\s\S]*?(\n\n<!-- end of table -->)/, `$1${table}$2`));
}
