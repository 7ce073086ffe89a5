/** Fresh clone to running application, with simulated devices beside it: installs, builds, starts. Opens nothing by itself. `--lan` lets a paired phone on the same network in. */
import { buildAll, ensurePackages, root } from './common.mjs';
import { serve } from './package/serve.mjs';

await ensurePackages();
console.log('Building (about half a minute).');
await buildAll({ quiet: true });
console.log('Choose “Open the demo” on the Jobs page to get the demo jobs. Stop with Ctrl+C.');
serve(root, { env: process.env, lan: process.argv.includes('--lan'), simulated: true });
