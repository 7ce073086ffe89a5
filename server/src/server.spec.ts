import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer, keepOpen } from './server.js';

describe('the server', () => {
  let server: Server;
  let base: string;

  beforeAll(async () => {
    const folder = mkdtempSync(join(tmpdir(), 'keel-'));
    writeFileSync(join(folder, 'index.html'), `<!doctype html><title>Calm Keel</title>${'x'.repeat(5000)}`);
    writeFileSync(join(folder, 'main-ABCDEFGH.js'), 'export {};');
    mkdirSync(join(folder, 'ocr'));
    for (const name of ['ocr/worker.min.js', 'ocr/other.js', 'worker.min.js']) writeFileSync(join(folder, name), 'void 0;');
    server = keepOpen(createServer(folder).listen(0, '127.0.0.1'));
    await new Promise((resolve) => server.once('listening', resolve));
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(() => server.close());

  it('answers health', async () => {
    expect(await (await fetch(`${base}/health`)).json()).toEqual({ ok: true });
  });

  it('leaves it to the browser, which lets go after five minutes, to end an idle connection', async () => {
    // Ended from here at the moment a write begins, the write would be lost with it.
    const said = /timeout=(\d+)/.exec((await fetch(`${base}/health`)).headers.get('keep-alive') ?? '');
    expect(Number(said?.[1])).toBeGreaterThan(300);
  });

  it('sends the page for every route of the application, and 404 for files it has not', async () => {
    for (const path of ['/', '/job/teasel/settings', '/anything']) {
      const response = await fetch(base + path);
      expect(response.status).toBe(200);
      expect(await response.text()).toContain('Calm Keel');
    }
    expect((await fetch(`${base}/missing.js`)).status).toBe(404);
    expect((await fetch(`${base}/..%2f..%2fpackage.json`)).status).not.toBe(200);
  });

  it('allows scripts from itself only, without eval, and no framing', async () => {
    const policy = (await fetch(base)).headers.get('content-security-policy') ?? '';
    expect(policy).toContain("script-src 'self'");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toContain('unsafe-eval');
    expect(/script-src [^;]*/.exec(policy)?.[0]).not.toContain('unsafe-inline');
  });

  it('lets the reader of pictures run its compiled program, and nothing else of it and nobody else', async () => {
    const policy = async (path: string): Promise<string> => (await fetch(base + path)).headers.get('content-security-policy') ?? '';
    expect(await policy('/ocr/worker.min.js')).toBe("default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'");
    for (const path of ['/ocr/other.js', '/main-ABCDEFGH.js', '/worker.min.js'])
      expect(await policy(path))
        .withContext(path)
        .not.toContain('eval');
  });

  it('compresses, and lets only hashed files be kept for good', async () => {
    const page = await fetch(base, { headers: { 'accept-encoding': 'gzip' } });
    expect(page.headers.get('content-encoding')).toBe('gzip');
    expect(page.headers.get('cache-control')).toBe('no-cache');
    expect((await fetch(`${base}/main-ABCDEFGH.js`)).headers.get('cache-control')).toContain('immutable');
  });

  it('answers what cannot be read in a sentence, without a path or a trace of the program', async () => {
    const json = { 'content-type': 'application/json' };
    for (const [path, init] of [
      ['/%', {}],
      ['/%E0%A4%A', {}],
      ['/api/%', {}],
      ['/api/pair', { method: 'POST', headers: json, body: '{"code":' }],
      ['/api/pair', { method: 'POST', headers: json, body: JSON.stringify({ code: 'x'.repeat(5000) }) }],
      ['/api/exchange/%', { method: 'PUT' }],
      ['/api/link/devices/%/values', {}],
    ] as const) {
      const response = await fetch(base + path, init);
      expect([400, 404, 413]).withContext(path).toContain(response.status);
      const text = await response.text();
      expect(text)
        .withContext(path)
        .not.toMatch(/node_modules|\/server\/|at \w+ \(|Error:/);
      expect(text.length).withContext(path).toBeGreaterThan(10);
    }
  });

  it('says in words that nothing is built yet', async () => {
    const empty = createServer(mkdtempSync(join(tmpdir(), 'keel-'))).listen(0, '127.0.0.1');
    await new Promise((resolve) => empty.once('listening', resolve));
    const response = await fetch(`http://127.0.0.1:${(empty.address() as AddressInfo).port}/`);
    expect([response.status, await response.text()]).toEqual([503, 'The application is not built yet. Run: npm run build']);
    empty.close();
  });
});
