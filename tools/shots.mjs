/** Renews the pictures in docs/screenshots from the demo data. */
import { buildAll, ensureChromium, ensurePackages, root, run } from './common.mjs';

await ensurePackages();
const chromium = await ensureChromium();
await buildAll({ quiet: true });
const { code } = await run(`${root}node_modules/.bin/playwright`, ['test', '--project=shots'], {
  cwd: `${root}e2e`,
  env: { CHROME_BIN: chromium, SHOTS: '1' },
});
process.exit(code);
