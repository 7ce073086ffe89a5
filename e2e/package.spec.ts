import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import { bringLog, expect, goTo, repo, saved, test } from './keel';
import { freePorts, started } from './servers';
import { allKept } from './worker';

// Neither has devices beside it, and the site no server at all: what is asked below /api/ is not there.
test.use({ serviceWorkers: 'allow', serverStops: true });
test.describe.configure({ mode: 'serial' });

let folder = '';
const packed = (path: string): string => join(folder, path);
const named = (ending: string): string =>
  packed(readdirSync(folder).find((name) => name.startsWith('calm-keel-') && name.endsWith('-site') === (ending === 'site'))!);

test.beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'keel-package-'));
  const port = await freePorts(1);
  execFileSync(process.execPath, [repo('tools/package.mjs'), '--out', folder], { env: { ...process.env, PORT: String(port) } });
});
test.afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

test('the packed folder runs with Node alone, away from where it was made: page and shell', { tag: '@long' }, async ({ page }) => {
  const run = named('run');
  const port = await freePorts(20);
  const env = { PORT: String(port), DEVICES_PORT: String(port + 2) };
  const server = await started(join(run, 'start.mjs'), port, '/health', { ...env, NODE_PATH: '' }, 'SIGTERM');
  try {
    await page.goto(server.base);
    await page.getByRole('button', { name: 'Open the demo' }).first().click();
    await expect(page.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();
    const { version } = JSON.parse(readFileSync(repo('package.json'), 'utf8')) as { version: string };
    const about = await page.getByRole('link', { name: `Version ${version}: what is new` }).getAttribute('href');
    expect(await (await fetch(`${server.base}/${about}`)).text()).toContain(`## ${version}`);
  } finally {
    await server.stop();
  }
  // The shell, which judges a log over its own workers.
  let judged = '';
  let code = 0;
  try {
    judged = execFileSync(
      process.execPath,
      [join(run, 'keel.mjs'), 'prove', join(run, 'demo/teasel.job.json'), join(run, 'demo/logs/teasel-freezing-dawn.csv')],
      {
        encoding: 'utf8',
        maxBuffer: 2 ** 28,
      },
    );
  } catch (error) {
    ({ status: code, stdout: judged } = error as { status: number; stdout: string });
  }
  expect([code, judged.includes('"verdict": "fail"')]).toEqual([1, true]);
  // Nothing of the sources, and nothing that leads back to them.
  expect(readdirSync(join(run, 'demo')).filter((name) => name.endsWith('.ts'))).toEqual([]);
  expect(existsSync(join(run, 'node_modules/@calm-keel'))).toBe(false);
  // A package of another version lies beside the part that needs it.
  const described = (path: string): { version: string; dependencies?: Record<string, string> } => JSON.parse(readFileSync(path, 'utf8')) as never;
  expect(described(join(run, 'cli/node_modules/piscina/package.json')).version).toBe(described(repo('cli/package.json')).dependencies?.['piscina']);
  expect(readFileSync(join(run, 'start.mjs'), 'utf8') + readFileSync(join(run, 'README.md'), 'utf8')).not.toContain(repo(''));
});

test('what is wrong on its command line is said, and nothing starts', { tag: '@long' }, () => {
  const said = (...args: readonly string[]): { status: number; stderr: string } => {
    try {
      execFileSync(process.execPath, [join(named('run'), 'start.mjs'), ...args], { stdio: 'pipe' });
      return { status: 0, stderr: '' };
    } catch (error) {
      const { status, stderr } = error as { status: number; stderr: Buffer };
      return { status, stderr: stderr.toString() };
    }
  };
  expect(said('--pork')).toEqual({ status: 2, stderr: expect.stringContaining('It takes --port NUMBER, --lan, --demo and --devices FILE.') as unknown });
  expect(said('--demo', '--devices', 'x.json')).toEqual({ status: 2, stderr: expect.stringContaining('Choose one of the two.') as unknown });
  expect(said('--port', 'x')).toEqual({ status: 2, stderr: expect.stringContaining('PORT is “x”') as unknown });
});

/** Files by the end of their name, as headers.txt speaks of them. */
const ending = 'files whose name ends in ';

/** An ordinary web server with the lines of headers.txt, and nothing below /api/. */
function serve(site: string): Promise<{ readonly base: string; readonly close: () => Promise<void> }> {
  const blocks = readFileSync(join(site, 'headers.txt'), 'utf8')
    .split('\n[')
    .slice(1)
    .map((block) => {
      const [head = '', ...lines] = block.split('\n');
      return { head: head.replace(/]$/, ''), lines: lines.filter((l) => l.includes(': ')).map((l) => l.split(/: (.*)/s).slice(0, 2) as [string, string]) };
    });
  const root = join(site, 'site');
  const app = express();
  app.use((request, response, next) => {
    if (request.path.startsWith('/api/')) {
      response.sendStatus(404);
      return;
    }
    for (const { head, lines } of blocks)
      if (head === 'every file' || head === request.path || (head.startsWith(ending) && new RegExp(head.slice(ending.length)).test(request.path)))
        for (const [name, value] of lines) response.setHeader(name, value);
    next();
  });
  app.use(express.static(root, { cacheControl: false }));
  app.get('/{*any}', (_, response) => {
    response.sendFile(join(root, 'index.html'), { cacheControl: false });
  });
  const server = createServer(app);
  return new Promise((resolve) => {
    void freePorts(1).then((port) =>
      server.listen(port, '127.0.0.1', () => {
        resolve({
          base: `http://127.0.0.1:${port}`,
          close: () =>
            new Promise((done) => {
              server.close(() => {
                done();
              });
              server.closeAllConnections();
            }),
        });
      }),
    );
  });
}

test('the static site with its header lines is the whole application, kept for when its server is gone', { tag: '@long' }, async ({ page }) => {
  const site = await serve(named('site'));
  const hashed = readdirSync(join(named('site'), 'site')).find((name) => /-[A-Z0-9]{8}\.js$/.test(name))!;
  const sent = async (path: string): Promise<Headers> => (await fetch(site.base + path)).headers;
  expect((await sent(`/${hashed}`)).get('cache-control')).toBe('public, max-age=31536000, immutable');
  expect((await sent('/')).get('cache-control')).toBe('no-cache');
  expect((await sent('/')).get('content-security-policy')).toContain("script-src 'self'");
  expect((await sent('/')).get('content-security-policy')).not.toContain('unsafe-eval');
  expect((await sent('/ocr/worker.min.js')).get('content-security-policy')).toContain('wasm-unsafe-eval');
  for (const written of ['site/.htaccess', 'locations.conf']) {
    const text = readFileSync(join(named('site'), written), 'utf8');
    for (const value of ['public, max-age=31536000, immutable', 'no-cache', 'wasm-unsafe-eval', 'nosniff']) expect(text).toContain(value);
  }
  await page.goto(`${site.base}/library`);
  await expect(page.getByRole('link', { name: /^Tessick D30/ })).toBeVisible();
  await page.goto(site.base);
  await page.getByRole('button', { name: 'Open the demo' }).first().click();
  await expect(page.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();
  await allKept(page);
  await page.reload();
  await site.close();
  await page.goto(`${site.base}/job/teasel/spec`);
  await page.getByLabel('Absorb voltage, as printed', { exact: true }).click();
  await page.getByLabel('Target').fill('28.2');
  await saved(page);
  await goTo(page, 'Prove');
  await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
  await expect(page.getByRole('row', { name: /Fails No charge when cold Solar aft/ })).toBeVisible();
});
