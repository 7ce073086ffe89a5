import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import { get as secureGet, createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import { X509Certificate } from 'node:crypto';
import express from 'express';
import { noDevices } from '@calm-keel/wire';
import { createServer } from '../server';
import { certificate, invitation, lanAddresses } from './lan';
import { makePairing, type Pairing } from './pairing';
import { exchangeRoutes } from './routes';

const zip = Buffer.from('PK\u0003\u0004 a job', 'latin1');
const listen = async (app: ReturnType<typeof createServer>): Promise<{ server: Server; base: string }> => {
  const server = app.listen(0, '0.0.0.0');
  await new Promise((resolve) => server.once('listening', resolve));
  return { server, base: `http://127.0.0.1:${(server.address() as AddressInfo).port}` };
};
/** An address of this machine that is not the loopback one: what a phone would come by. */
const outside = Object.values(networkInterfaces())
  .flat()
  .find((i) => i?.family === 'IPv4' && !i.internal)?.address;

describe('pairing', () => {
  let now = 0;
  let shown: string[] = [];
  let pairing: Pairing;
  beforeEach(() => {
    now = 1_000_000;
    shown = [];
    pairing = makePairing(
      (code) => shown.push(code),
      () => now,
    );
  });

  const tokenOf = (tried: ReturnType<Pairing['pair']>): string | undefined => (typeof tried === 'string' ? undefined : tried.token);

  it('takes a code once, spaces and all, and shows another one then', () => {
    const code = pairing.code();
    expect(code).toMatch(/^\d{6}$/);
    const token = tokenOf(pairing.pair(`${code.slice(0, 3)} ${code.slice(3)}`));
    expect(pairing.isPaired(token)).toBeTrue();
    expect(pairing.pair(code)).toBe('wrong');
    expect(shown.length).toBe(2);
  });

  it('lets a code grow old, and a pairing too', () => {
    const code = pairing.code();
    const token = tokenOf(pairing.pair(code));
    now += 25 * 3600_000;
    expect(pairing.isPaired(token)).toBeFalse();
    const second = pairing.code();
    now += 11 * 60_000;
    expect(pairing.pair(second)).toBe('wrong');
    expect(pairing.code()).not.toBe(second);
  });

  it('takes no code after ten wrong ones until the next is shown, and wrong ones never make it show one', () => {
    const code = pairing.code();
    const wrong = code === '000000' ? '000001' : '000000';
    for (let i = 0; i < 10; i++) expect(pairing.pair(wrong)).toBe('wrong');
    for (let i = 0; i < 5; i++) expect(pairing.pair(code)).toBe('closed');
    expect([pairing.code(), shown]).toEqual([code, [code]]);
    now += 10 * 60_000 + 1;
    const next = pairing.code();
    expect(shown).toEqual([code, next]);
    for (let i = 0; i < 9; i++) pairing.pair(next === wrong ? '000002' : wrong);
    expect(tokenOf(pairing.pair(next))).toBeDefined();
    expect(pairing.isPaired(undefined)).toBeFalse();
    expect(pairing.isPaired('made up')).toBeFalse();
  });
});

describe('the exchange', () => {
  const pairing = makePairing(() => undefined);
  let server: Server;
  let base: string;
  beforeAll(async () => {
    ({ server, base } = await listen(createServer(mkdtempSync(join(tmpdir(), 'keel-')), noDevices, {}, pairing)));
  });
  afterAll(() => server.close());
  const put = (id: string, body: Buffer, name = 'Launch', at = base): Promise<Response> =>
    fetch(`${at}/api/exchange/${id}?name=${encodeURIComponent(name)}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/zip' },
      body: new Uint8Array(body),
    });

  it('keeps a job for the other device, as it was given', async () => {
    expect((await put('teasel', zip)).status).toBe(200);
    const { offers } = (await (await fetch(`${base}/api/exchange`)).json()) as { offers: { id: string; from: string; size: number }[] };
    expect(offers).toEqual([jasmine.objectContaining({ id: 'teasel', name: 'Launch', from: 'here', size: zip.length })]);
    expect(Buffer.from(await (await fetch(`${base}/api/exchange/teasel/here`)).arrayBuffer())).toEqual(zip);
    expect((await fetch(`${base}/api/exchange/other/here`)).status).toBe(404);
  });

  it('refuses what is no bundle, has no name, or an id that leads elsewhere', async () => {
    expect((await put('teasel', Buffer.from('hello'))).status).toBe(400);
    expect((await put('teasel', zip, '')).status).toBe(400);
    expect((await put('..%2f..%2fx', zip)).status).toBe(400);
    expect((await fetch(`${base}/api/exchange/teasel?name=x`, { method: 'PUT', body: 'PK' })).status).toBe(400);
  });

  it('has no room without end', async () => {
    const app = express();
    app.use('/api/exchange', exchangeRoutes(pairing, 400));
    const small = await listen(app);
    const big = Buffer.concat([zip, Buffer.alloc(150)]);
    expect((await put('a', big, 'A', small.base)).status).toBe(200);
    expect((await put('b', big, 'B', small.base)).status).toBe(200);
    const full = await put('c', big, 'C', small.base);
    expect([full.status, ((await full.json()) as { text: string }).text]).toEqual([413, jasmine.stringContaining('as a file')]);
    // The same job again takes the place of the one that waits.
    expect((await put('a', big, 'A', small.base)).status).toBe(200);
    small.server.close();
  });

  it('lets nobody from outside in who has not paired: not to the exchange, not to devices', async () => {
    if (outside === undefined) return pending('this machine has no network');
    const at = base.replace('127.0.0.1', outside);
    for (const path of ['/api/exchange', '/api/link/devices', '/api/simulation'])
      expect((await fetch(at + path)).status)
        .withContext(path)
        .toBe(403);
    expect(await (await fetch(`${at}/api/pair`)).json()).toEqual({ lan: true, paired: false, here: false });
    const asked = (code: string): Promise<Response> =>
      fetch(`${at}/api/pair`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ code }) });
    expect((await asked('nonsense')).status).toBe(403);
    const cookie = (await asked(pairing.code())).headers.get('set-cookie') ?? '';
    for (const part of ['HttpOnly', 'Secure', 'SameSite=Strict']) expect(cookie).toContain(part);
    const paired = await fetch(`${at}/api/exchange`, { headers: { cookie: cookie.split(';')[0] ?? '' } });
    expect(paired.status).toBe(200);
    return undefined;
  });

  it('counts tried codes over all addresses together', async () => {
    const own = await listen(
      createServer(
        mkdtempSync(join(tmpdir(), 'keel-')),
        noDevices,
        {},
        makePairing(() => undefined),
      ),
    );
    const at = [own.base, outside === undefined ? own.base : own.base.replace('127.0.0.1', outside)];
    const statuses: number[] = [];
    for (let i = 0; i < 32; i++)
      statuses.push(
        (await fetch(`${at[i % 2] ?? ''}/api/pair`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"code":"nonsense"}' })).status,
      );
    expect(statuses.slice(0, 10)).toEqual(Array.from({ length: 10 }, () => 403));
    expect(statuses.slice(10)).toEqual(Array.from({ length: 22 }, () => 429));
    const answer = await fetch(`${own.base}/api/pair`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"code":"nonsense"}' });
    expect(((await answer.json()) as { text: string }).text).toContain('Wait a minute');
    own.server.close();
  });

  it('lets a paired phone to the devices by the address of this machine, from its own page only', async () => {
    if (outside === undefined) return pending('this machine has no network');
    const paired = makePairing(() => undefined);
    const own = await listen(createServer(mkdtempSync(join(tmpdir(), 'keel-')), noDevices, {}, paired));
    const at = own.base.replace('127.0.0.1', outside);
    const tried = paired.pair(paired.code());
    const cookie = `keel-pair=${typeof tried === 'string' ? '' : tried.token}`;
    const ask = (headers: Record<string, string>): Promise<number> => fetch(`${at}/api/link`, { headers }).then((r) => r.status);
    expect(await ask({ cookie })).toBe(200);
    expect(await ask({ cookie, origin: at })).toBe(200);
    expect(await ask({ cookie, origin: 'https://elsewhere.test' })).toBe(403);
    expect(await ask({ cookie: 'keel-pair=made-up' })).toBe(403);
    expect(await ask({})).toBe(403);
    own.server.close();
    return undefined;
  });

  it('a strange name that was made to lead to this machine opens nothing', async () => {
    const { get } = await import('node:http');
    const status = await new Promise((resolve) =>
      get(`${base}/api/exchange`, { headers: { host: 'attacker.test' } }, (response) => {
        response.resume();
        resolve(response.statusCode);
      }),
    );
    expect(status).toBe(403);
  });

  it('without a second device everything is for this machine alone', async () => {
    const alone = await listen(createServer(mkdtempSync(join(tmpdir(), 'keel-'))));
    expect(await (await fetch(`${alone.base}/api/pair`)).json()).toEqual({ lan: false, paired: true, here: true });
    const refused = await fetch(`${alone.base}/api/pair`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"code":"000000"}' });
    expect(refused.status).toBe(403);
    alone.server.close();
  });
});

describe('the certificate', () => {
  it('is made for the addresses of this machine, serves TLS, and is told with its fingerprint', async () => {
    const { key, cert, fingerprint } = await certificate(['192.0.2.7']);
    const made = new X509Certificate(cert);
    expect(made.checkIP('192.0.2.7')).toBe('192.0.2.7');
    expect(made.checkIP('192.0.2.8')).toBeUndefined();
    expect(Date.parse(made.validTo) - Date.now()).toBeLessThan(8 * 24 * 3600_000);
    expect(fingerprint).toBe(made.fingerprint256);
    const server = createSecureServer({ key, cert }, (_request, response) => response.end('hello')).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const answer = await new Promise((resolve, reject) => {
      secureGet({ port: (server.address() as AddressInfo).port, host: '127.0.0.1', ca: cert }, (response) =>
        response.on('data', (data) => resolve(String(data))),
      ).on('error', reject);
    });
    expect(answer).toBe('hello');
    server.close();
    const text = invitation(['192.0.2.7'], 4174, '123456', fingerprint);
    for (const part of ['https://192.0.2.7:4174/pair', '123 456', fingerprint]) expect(text).toContain(part);
    expect(invitation([], 4174, '123456', fingerprint)).toContain('as a file');
    expect(lanAddresses().every((a) => !a.startsWith('127.'))).toBeTrue();
  });
});
