import { fileURLToPath } from 'node:url';
import { listFromFile, listFromSimulation, noDevices, type DeviceList } from './link/list';
import { createServer } from './server.js';

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
  return simulated === undefined ? noDevices : listFromSimulation(Number(simulated));
}
let list: DeviceList;
try {
  list = devices();
} catch (error) {
  console.error(error instanceof Error ? error.message : 'The list of devices cannot be read.');
  process.exit(2);
}
const folder = fileURLToPath(new URL('../../app/dist/browser', import.meta.url));
const server = createServer(folder, list).listen(port, '127.0.0.1', () => console.log(`Calm Keel is at http://127.0.0.1:${port}`));
server.on('error', (error: NodeJS.ErrnoException) => {
  console.error(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken by another program. Choose another one: PORT=${port + 1} npm run demo`
      : error.code === 'EACCES'
        ? `This user may not open port ${port}. Choose one above 1023, for example PORT=4173.`
        : `The server could not start: ${error.message}`,
  );
  process.exit(1);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
