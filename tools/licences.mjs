/** Writes the licences of everything that is shipped where the page can show them. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The repository; `common.mjs` has it too, and takes this in. */
const root = fileURLToPath(new URL('..', import.meta.url));
const at = (/** @type {string} */ path) => `${root}${path}`;

/** Shipped as data or styles, and so not among what the build of the page lists. */
const besides = ['bootstrap', '@expo-google-fonts/atkinson-hyperlegible-next', 'pdfjs-dist', 'tesseract.js-core', '@tesseract.js-data/eng'];

/** A package as it lies installed: its name, version, licence by name and text. @param {string} name */
function licenceOf(name) {
  const folder = at(`node_modules/${name}`);
  const { version, license } = /** @type {{version: string, license?: string}} */ (JSON.parse(readFileSync(`${folder}/package.json`, 'utf8')));
  const file = readdirSync(folder).find((entry) => /^(licen[sc]e|ofl)(\..*)?$/i.test(entry));
  return `Package: ${name}\nVersion: ${version}\nLicense: ${license ?? 'see its text'}\n\n${file ? readFileSync(`${folder}/${file}`, 'utf8').trim() : '(no text beside it)'}\n`;
}

/** Names of the packages that server, devices and shell door need to run, as the lock file has them. */
function runtimePackages() {
  const { packages } = /** @type {{packages: Record<string, {dev?: boolean, devOptional?: boolean, optional?: boolean, link?: boolean}>}} */ (
    JSON.parse(readFileSync(at('package-lock.json'), 'utf8'))
  );
  return Object.entries(packages)
    .filter(([path, entry]) => path.startsWith('node_modules/') && !entry.dev && !entry.devOptional && !entry.link && existsSync(at(path)))
    .map(([path]) => path.slice('node_modules/'.length))
    .filter((name) => !name.includes('/node_modules/'));
}

/** Puts the list beside the built page, and has it kept for offline use like everything else there. False when that failed. */
export function writeLicences() {
  const line = `${'-'.repeat(80)}\n`;
  const own = `Calm Keel\n\n${readFileSync(at('LICENSE'), 'utf8').trim()}\n`;
  const page = readFileSync(at('app/dist/3rdpartylicenses.txt'), 'utf8').trim();
  const inPage = new Set([...page.matchAll(/^Package: (.*)$/gm)].map((m) => m[1]));
  const others = [...new Set([...besides, ...runtimePackages()])].filter((name) => !inPage.has(name)).sort();
  writeFileSync(
    at('app/dist/browser/licences.txt'),
    [own, `In the page\n\n${page}\n`, `Fonts, styles, server and shell\n`, ...others.map(licenceOf)].join(line),
  );
  return spawnSync(at('node_modules/.bin/ngsw-config'), ['app/dist/browser', 'app/ngsw-config.json'], { cwd: root }).status === 0;
}
