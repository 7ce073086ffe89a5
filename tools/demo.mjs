/** Fresh clone to running application: installs, builds, starts. Opens nothing by itself. */
import { buildAll, ensurePackages, root, run } from './common.mjs';

await ensurePackages();
console.log('Building (about half a minute).');
await buildAll({ quiet: true });
console.log('Choose “Open the demo” on the Jobs page to get the demo jobs. Stop with Ctrl+C.');
const { code } = await run(process.execPath, ['server/dist/main.js'], { cwd: root });
process.exit(code);
