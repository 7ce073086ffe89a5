/** The speed table. Ratios come from one run on one machine; nothing here fails a test. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensurePackages, root, run } from './common.mjs';

await ensurePackages();
const read = await run(process.execPath, ['--import', 'tsx', 'tools/bench/read-log.ts'], { cwd: root });
// Bundled as in the page: what is measured is what runs there, not a loader's getters.
const folder = mkdtempSync(join(tmpdir(), 'keel-bench-'));
const file = join(folder, 'settings.mjs');
await run(
  `${root}node_modules/.bin/esbuild`,
  ['tools/bench/settings.ts', '--bundle', '--platform=node', '--format=esm', '--minify', '--log-level=warning', `--outfile=${file}`],
  {
    cwd: root,
  },
);
const settings = await run(process.execPath, [file], { cwd: root });
rmSync(folder, { recursive: true, force: true });
const drag = await run(process.execPath, ['tools/bench/drag.mjs'], { cwd: root });
process.exit(read.code || settings.code || drag.code);
