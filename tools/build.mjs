import { buildAll, ensurePackages } from './common.mjs';

await ensurePackages();
await buildAll();
