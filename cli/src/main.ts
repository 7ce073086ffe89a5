import { fileURLToPath } from 'node:url';
import { keel } from './keel.js';

// Whoever reads may stop early, as `head` does; that is no fault.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
});

process.exitCode = await keel(process.argv.slice(2), {
  print: (text) => process.stdout.write(`${text}\n`),
  say: (sentence) => process.stderr.write(`${sentence}\n`),
  worker: fileURLToPath(new URL('./prove-worker.js', import.meta.url)),
  today: new Date().toISOString().slice(0, 10),
});
