/**
 * How well papers are read: prints the table of docs/reading.md. `--write` puts it there.
 *
 *   npx tsx tools/papers/bench.ts [--each N] [--write] [--verbose]
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import type { PaperPage } from '../../core/src/paper';
import { keptLayouts, type Layout } from './kept';
import { score } from './measure';
import { openLayouts } from './open';
import { photographed, pictureReader, type Look } from './pictures';
import { printed, printer, wordsOf } from './print';
import { drawTruth } from './truth';

const { values: asked } = parseArgs({ options: { each: { type: 'string', default: '8' }, write: { type: 'boolean' }, verbose: { type: 'boolean' } } });
const each = Number(asked.each);
const browser = await printer();
const slowest = { text: 0, picture: 0 };
// Opened once before anything is timed: the reader of PDFs is loaded then.
await wordsOf(await printed(browser, '<p>x</p>'));

async function measure(
  rows: string[][],
  layouts: readonly Layout[],
  kind: string,
  times: number,
  wordsOfSheet: (html: string) => Promise<readonly PaperPage[]>,
): Promise<void> {
  const all = { said: 0, right: 0, sure: 0, wrongSure: 0, wrongLook: 0, missed: 0, sheets: 0 };
  for (const layout of layouts) {
    const sum = { said: 0, right: 0, sure: 0, wrongSure: 0, wrongLook: 0, missed: 0, sheets: 0 };
    for (let i = 0; i < times; i++) {
      const truth = drawTruth(1000 + i, { chemistry: layout.chemistries[i % layout.chemistries.length] ?? 'lfp' });
      const { html, says, battery } = layout.draw(truth);
      const read = score(truth, says, await wordsOfSheet(html), battery);
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

const asText = async (html: string): Promise<readonly PaperPage[]> => {
  const bytes = await printed(browser, html);
  const before = performance.now();
  const pages = await wordsOf(bytes);
  slowest.text = Math.max(slowest.text, performance.now() - before);
  return pages;
};
const ocr = await pictureReader();
const asPicture =
  (look: Look) =>
  async (html: string): Promise<readonly PaperPage[]> => {
    const picture = await photographed(browser, html, look);
    const before = performance.now();
    const pages = await ocr.read(picture);
    slowest.picture = Math.max(slowest.picture, performance.now() - before);
    return pages;
  };
const text: string[][] = [];
await measure(text, openLayouts, 'Layouts the reader was made with', each, asText);
await measure(text, keptLayouts, 'Layouts kept for measuring', each, asText);
const pictures: string[][] = [];
for (const look of ['scan', 'photo'] as const)
  for (const [layouts, kind] of [
    [openLayouts, 'Layouts the reader was made with'],
    [keptLayouts, 'Layouts kept for measuring'],
  ] as const) {
    const rows: string[][] = [];
    await measure(rows, layouts, `${kind}, ${look}`, Math.ceil(each / 4), asPicture(look));
    pictures.push(...rows.slice(-1));
  }
await ocr.end();
await browser.close();

const head = ['Layout', 'sheets', 'figures printed', 'right, with basis', 'right and sure', 'not found rightly', 'wrong and sure', 'wrong, marked to look at'];
const tableOf = (rows: readonly string[][]): string => [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
console.log(`\nText\n\n${tableOf(text)}\n\nPictures\n\n${tableOf(pictures)}\n`);
console.log(`Slowest: ${slowest.text.toFixed(0)} ms for the words of a PDF’s page, ${slowest.picture.toFixed(0)} ms for those of a picture.`);
if (asked.write) {
  const file = fileURLToPath(new URL('../../docs/reading.md', import.meta.url));
  const put = (all: string, name: string, rows: readonly string[][]): string =>
    all.replace(new RegExp(`(<!-- ${name} -->\\n\\n)[\\s\\S]*?(\\n\\n<!-- end -->)`), `$1${tableOf(rows)}$2`);
  writeFileSync(file, put(put(readFileSync(file, 'utf8'), 'text', text), 'pictures', pictures));
}
