/**
 * `npm run attack -- --mutations 10000 --kills 100 --replies 500 --requests 5000 [--seed 1]`: attacks files, wire, server and page, and tells what came of it.
 * Ends with 1 when anything was changed or lost in silence, hung, crashed, was called done unseen or was sent twice. Loopback only; nothing leaves this machine.
 */
import { parseArgs } from 'node:util';
import { attackBrowser } from './browser';
import { attackFiles } from './files';
import { attackServer } from './requests';
import { attackMessages, attackTalker } from './talkers';
import { faultsOf, lossOf, tableOf, type Row } from './table';
import { attackWire } from './wire';

const { values } = parseArgs({
  options: {
    mutations: { type: 'string', default: '10000' },
    kills: { type: 'string', default: '100' },
    replies: { type: 'string', default: '500' },
    requests: { type: 'string', default: '2000' },
    damages: { type: 'string', default: '100' },
    clocks: { type: 'string', default: '50' },
    versions: { type: 'string', default: '20' },
    deaths: { type: 'string', default: '20' },
    disks: { type: 'string', default: '3' },
    seed: { type: 'string', default: '1' },
  },
});
const times = (name: keyof typeof values): number => {
  const n = Number(values[name]);
  if (Number.isInteger(n) && n >= 0) return n;
  console.error(`--${name} is “${values[name]}”. Give a whole number, or leave it out.`);
  process.exit(2);
};
const seed = times('seed');
const rows: Row[] = [];
const take = (more: readonly Row[]): void => {
  rows.push(...more);
  for (const { kind, tried, examples } of more) console.error([`${kind}: ${tried}`, ...examples].join('\n  '));
};

if (times('mutations') > 0) take(attackFiles(times('mutations'), seed));
if (times('replies') > 0)
  take([
    await attackWire(times('replies'), seed),
    await attackWire(times('replies'), seed, 'line'),
    attackTalker(times('replies'), seed),
    attackMessages(times('replies'), seed),
  ]);
if (times('requests') > 0) take([await attackServer(times('requests'), seed)]);
const page = {
  kills: times('kills'),
  damages: times('damages'),
  clocks: times('clocks'),
  versions: times('versions'),
  deaths: times('deaths'),
  disks: times('disks'),
};
const browser = Object.values(page).some((n) => n > 0) ? await attackBrowser(page, seed) : { rows: [], lossMs: [] };
take(browser.rows);

console.log(tableOf(rows));
if (browser.lossMs.length > 0) console.log(`\n${lossOf(browser.lossMs)}`);
process.exit(faultsOf(rows) === 0 ? 0 : 1);
