/** What every command of this repository needs: running things, and setting up what is missing. */
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { writeLicences } from './licences.mjs';

export const root = fileURLToPath(new URL('..', import.meta.url));
const at = (/** @type {string} */ path) => `${root}${path}`;

/**
 * Runs a program in the repository and waits. Returns its exit code and, with `capture`, what it printed. One that has written the file `last`,
 * its results, and does not end within half a minute is ended.
 *
 * @param {string} program
 * @param {string[]} args
 * @param {{cwd?: string, env?: NodeJS.ProcessEnv, capture?: boolean, quiet?: boolean, last?: string}} options
 * @returns {Promise<{code: number, output: string}>}
 */
export function run(program, args, { cwd = root, env = {}, capture = false, quiet = false, last = '' } = {}) {
  return new Promise((resolve) => {
    const child = spawn(program, args, { cwd, env: { ...process.env, ...env }, stdio: ['ignore', capture ? 'pipe' : 'inherit', capture ? 'pipe' : 'inherit'] });
    let output = '';
    for (const stream of [child.stdout, child.stderr])
      stream?.on('data', (/** @type {Buffer} */ data) => {
        output += data.toString();
        if (!quiet) process.stdout.write(data);
      });
    let since = 0;
    const watch =
      last &&
      setInterval(() => {
        if (!existsSync(last)) return;
        since ||= Date.now();
        if (Date.now() - since > 30_000) child.kill();
      }, 1000);
    child.on('close', () => clearInterval(watch || undefined));
    child.on('error', (error) => resolve({ code: 127, output: `${output}${error.message}` }));
    child.on('close', (code) => resolve({ code: code ?? 1, output }));
  });
}

/** Installs packages when the lock file is not the one that is installed. */
export async function ensurePackages() {
  if (Number(process.versions.node.split('.')[0]) < 20) fail(`Calm Keel needs Node 20 or later; this is ${process.versions.node}.`);
  const stamp = at('node_modules/.calm-keel-lock');
  const lock = createHash('sha256')
    .update(readFileSync(at('package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing packages (once, about a minute).');
  const { code } = await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  if (code !== 0) fail('npm ci failed. Check the network connection and what it printed above.');
  writeFileSync(stamp, lock);
}

/** Path of a Chromium; installs Debian's when it is missing and this user may. */
export async function ensureChromium() {
  const found = [process.env.CHROME_BIN, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find((path) => path && existsSync(path));
  if (found) return found;
  const debian = spawnSync('apt-get', ['--version']).status === 0;
  if (!debian || process.getuid?.() !== 0) fail('The tests need Chromium. Install it (Debian: sudo apt-get install chromium) or set CHROME_BIN to one.');
  console.log('Installing Chromium from Debian’s packages.');
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env });
  const { code } = await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], { env, capture: true, quiet: true });
  if (code !== 0 || !existsSync('/usr/bin/chromium')) fail('Chromium could not be installed. Install it by hand, or set CHROME_BIN to one.');
  return '/usr/bin/chromium';
}

/** Debian's own reader of PDFs: a second opinion on what the reports say. Installs it when it is missing and this user may. */
export async function ensurePdfReader() {
  if (spawnSync('pdftotext', ['-v']).status === 0) return;
  const debian = spawnSync('apt-get', ['--version']).status === 0;
  if (!debian || process.getuid?.() !== 0) fail('The tests read PDFs with pdftotext. Install it (Debian: sudo apt-get install poppler-utils).');
  console.log('Installing poppler-utils from Debian’s packages.');
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env });
  const { code } = await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'poppler-utils'], { env, capture: true, quiet: true });
  if (code !== 0) fail('poppler-utils could not be installed. Install it by hand.');
}

/** What makes serial lines without wires. Specs of such lines wait for it where it cannot be had; the rest runs without. */
export async function ensureSerialLines() {
  if (spawnSync('socat', ['-V'], { stdio: 'ignore' }).status === 0) return;
  if (spawnSync('apt-get', ['--version']).status !== 0 || process.getuid?.() !== 0) {
    console.log('Without socat the specs of serial lines are left out (Debian: sudo apt-get install socat).');
    return;
  }
  console.log('Installing socat from Debian’s packages.');
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env, capture: true, quiet: true });
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'socat'], { env, capture: true, quiet: true });
}

