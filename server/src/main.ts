import { createServer as createSecureServer } from 'node:https';
import { fileURLToPath } from 'node:url';
import { certificate, invitation, lanAddresses } from './exchange/lan';
import { makePairing } from './exchange/pairing';
import { listFromFile, listFromSimulation, noDevices, type DeviceList } from '@calm-keel/wire';
import { createServer, keepOpen } from './server.js';

const wanted = process.env['PORT'] ?? '4173';
const port = Number(wanted);
if (!Number.isInteger(port) || port < 1 || port > 65_535) {
  console.error(`PORT is “${wanted}”. Set it to a whole number from 1 to 65535, or leave it out for 4173.`);
  process.exit(2);
}
/** A file of devices, or the simulated ones beside this server, or none. */
function devices(): DeviceList {
  const file = process.env['DEVICES'];
  const simulated = process.env['DEVICES_PORT'];
  if (file !== undefined) return listFromFile(file);
  return simulated === undefined || simulated === '' ? noDevices : listFromSimulation(Number(simulated));
}
let list: DeviceList;
try {
  list = devices();
} catch (error) {
  console.error(error instanceof Error ? error.message : 'The list of devices cannot be read.');
  process.exit(2);
}
// Another build of the application can be served: APP_FOLDER says where it lies.
const folder = process.env['APP_FOLDER'] ?? fileURLToPath(new URL('../../app/dist/browser', import.meta.url));
const lan = process.env['LAN'] === '1';
if (lan && port === 65_535) {
  console.error('PORT is 65535, and a second device comes in at the port after it, which there is none. Choose a lower one.');
  process.exit(2);
}
const addresses = lanAddresses();
let fingerprint = '';
let open = false;
const pairing = lan
  ? makePairing((code) => {
      if (open) console.log(`\n${invitation(addresses, port + 1, code, fingerprint)}`);
    })
  : null;
const app = createServer(folder, list, {}, pairing);

function failed(at: number): (error: NodeJS.ErrnoException) => void {
  return (error) => {
    console.error(
      error.code === 'EADDRINUSE'
        ? `Port ${at} is taken by another program. Choose another one: PORT=${at + 1} npm run demo`
        : error.code === 'EACCES'
          ? `This user may not open port ${at}. Choose one above 1023, for example PORT=4173.`
          : `The server could not start: ${error.message}`,
    );
    process.exit(1);
  };
}
const servers = [keepOpen(app.listen(port, '127.0.0.1', () => console.log(`Calm Keel is at http://127.0.0.1:${port}`)).on('error', failed(port)))];
if (lan && pairing) {
  const { key, cert, fingerprint: print } = await certificate(addresses);
  fingerprint = print;
  const secure = keepOpen(createSecureServer({ key, cert }, app));
  secure.on('error', failed(port + 1)).listen(port + 1, '0.0.0.0', () => {
    open = true;
    console.log(invitation(addresses, port + 1, pairing.code(), fingerprint));
  });
  servers.push(secure);
}
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    for (const server of servers) {
      server.close();
      server.closeAllConnections();
    }
    process.exit(0);
  });
