/**
 * Renews the pictures in docs/screenshots from the demo data. `--compare` leaves them as they are, takes new ones beside them, and tells what
 * is otherwise: a help to somebody who looks, no gate.
 */
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import pixelmatch from 'pixelmatch';
import { PNG } from 'pngjs';
import { ensureBuilt, ensureChromium, ensurePackages, root, run } from './common.mjs';

await ensurePackages();
const chromium = await ensureChromium();
await ensureBuilt();
const kept = `${root}docs/screenshots`;
const compare = process.argv.includes('--compare');
const folder = compare ? `${root}e2e/test-results/shots` : kept;
if (compare) rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
// The pictures lie outside of what Playwright clears away before it begins.
const { code } = await run(`${root}node_modules/.bin/playwright`, ['test', '--project=shots', `--output=${root}e2e/test-results/shots-run`], {
  cwd: `${root}e2e`,
  env: { CHROME_BIN: chromium, SHOTS: folder },
});
if (compare && code === 0) for (const line of differences()) console.log(line);
process.exit(code);

/** A line a picture that is new, gone, or otherwise; the places are painted red in the file it names. */
function differences() {
  const names = new Set([...readdirSync(kept), ...readdirSync(folder)].filter((name) => name.endsWith('.png') && !name.endsWith('.changed.png')));
  const lines = [...names].sort().flatMap((name) => {
    if (!existsSync(`${kept}/${name}`)) return [`${name} is new`];
    if (!existsSync(`${folder}/${name}`)) return [`${name} was not taken`];
    const [before, after] = [kept, folder].map((at) => PNG.sync.read(readFileSync(`${at}/${name}`)));
    if (!before || !after) return [];
    if (before.width !== after.width || before.height !== after.height)
      return [`${name} is ${after.width} × ${after.height}, it was ${before.width} × ${before.height}`];
    const painted = new PNG({ width: after.width, height: after.height });
    const pixels = pixelmatch(before.data, after.data, painted.data, after.width, after.height, { threshold: 0.1 });
    if (pixels === 0) return [];
    const file = `${folder}/${name.replace('.png', '.changed.png')}`;
    writeFileSync(file, PNG.sync.write(painted));
    return [`${name} is otherwise in ${((100 * pixels) / (after.width * after.height)).toFixed(2)} % of it: ${file.slice(root.length)}`];
  });
  return lines.length > 0 ? lines : ['No picture has changed.'];
}
