import { build } from 'esbuild';
import { repo } from './repo';

/** Where the core stands as one file for the journeys that work a job out beforehand. */
export const coreBundle = repo('e2e/test-results/.core.mjs');

/** Made before the first journey: hundreds of small files would be loaded by every worker instead. */
export default async function makeCoreBundle(): Promise<void> {
  await build({ entryPoints: [repo('e2e/core-door.ts')], bundle: true, platform: 'node', format: 'esm', outfile: coreBundle, logLevel: 'error' });
}
