/** Writes the JSON Schemas of every file format into docs/schemas, from the schemas the program itself goes by. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { ensurePackages, root, run } from './common.mjs';

await ensurePackages();
mkdirSync(`${root}docs/schemas`, { recursive: true });
for (const name of ['job', 'card', 'sheet', 'mapping', 'settings', 'backup', 'copy']) {
  const { code, output } = await run(process.execPath, ['--import', 'tsx', 'cli/src/main.ts', 'schema', name], { cwd: root, capture: true, quiet: true });
  if (code !== 0 || output.length === 0) process.exit(code || 1);
  writeFileSync(`${root}docs/schemas/${name}.json`, output);
}
