import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomFrom } from '../../core/src/physics';
import { makePairing } from '../../server/src/exchange/pairing';
import { noDevices } from '@calm-keel/wire';
import { createServer } from '../../server/src/server';
import { counting, type Row } from './table';

const paths = [
  '/',
  '/api/pair',
  '/api/link',
  '/api/link/lease',
  '/api/link/write',
  '/api/link/confirm',
  '/api/link/devices/x/values',
  '/api/link/devices/x/card',
];
const more = [
  '/api/exchange',
  '/api/exchange/a?name=b',
  '/api/exchange/a/here',
  '/api/simulation/act',
  '/api/simulation/state',
  '/%',
  '/..%2f..%2fetc',
  '/x.js',
  '/health',
];
const methods = ['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'HEAD'];
const bodies = [
  '',
  '{',
  '{}',
  '[]',
  'null',
  '{"token":7}',
  '{"client":"page-one-1"}',
  '{"code":"000000"}',
  '{"__proto__":{"a":1}}',
  '"\\ud800"',
  'PK\u0003\u0004',
];

/** Sends bytes as they are and gives what comes back, whatever it is. */
const raw = (port: number, bytes: Buffer): Promise<string> =>
  new Promise((resolve) => {
    let text = '';
    const socket = connect(port, '127.0.0.1', () => socket.end(bytes));
    socket.setTimeout(20_000, () => socket.destroy());
    socket.on('data', (data) => (text += data.toString('latin1')));
    socket.on('error', () => undefined);
    socket.on('close', () => {
      resolve(text);
    });
  });

/** Requests of any kind: the server stands, answers in sentences, and tells nothing of the machine it runs on. */
export async function attackServer(rounds: number, seed: number): Promise<Row> {
  const count = counting('server, random requests');
  const random = randomFrom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const folder = mkdtempSync(join(tmpdir(), 'keel-attack-'));
  writeFileSync(join(folder, 'index.html'), '<!doctype html><title>Calm Keel</title>');
  const app = createServer(
    folder,
    noDevices,
    {},
    makePairing(() => undefined),
  );
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  const junk = (n: number): string => Array.from({ length: n }, () => String.fromCharCode(32 + Math.floor(random() * 95))).join('');
  for (let n = 0; n < rounds; n++) {
    const path = random() < 0.8 ? pick([...paths, ...more]) : `/${encodeURI(junk(12))}`;
    const body = random() < 0.8 ? pick(bodies) : junk(Math.floor(random() * 2000));
    const head = [
      `${pick(methods)} ${path} HTTP/1.1`,
      `Host: ${random() < 0.8 ? `127.0.0.1:${port}` : pick(['elsewhere.test', '', '127.0.0.1.elsewhere.test'])}`,
      `Content-Type: ${pick(['application/json', 'application/zip', 'text/plain', 'application/json; charset=utf-99'])}`,
      ...(random() < 0.2 ? [`Origin: ${pick(['http://elsewhere.test', 'null'])}`] : []),
      ...(random() < 0.1 ? [`Cookie: keel-pair=${junk(8)}`] : []),
      `Content-Length: ${random() < 0.9 ? Buffer.byteLength(body) : Math.floor(random() * 5000)}`,
      'Connection: close',
    ];
    const bytes = Buffer.from(`${head.join('\r\n')}\r\n\r\n${body}`);
    const text = await raw(port, random() < 0.1 ? bytes.subarray(0, Math.floor(random() * bytes.length)) : bytes);
    const status = Number(/^HTTP\/1\.1 (\d{3})/.exec(text)?.[1] ?? 0);
    if (/node_modules|\bat [\w.<>]+ \(|[A-Z]\w*Error:|\/server\/src|keel-attack-/.test(text))
      count.fault('tells of itself', `${head[0] ?? ''} ${text.slice(0, 300)}`);
    else if (status >= 500 && status !== 503) count.fault('fails', `${head[0] ?? ''} ${body.slice(0, 60)}`);
    else count.came(status === 0 ? 'no answer to half a request' : `${Math.floor(status / 100)}xx`);
  }
  if (!(await fetch(`http://127.0.0.1:${port}/health`)).ok) count.fault('crash', 'does not answer any more');
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
  rmSync(folder, { recursive: true, force: true });
  return count.row();
}
