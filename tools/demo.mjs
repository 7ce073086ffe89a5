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
const start = (file) => spawn(process.execPath, [file], { cwd: root, env, stdio: 'inherit' });
const children = [start('devices/dist/main.js'), start('server/dist/main.js')];
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => children.forEach((child) => child.kill(signal)));
children[1].on('close', (code) => {
  children[0].kill();
  process.exitCode = code ?? 0;
});
