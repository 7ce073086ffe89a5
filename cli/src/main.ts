import { keel } from './keel.js';

process.exitCode = await keel(process.argv.slice(2), {
  print: (text) => process.stdout.write(`${text}\n`),
  say: (sentence) => process.stderr.write(`${sentence}\n`),
  today: new Date().toISOString().slice(0, 10),
});
