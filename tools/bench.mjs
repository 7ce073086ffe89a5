/** The speed table. Ratios come from one run on one machine; nothing here fails a test. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensurePackages, root, run } from './common.mjs';

await ensurePackages();
const accuracy = await run(process.execPath, ['--import', 'tsx', 'tools/bench/accuracy.ts'], { cwd: root });
// Bundled as in the page: what is measured is what runs there, not a loader's getters.
const folder = mkdtempSync(join(tmpdir(), 'keel-bench-'));
let failed = accuracy.code;
for (const source of ['read-log.ts', 'settings.ts', 'rehearse.ts', 'practice.ts', 'ode.mjs']) {
  const file = join(folder, source.replace(/\.\w+$/, '.mjs'));
  await run(
    `${root}node_modules/.bin/esbuild`,
    [
      `tools/bench/${source}`,
      '--bundle',
      '--platform=node',
      '--format=esm',
      '--minify',
      '--log-level=error',
      `--outfile=${file}`,
      `--banner:js=import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);`,
    ],
    { cwd: root },
  );
  failed ||= (await run(process.execPath, [file], { cwd: root })).code;
}
rmSync(folder, { recursive: true, force: true });
for (const script of ['drag.mjs', 'study.mjs', 'stations.mjs', 'memory.mjs'])
  failed ||= (await run(process.execPath, [`tools/bench/${script}`], { cwd: root })).code;
failed ||= (await run(process.execPath, ['--import', 'tsx', 'tools/bench/kills.ts'], { cwd: root })).code;
failed ||= (await run(process.execPath, ['--import', 'tsx', 'tools/papers/bench.ts'], { cwd: root })).code;
process.exit(failed);
