/** Starts the built server, and the simulated devices beside it where they are wanted. Nothing of the repository is needed: it goes into the package as it is. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';

/**
 * Runs until the server ends, which ends the devices too; a signal to this process goes to both.
 *
 * @param {string} root where server/dist and devices/dist are
 * @param {{ env: NodeJS.ProcessEnv, lan: boolean, simulated: boolean }} options `env` as the server is to find it
 */
export function serve(root, { env, lan, simulated }) {
  const all = { ...env, LAN: lan ? '1' : '', ...(simulated ? { DEVICES_PORT: env['DEVICES_PORT'] ?? '4180' } : {}) };
  const start = (/** @type {string} */ file) => spawn(process.execPath, [join(root, file)], { cwd: root, env: all, stdio: 'inherit' });
  const devices = simulated ? start('devices/dist/main.js') : null;
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
}
