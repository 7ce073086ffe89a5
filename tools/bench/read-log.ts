import { readFileSync } from 'node:fs';
import Papa from 'papaparse';
import { readJob } from '@calm-keel/core/job';
import { createLogReader, feederOf, guessMapping, logContextOf, proveLog } from '@calm-keel/core/proof';
import { deriveSettings } from '@calm-keel/core/settings';

/** Reading, segmenting and judging a log of 1,000,000 rows, against the CSV parser alone on the same text. Best of seven. */
const rows = 1_000_000;
const lines = ['time,bank_V,bank_A,battery_degC,fore_A,aft_A'];
for (let i = 0; i < rows; i++) {
  const phase = (i % 86_400) / 86_400;
  const sun = Math.max(0, Math.sin((phase - 0.25) * 2 * Math.PI));
  const volts = Math.min(28.1, 26.4 + 2.2 * sun + 0.01 * Math.sin(i));
  lines.push(
    `${1_700_000_000 + i},${volts.toFixed(2)},${(60 * sun - 3).toFixed(1)},${(5 + 10 * sun).toFixed(1)},${(32 * sun).toFixed(1)},${(30 * sun).toFixed(1)}`,
  );
}
const csv = lines.join('\n');
// What made the text is no part of what is measured.
lines.length = 0;
/** As page and shell get it. */
const bytes = new TextEncoder().encode(csv);
const job = readJob(readFileSync('demo/teasel.job.json', 'utf8'));
if (!job.ok) throw new Error('the demo job cannot be read');
const plan = deriveSettings(job.value);

/** The CSV parser in chunks, as page and shell use it. */
function parse(take: (rows: readonly string[][]) => void): void {
  Papa.parse<string[]>(csv, {
    delimiter: ',',
    chunk: (part: Papa.ParseResult<string[]>) => {
      take(part.data);
    },
    complete: () => undefined,
  });
}

function best(work: () => void): number {
  let least = Infinity;
  for (let i = 0; i < 7; i++) {
    const start = performance.now();
    work();
    least = Math.min(least, performance.now() - start);
  }
  return least;
}

const parserAlone = best(() => {
  let fields = 0;
  parse((data) => {
    fields += data.length;
  });
  if (fields !== rows + 1) throw new Error('lost rows');
});
let reading = Infinity;
const whole = best(() => {
  const began = performance.now();
  const guess = guessMapping(csv.slice(0, 65_536), (text, separator) => Papa.parse<string[]>(text, { delimiter: separator }).data, logContextOf(plan));
  if (!guess.ok) throw new Error('no mapping');
  const reader = createLogReader(guess.value.mapping);
  const feeder = feederOf(guess.value.mapping, reader);
  for (let at = 0; at < bytes.length; at += 2_000_000) feeder.push(bytes.subarray(at, at + 2_000_000));
  feeder.end();
  const read = reader.finish();
  reading = Math.min(reading, performance.now() - began);
  if (!read.ok || read.value.report.rows !== rows) throw new Error('lost rows');
  proveLog(plan, read.value.log, read.value.report, job.value.system.instruments[0]!);
});
const settings = best(() => {
  for (let i = 0; i < 100; i++) deriveSettings(job.value);
});
console.log(
  [
    'measurement                                      time      goal',
    `CSV parser alone, 1,000,000 rows          ${parserAlone.toFixed(0).padStart(8)} ms`,
    `reading the same                          ${reading.toFixed(0).padStart(8)} ms   ${(reading / parserAlone).toFixed(2)} × the parser`,
    `read, segment and judge the same          ${whole.toFixed(0).padStart(8)} ms   ${(whole / parserAlone).toFixed(2)} × the parser (goal 1.3)`,
    `settings of the launch, one derivation    ${(settings / 100).toFixed(2).padStart(8)} ms`,
  ].join('\n'),
);
