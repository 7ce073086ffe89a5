/**
 * Starts Calm Keel from this folder: node start.mjs
 *
 *   --port 4173   another port
 *   --lan         lets a paired phone on the same network in, on the port after it
 *   --demo        simulated devices beside it, for trying things out
 *   --devices F   a list of real devices (docs/wires.md)
 */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

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
const env = {
  ...process.env,
  ...(options.port === undefined ? {} : { PORT: options.port }),
  LAN: options.lan ? '1' : '',
  ...(options.demo ? { DEVICES_PORT: process.env['DEVICES_PORT'] ?? '4180' } : {}),
  ...(options.devices === undefined ? {} : { DEVICES: options.devices }),
};
const start = (/** @type {string} */ file) => spawn(process.execPath, [fileURLToPath(new URL(file, import.meta.url))], { env, stdio: 'inherit' });
const devices = options.demo ? start('devices/dist/main.js') : null;
const server = start('server/dist/main.js');
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM']))
  process.on(signal, () => {
    devices?.kill(signal);
    server.kill(signal);
  });
server.on('close', (code) => {
  devices?.kill();
  process.exitCode = code ?? 0;
});
