/** Writes the JSON Schemas of every file format into docs/schemas, from the schemas the program itself goes by. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { buildAll, ensurePackages, root, run } from './common.mjs';

await ensurePackages();
await buildAll({ quiet: true });
mkdirSync(`${root}docs/schemas`, { recursive: true });
for (const name of ['job', 'card', 'sheet', 'mapping', 'settings', 'backup', 'copy']) {
  const { code, output } = await run(process.execPath, [`${root}cli/dist/keel.js`, 'schema', name], { capture: true, quiet: true });
  if (code !== 0) process.exit(code);
  writeFileSync(`${root}docs/schemas/${name}.json`, output);
}
