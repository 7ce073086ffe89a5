import { chemistrySchema, chemistryWords, cellsPerBlock, figureInfo, printWithBasis } from '@calm-keel/core/sheet';
import { paperEnglish } from '@calm-keel/core/words';
import { figureOfEntry, pageOfText, readPaper, type PaperContext, type PaperPage } from '@calm-keel/core/paper';
import { readBytes } from './files.js';
import { optionsIn } from './options.js';
import { complain, exit, json, type Out } from './out.js';
import { readPdf } from './pdf.js';

/** `keel read`: what a maker’s paper says, as candidates that wait for somebody’s yes. */
export async function read(args: readonly string[], out: Out): Promise<number> {
  const asked = optionsIn(args, { chemistry: 'string', cells: 'string', battery: 'string' });
  if (typeof asked === 'string') {
    out.say(asked);
    return exit.badInput;
  }
  const [path, more] = asked.paths;
  if (path === undefined || more !== undefined) {
    out.say('Name one paper: keel read FILE.pdf, or a file with its text.');
    return exit.badInput;
  }
  const chemistry = chemistrySchema.safeParse(asked.values.chemistry ?? 'lfp');
  if (!chemistry.success) {
    out.say(`“${asked.values.chemistry ?? ''}” is no chemistry. It is one of ${chemistrySchema.options.join(', ')}.`);
    return exit.badInput;
  }
  const cells = asked.values.cells === undefined ? cellsPerBlock(chemistry.data) : Number(asked.values.cells);
  if (!Number.isInteger(cells) || cells < 1 || cells > 400) {
    out.say('Cells in series are a whole number from 1 to 400.');
    return exit.badInput;
  }
  const file = readBytes(path);
  if (!file.ok) return complain(file.problems, out);
  const pages = await pagesOfFile(file.value);
  if (typeof pages === 'string') {
    out.say(`${path}: ${paperEnglish.faults[pages]}`);
    return exit.badInput;
  }
  const context: PaperContext = {
    chemistry: chemistry.data,
    shape: { cellsPerUnit: cells, cellsPerBlock: cellsPerBlock(chemistry.data), unitsInSeries: 1, stringsInParallel: 1, unitCapacityAh: null },
    assumed: { chemistry: asked.values.chemistry === undefined, cells: asked.values.cells === undefined },
    ...(asked.values.battery === undefined ? {} : { battery: asked.values.battery }),
  };
  const { facts, readAs, candidates, batteries, battery, derating, leftOut } = readPaper(pages, context);
  json(
    {
      readAs,
      facts,
      batteries,
      battery,
      candidates: candidates.map(({ key, entry, printed, quote, page, boxes, doubts }) => ({
        figure: key,
        name: figureInfo[key].name,
        value: printWithBasis(figureOfEntry(entry)),
        sure: doubts.length === 0,
        doubts: doubts.map((doubt) => ({ code: doubt, text: paperEnglish.doubts[doubt] })),
        printed,
        quote,
        page,
        boxes,
        entry,
      })),
      derating,
      leftOut: leftOut.map(({ page, quote, why }) => ({ page, quote, why })),
    },
    out,
  );
  if (batteries.length > 1 && battery === null) out.say(`This paper tells ${batteries.join(', ')} apart. Name yours with --battery.`);
  if (asked.values.chemistry === undefined && !facts.chemistry)
    out.say(`The paper does not say its chemistry; it was read as ${chemistryWords[readAs.chemistry]}. Name another with --chemistry.`);
  return candidates.length > 0 ? exit.proved : exit.open;
}

/** Words of a PDF, or of a text; anything else is no paper that can be read here. */
async function pagesOfFile(bytes: Uint8Array): Promise<readonly PaperPage[] | 'broken' | 'locked' | 'empty' | 'stopped' | 'noText'> {
  if (bytes.length === 0) return 'empty';
  if (bytes[0] === 0x25 && bytes[1] === 0x50) {
    const read = await readPdf(bytes);
    if (typeof read === 'string') return read;
    return read.pages.every((page) => page.words.length === 0) ? 'noText' : read.pages;
  }
  return bytes.includes(0) ? 'broken' : [pageOfText(Buffer.from(bytes).toString('utf8'))];
}
