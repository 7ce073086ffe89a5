/** Fresh clone to running application, with simulated devices beside it: installs, builds, starts. Opens nothing by itself. `--lan` lets a paired phone on the same network in. */
import { spawn } from 'node:child_process';
import { buildAll, ensurePackages, root } from './common.mjs';

const lan = process.argv.includes('--lan');
await ensurePackages();
console.log('Building (about half a minute).');
await buildAll({ quiet: true });
console.log('Choose “Open the demo” on the Jobs page to get the demo jobs. Stop with Ctrl+C.');
// The devices stand beside the server and go when it goes.
const env = { ...process.env, DEVICES_PORT: process.env.DEVICES_PORT ?? '4180', LAN: lan ? '1' : '' };
const start = (/** @type {string} */ file) => spawn(process.execPath, [file], { cwd: root, env, stdio: 'inherit' });
const devices = start('devices/dist/main.js');
const server = start('server/dist/main.js');
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM'])) process.on(signal, () => [devices, server].forEach((child) => child.kill(signal)));
server.on('close', (code) => {
  devices.kill();
  process.exitCode = code ?? 0;
});
