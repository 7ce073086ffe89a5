/**
 * One folder that runs with Node alone, without installing, and the same application as a static site with its header lines: npm run package
 *
 *   --out FOLDER   where they are put (dist)
 */
import { spawn } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt, ensurePackages, root } from './common.mjs';
import { copyPackages, packagesOf } from './package/copy.mjs';
import { asBlocks, asHtaccess, asText, isHashed, rulesOf } from './package/site.mjs';

const { out = 'dist' } = parseArgs({ options: { out: { type: 'string' } } }).values;
const { version } = /** @type {{version: string}} */ (JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')));
await ensurePackages();
console.log(`Building: ${await ensureBuilt()}.`);

const folder = resolve(root, out, `calm-keel-${version}`);
const site = resolve(root, out, `calm-keel-${version}-site`);
for (const made of [folder, site]) {
  rmSync(made, { recursive: true, force: true });
  mkdirSync(made, { recursive: true });
}
const put = (/** @type {string} */ from, /** @type {string} */ to = from) => cpSync(join(root, from), join(folder, to), { recursive: true });
for (const path of ['app/dist/browser', 'server/dist', 'devices/dist', 'cli/dist', 'demo', 'library', 'docs', 'LICENSE', 'CHANGELOG.md']) put(path);
for (const name of readdirSync(join(folder, 'demo'))) if (name.endsWith('.ts')) rmSync(join(folder, 'demo', name));
rmSync(join(folder, 'docs/screenshots'), { recursive: true, force: true });
put('tools/package/start.mjs', 'start.mjs');
put('tools/package/serve.mjs', 'serve.mjs');
put('docs/using-it.md', 'README.md');
writeFileSync(join(folder, 'keel.mjs'), `import './cli/dist/keel.js';\n`);
writeFileSync(join(folder, 'package.json'), `${JSON.stringify({ name: 'calm-keel', version, private: true, type: 'module' }, null, 2)}\n`);

// Of the reader of papers only what reads text, and nothing that draws.
copyPackages(
  root,
  folder,
  packagesOf(root, ['core', 'server', 'wire', 'devices', 'cli']).filter((path) => !path.includes('/@napi-rs/canvas')),
  (path) => /^node_modules\/pdfjs-dist\/(?!package\.json|legacy(\/build(\/pdf(\.worker)?\.mjs)?)?$|standard_fonts)./.test(path),
);

// The header lines of the site are those that the packed server sends.
const hashed = readdirSync(join(folder, 'app/dist/browser')).find(isHashed);
const port = Number(process.env['PORT'] ?? 4199);
const server = spawn(process.execPath, [join(folder, 'start.mjs'), '--port', String(port)], { stdio: ['ignore', 'pipe', 'pipe'] });
let said = '';
for (const stream of [server.stdout, server.stderr]) stream.on('data', (/** @type {Buffer} */ data) => (said += data.toString()));
const base = `http://127.0.0.1:${port}`;
try {
  while (server.exitCode === null && !(await fetch(`${base}/health`).catch(() => null))?.ok) await new Promise((then) => setTimeout(then, 100));
  if (server.exitCode !== null || !hashed) throw new Error(`The packed server does not start: ${said}`);
  const rules = await rulesOf(base, hashed);
  cpSync(join(folder, 'app/dist/browser'), join(site, 'site'), { recursive: true });
  writeFileSync(join(site, 'headers.txt'), asText(rules));
  writeFileSync(join(site, 'site/.htaccess'), asHtaccess(rules));
  writeFileSync(join(site, 'locations.conf'), asBlocks(rules));
  cpSync(join(root, 'docs/using-it.md'), join(site, 'README.md'));
} finally {
  server.kill();
}
console.log(`${folder}\n  runs with Node 20 or later alone: node start.mjs\n${site}\n  goes to any web server: the folder site, with the lines of headers.txt`);
