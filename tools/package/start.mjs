/**
 * Starts Calm Keel from this folder: node start.mjs
 *
 *   --port 4173   another port
 *   --lan         lets a paired phone on the same network in, on the port after it
 *   --demo        simulated devices beside it, for trying things out
 *   --devices F   a list of real devices (docs/wires.md)
 */
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { serve } from './serve.mjs';

/** @param {string} text @returns {never} */
function wrong(text) {
  console.error(text);
  process.exit(2);
}

if (Number(process.versions.node.split('.')[0]) < 20) wrong(`Calm Keel needs Node 20 or later; this is ${process.versions.node}.`);
/** @type {{port?: string, lan?: boolean, demo?: boolean, devices?: string}} */
let options = {};
try {
  options = parseArgs({
    options: { port: { type: 'string' }, lan: { type: 'boolean' }, demo: { type: 'boolean' }, devices: { type: 'string' } },
  }).values;
} catch (error) {
  wrong(`${error instanceof Error ? error.message : ''}\nIt takes --port NUMBER, --lan, --demo and --devices FILE.`);
}
if (options.demo && options.devices !== undefined) wrong('--demo brings simulated devices, --devices real ones. Choose one of the two.');
serve(fileURLToPath(new URL('.', import.meta.url)), {
  env: {
    ...process.env,
    ...(options.port === undefined ? {} : { PORT: options.port }),
    ...(options.devices === undefined ? {} : { DEVICES: resolve(options.devices) }),
  },
  lan: options.lan ?? false,
  simulated: options.demo ?? false,
});