/** Puts shipped cards, sheets, demo jobs and the fonts of PDFs where the application can fetch them. */
export function copyData() {
  for (const name of ['library', 'demo', 'fonts', 'pdf-fonts', 'ocr']) {
    rmSync(at(`app/public/${name}`), { recursive: true, force: true });
    mkdirSync(at(`app/public/${name}`), { recursive: true });
  }
  // One file of all cards and one of all sheets: whatever lies in library/ is shipped.
  for (const name of ['cards', 'sheets']) {
    const files = readdirSync(at(`library/${name}`)).filter((file) => file.endsWith('.json'));
    const all = files.map((file) => /** @type {unknown} */ (JSON.parse(readFileSync(at(`library/${name}/${file}`), 'utf8'))));
    writeFileSync(at(`app/public/library/${name}.json`), JSON.stringify(all));
  }
  for (const name of ['teasel.job.json', 'rook-moss.job.json', 'skarrow.job.json', 'tumbler.job.json', 'logs'])
    cpSync(at(`demo/${name}`), at(`app/public/demo/${name}`), { recursive: true });
  // The web fonts lack signs that reports use; these are the whole faces, for the PDF alone.
  for (const face of ['400Regular', '700Bold'])
    cpSync(
      at(`node_modules/@expo-google-fonts/atkinson-hyperlegible-next/${face}/AtkinsonHyperlegibleNext_${face}.ttf`),
      at(`app/public/fonts/AtkinsonHyperlegibleNext_${face}.ttf`),
    );
  cpSync(at('CHANGELOG.md'), at('app/public/changes.txt'));
  // The reader of pictures: its worker, its program, and what it knows of letters.
  for (const file of [
    'tesseract.js/dist/worker.min.js',
    'tesseract.js-core/tesseract-core-simd-lstm.wasm.js',
    '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz',
  ])
    cpSync(at(`node_modules/${file}`), at(`app/public/ocr/${file.slice(file.lastIndexOf('/') + 1)}`));
  // Faces of documents that bring none of their own.
  cpSync(at('node_modules/pdfjs-dist/standard_fonts'), at('app/public/pdf-fonts'), { recursive: true });
}

/** One program of ours as one file, for Node. @param {string[]} args @returns {[string, string[], {cwd?: string}]} */
const bundled = (/** @type {string[]} */ ...args) => ['esbuild', [...args, '--bundle', '--platform=node', '--format=esm', '--log-level=warning'], {}];

/** Builds application, server, simulated devices and shell door. */
export async function buildAll({ quiet = false } = {}) {
  copyData();
  rmSync(at('app/dist/.inputs'), { force: true });
  // Packages stay outside; our own folders do not.
  const own = ['--alias:@calm-keel/core=./core/src', '--alias:@calm-keel/wire=./wire/src/index.ts'];
  const require = `--banner:js=import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);`;
  /** @type {[string, string[], {cwd?: string}][]} */
  const parts = [
    ['ng', ['build'], { cwd: at('app') }],
    bundled('server/src/main.ts', '--packages=external', ...own, '--outfile=server/dist/main.js'),
    bundled('devices/src/main.ts', '--packages=external', ...own, '--outfile=devices/dist/main.js'),
    bundled(
      'keel=cli/src/main.ts',
      'prove-worker=cli/src/prove-worker.ts',
      '--external:piscina',
      '--external:pdfjs-dist',
      '--external:serialport',
      '--external:mqtt',
      '--external:modbus-serial',
      '--splitting',
      '--outdir=cli/dist',
      require,
    ),
  ];
  for (const [program, args, options] of parts) {
    const { code, output } = await run(at(`node_modules/.bin/${program}`), args, { ...options, capture: quiet, quiet });
    if (code !== 0) fail(`${output}\nBuilding failed at: ${program} ${args[0] ?? ''}`);
  }
  if (!writeLicences()) fail('The list of files for offline use could not be made anew.');
  writeFileSync(at('app/dist/.inputs'), builtFrom());
}

/** A fingerprint of everything that goes into the build. */
function builtFrom() {
  const hash = createHash('sha256');
  for (const folder of [
    'app/src',
    'app/public',
    'core/src',
    'server/src',
    'wire/src',
    'devices/src',
    'cli/src',
    'package-lock.json',
    'package.json',
    'CHANGELOG.md',
    'app/angular.json',
    'app/ngsw-config.json',
  ]) {
    const path = at(folder);
    const inside = statSync(path).isDirectory() ? readdirSync(path, { recursive: true, encoding: 'utf8' }).sort() : [''];
    for (const name of inside) {
      const file = name ? `${path}/${name}` : path;
      if (!name.endsWith('.spec.ts') && statSync(file).isFile()) hash.update(name).update(readFileSync(file));
    }
  }
  return hash.digest('hex');
}

/** Builds when anything has changed since the last build; says what it did. */
export async function ensureBuilt() {
  copyData();
  const stamp = at('app/dist/.inputs');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === builtFrom()) return 'nothing has changed since the last build';
  await buildAll({ quiet: true });
  return 'built anew';
}

/** How specs in Node are run: through the loader, with patience, and not those of packages. @param {readonly string[]} patterns */
export const jasmineArgs = (patterns) => [
  '--import',
  'tsx',
  'node_modules/jasmine/bin/jasmine.js',
  '--helper=tools/test/patience.mjs',
  ...patterns,
  '!**/node_modules/**',
];

/** @param {string} sentence @returns {never} */
function fail(sentence) {
  console.error(sentence);
  process.exit(1);
}
